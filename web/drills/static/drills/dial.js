// How a task is answered: along an axis, by turning, by a row of a picture, by a word. All that can be
// answered is in the task, with what is said of each: nothing is worked out here.
// One of many stops in a row.
class Dial {
  constructor(task, room, picture) {
    this.task = task;
    this.picture = picture;
    this.at = task.start;
    this.last = task.labels.length - 1;
    this.range = made("input", { type: "range", min: 0, max: this.last, value: this.at, id: "stops", className: "stops", "aria-label": task.rows ? "How far up the picture" : "Your answer" });
    this.output = made("output", { className: "stop-label" });
    const step = (by, sign, name) => made("button", { type: "button", className: "step", "aria-label": name, onclick: () => this.go(this.at + by) }, sign);
    this.line = made("div", { className: "dial-line" }, step(-1, "−", "Less"), this.output, step(1, "+", "More"));
    room.append(this.range);
    room.classList.toggle("on-axis", Boolean(task.axis));
    if (task.axis) this.drawAxis(room);
    room.append(this.line);
    if (task.axis) this.offerTyping();
    if (task.view === "taken") this.offerApertures();
    this.range.addEventListener("input", () => this.go(Number(this.range.value)));
    if (picture && task.rows) this.drawRow();
    else if (picture && (task.picture.kind === "stack" || task.picture.live)) this.turns(picture.element);
    this.go(this.at);
  }

  go(at) {
    if (this.over) return;
    this.at = Math.min(Math.max(at, 0), this.last);
    this.range.value = this.at;
    const label = this.task.labels[this.at];
    this.range.setAttribute("aria-valuetext", label);
    this.output.textContent = label;
    this.handle?.setAttribute("transform", `translate(${this.task.axis?.places[this.at] ?? 0} 0)`);
    if (this.row) this.place(this.row, this.at);
    if (this.picture) this.picture.show(this.at);
  }

  // The sightline: near on the left, infinity on the right.
  drawAxis(room) {
    const { width, places } = this.task.axis;
    this.svg = sightline(this.task.axis);
    this.handle = drawn("g", { class: "handle" });
    this.handle.append(drawn("path", { d: "M0 44L-9 28V10H9V28Z" }));
    this.svg.append(this.handle);
    const put = (event) => {
      const box = this.svg.getBoundingClientRect();
      const x = ((event.clientX - box.left) / box.width) * width;
      let near = 0;
      places.forEach((place, at) => {
        if (Math.abs(place - x) < Math.abs(places[near] - x)) near = at;
      });
      this.go(near);
    };
    drags(this.svg, put, put);
    room.append(this.svg);
  }

  offerTyping() {
    const { numbers, unit } = this.task.axis;
    const says = made("p", { className: "message", role: "alert" });
    const field = made("input", { type: "text", inputMode: "decimal", className: "form-control typed", "aria-label": "Or type it", placeholder: "or type it", autocomplete: "off", maxLength: 8 });
    field.addEventListener("input", () => {
      const text = field.value.trim().toLowerCase();
      const bare = text.endsWith(unit) ? text.slice(0, -unit.length) : text;
      const wanted = /inf|∞/.test(text) ? Infinity : Number(bare.replace(",", "."));
      const wrong = text !== "" && !(wanted > 0);
      says.textContent = wrong ? `Type a number of ${unit}, such as ${numbers[this.last >> 1]}.` : "";
      field.setAttribute("aria-invalid", String(wrong));
      if (!(wanted > 0)) return;
      const off = (at) => Math.abs(1 / (numbers[at] ?? Infinity) - 1 / wanted);
      this.go(numbers.reduce((best, _, at) => (off(at) < off(best) ? at : best), 0));
    });
    this.line.append(field, says);
  }

  // A lens is looked through wide open, and taken with closed.
  offerApertures() {
    const box = made("fieldset", { className: "looks" }, made("legend", { className: "visually-hidden" }, "Look through it"));
    for (const [use, name] of [["src", "wide open"], ["after", "as it is taken"]]) {
      const button = made("button", { type: "button", className: "plain", "aria-pressed": use === this.picture.use, onclick: () => {
        this.picture.look(use);
        for (const one of box.querySelectorAll("button")) one.setAttribute("aria-pressed", one === button);
      } }, name);
      box.append(button);
    }
    this.line.after(box);
  }

  // Turned by a finger on the picture: a finger's width is a few stops.
  turns(element) {
    let from = 0;
    let start = 0;
    drags(element, (event) => {
      from = event.clientX;
      start = this.at;
    }, (event) => this.go(start + Math.round((event.clientX - from) / 7)));
  }

  drawRow() {
    const { width, height } = this.task.picture;
    this.row = drawn("g", { class: "focus-row" });
    this.row.append(drawn("path", { d: `M0 0H${width}` }), drawn("path", { class: "box", d: `M${width / 2 - 22} -16h44v32h-44z` }));
    this.picture.over.append(this.row);
    const put = (event) => {
      const box = this.picture.element.getBoundingClientRect();
      const down = (event.clientY - box.top) / box.height;
      this.go(Math.round((1 - down) * this.last));
    };
    drags(this.picture.element, put, put);
    this.height = height;
  }

  place(line, at) {
    line.setAttribute("transform", `translate(0 ${this.task.rows[at] * this.height})`);
  }

  // The truth, drawn.
  reveal() {
    this.over = true;
    this.range.disabled = true;
    for (const one of this.line.querySelectorAll("button, input")) one.disabled = true;
    const { best, axis, rows, holds, third } = this.task;
    if (axis) {
      const [there, here] = [axis.places[best], axis.places[this.at]];
      this.svg.append(drawn("path", { class: "off", d: `M${here} 20H${there}` }), drawn("path", { class: "true", d: `M${there} 2V44` }));
    }
    if (rows) {
      const { width } = this.task.picture;
      const y = (at) => rows[at] * this.height;
      const band = drawn("rect", { class: "holds", x: 0, y: y(holds[1]) - 2, width, height: y(holds[0]) - y(holds[1]) + 4 });
      const rule = drawn("path", { class: "third", d: `M0 ${y(third)}H${width}` });
      const name = drawn("text", { class: "third-name", x: 8, y: y(third) - 5 }, "a third up");
      this.picture.over.prepend(band);
      this.picture.over.append(rule, name);
    }
    this.picture?.reveal(best);
  }
}

// One of some words; and then, perhaps, one of some others.
class Choice {
  constructor(task, room, picture, chosen) {
    Object.assign(this, { task, picture, chosen });
    if (picture) picture.show(0);
    this.offer(room, task.labels, (at) => {
      this.at = at;
      this.mark(this.first, task.best, at);
      if (!task.then) return chosen(at, true);
      room.append(made("p", { className: "drill-then" }, task.then.asks));
      this.first = this.offer(room, task.then.labels, (other) => {
        this.mark(this.first, task.then.best, other);
        chosen(at, other === task.then.best);
      });
      return this.first.querySelector("button").focus();
    });
  }

  offer(room, labels, take) {
    const list = made("div", { className: "choices", role: "group" });
    labels.forEach((label, at) => {
      const number = made("span", { className: "pick-key", "aria-hidden": "true" }, String(at + 1));
      const button = made("button", { type: "button", className: "pick" }, number, label);
      button.addEventListener("click", () => take(at));
      list.append(button);
    });
    room.append(list);
    this.first = list;
    return list;
  }

  // What is right has a filled disc, what was chosen and is wrong an open one.
  mark(list, best, at) {
    const buttons = [...list.querySelectorAll("button")];
    for (const button of buttons) button.disabled = true;
    buttons[at].classList.add("chosen");
    buttons[best].classList.add("right");
    buttons[best].append(made("span", { className: "pick-mark" }, "●"));
    if (at !== best) buttons[at].append(made("span", { className: "pick-mark" }, "○"));
  }

  pick(number) {
    this.first.querySelectorAll("button:not(:disabled)")[number - 1]?.click();
  }

  // A magnified view that was only looked at has no better one beside it.
  reveal() {
    if (this.task.picture?.kind !== "stack") this.picture?.reveal(this.task.best);
  }
}
