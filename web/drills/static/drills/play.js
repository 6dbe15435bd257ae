// A drill as it is done: one task after the other, each answered, told and kept.
class Player {
  constructor(page) {
    this.page = page;
    this.tasks = JSON.parse(document.getElementById("drill-tasks").textContent);
    this.log = new TryLog(page);
    this.part = (id) => document.getElementById(id);
    this.at = -1;
    this.done = [];
    this.part("set").addEventListener("click", (event) => this.set(event.timeStamp));
    this.part("next").addEventListener("click", () => this.next());
    this.part("uncounted").addEventListener("click", () => this.takeBack());
    this.part("again").addEventListener("click", () => this.again());
    this.part("sound")?.addEventListener("change", (event) => {
      Touch.sound = event.target.checked;
    });
    document.addEventListener("keydown", (event) => this.key(event));
    addEventListener("online", () => this.send());
    // Opened again off-line it is the same tasks: not in the same order.
    if (document.querySelector("meta[name=taken]")) this.shuffle();
    carryAlong();
    this.send();
    if (this.tasks.length) this.next();
  }

  shuffle() {
    if (this.tasks.some((task) => task.stage === "touch")) return; // each call begins where the last ended
    for (let at = this.tasks.length - 1; at > 0; at -= 1) {
      const other = Math.floor(Math.random() * (at + 1));
      [this.tasks[at], this.tasks[other]] = [this.tasks[other], this.tasks[at]];
    }
  }

  get task() {
    return this.tasks[this.at];
  }

  next() {
    if (this.waiting) clearTimeout(this.waiting);
    this.stage?.stop?.();
    this.picture?.stop();
    this.at += 1;
    if (this.at >= this.tasks.length) {
      this.finish();
      return;
    }
    this.show();
  }

  async show() {
    const task = this.task;
    this.told = false;
    this.part("drill-name").textContent = task.name;
    this.part("count").textContent = `${this.at + 1} of ${this.tasks.length}`;
    this.part("asks").textContent = task.asks;
    this.part("hint").textContent = task.hint;
    this.part("said").replaceChildren();
    this.part("after").textContent = "";
    this.part("picture").className = "drill-picture";
    this.part("task").dataset.stage = task.stage;
    this.picture = pictureOf(task, task.asks);
    this.part("picture").replaceChildren(...(this.picture ? [this.picture.element] : []));
    const room = this.part("answer");
    room.replaceChildren();
    this.stage = null; // until the picture is there, no key answers anything
    this.part("next").hidden = true;
    this.part("uncounted").hidden = true;
    this.part("set").hidden = !["dial", "row"].includes(task.stage);
    this.part("set").disabled = true;
    const took = (at, whole) => this.answer(at, whole === true || whole === false ? performance.now() - this.since : whole, whole !== false);
    const kinds = { dial: Dial, row: Dial, choice: Choice, touch: Touch, moment: Moment };
    const current = this.at;
    if (this.picture) await this.picture.ready;
    if (current !== this.at) return;
    if (this.picture?.missing) {
      this.leaveOut();
      return;
    }
    this.stage = new kinds[task.stage](task, room, this.picture, took);
    if (this.stage.at !== undefined) this.picture?.show(this.stage.at);
    this.part("set").disabled = false;
    if (!["touch", "moment"].includes(task.stage)) (this.stage.range ?? this.part("asks")).focus({ preventScroll: true });
    requestAnimationFrame(() => {
      this.since = performance.now();
      this.part("task").dataset.shown = this.at;
    });
  }

  // Without its picture nothing can be asked, and nothing counts.
  leaveOut() {
    this.told = true;
    this.part("picture").replaceChildren();
    this.part("said").replaceChildren("Its picture is not on this device: this one is left out.");
    this.part("set").hidden = true;
    this.part("next").hidden = false;
    this.part("next").focus({ preventScroll: true });
  }

  set(when) {
    if (!this.told && this.stage?.range) this.answer(this.stage.at, when - this.since, true);
  }

  // `whole`: whether what was asked besides was right too.
  answer(at, ms, whole) {
    if (this.told) return;
    this.told = true;
    const { task } = this;
    const right = Boolean(task.right[at]) && whole;
    this.done.push({ task, right });
    const said = { drill: task.drill, part: task.part, level: task.level, ms: Math.round(Math.max(ms, 0)), right, off: task.off[at] };
    if (task.drill === "moment" && task.part === "seen") said.off = Number((ms / 1000).toFixed(3));
    if (task.said) Object.assign(said, { said: task.said[at], was: task.was });
    this.done.at(-1).key = this.log.add(said);
    this.stage.reveal();
    const seconds = task.stage === "touch" ? ` ${(ms / 1000).toFixed(1)} s.` : "";
    const shape = made("span", { className: right ? "shape holds" : "shape soft", "aria-hidden": "true" }, right ? "●" : "○");
    const but = task.right[at] && !whole ? ` ${task.then.wrong}` : "";
    this.part("said").replaceChildren(shape, ` ${task.says[at]}${seconds}${but}`);
    this.part("after").textContent = task.after;
    this.part("set").hidden = true;
    this.part("next").hidden = false;
    this.part("uncounted").hidden = false;
    this.part("next").textContent = this.at + 1 < this.tasks.length ? "Next" : "Done";
    this.part("task").dataset.told = this.at;
    const goesOn = task.stage === "touch" && this.tasks[this.at + 1]?.stage === "touch";
    if (goesOn) this.waiting = setTimeout(() => this.next(), 2200);
    else this.part("next").focus({ preventScroll: true });
    this.part("next").scrollIntoView({ block: "nearest" });
    this.send();
  }

  // Interrupted, slipped, only looking: it does not count.
  takeBack() {
    const last = this.done.at(-1);
    if (!this.told || !last || last.task !== this.task) return;
    this.done.pop();
    if (last.key) this.log.takeBack(last.key);
    this.part("uncounted").hidden = true;
    this.part("said").append(" Not counted.");
    this.part("next").focus({ preventScroll: true });
    this.send();
  }

  async send() {
    this.part("line").textContent = this.log.line(await this.log.send());
  }

  finish() {
    this.part("task").hidden = true;
    this.part("end").hidden = false;
    const right = this.done.filter((one) => one.right).length;
    this.part("total").textContent = `${right} of ${this.done.length} right`;
    const names = [...new Set(this.done.map((one) => one.task.name))];
    const rows = names.map((name) => {
      const of = this.done.filter((one) => one.task.name === name);
      const good = of.filter((one) => one.right).length;
      return made("li", {}, made("span", {}, name), made("b", {}, `${good} of ${of.length}`));
    });
    this.part("by-drill").replaceChildren(...(names.length > 1 ? rows : []));
    this.part("count").textContent = "";
    this.part("total").focus();
  }

  // With a line there are new ones; without, the same in another order.
  again() {
    window.location.reload();
  }

  key(event) {
    if (event.ctrlKey || event.metaKey || event.altKey || this.part("end").hidden === false) return;
    if (document.getElementById("help")?.classList.contains("open")) return;
    if (event.key === "Escape") {
      window.location.assign(this.page.dataset.back);
      return;
    }
    if (this.told) {
      if (event.key === "z") this.takeBack();
      if (event.key === "Enter" && !event.target.closest("a, button")) this.next();
      return;
    }
    if (this.stage?.key?.(event)) return;
    if (this.stage?.pick && /^[1-9]$/.test(event.key)) this.stage.pick(Number(event.key));
    if (!this.stage?.range || event.target.closest("a, button")) return;
    const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
    const typing = isTyping(event.target) && event.target.type !== "range";
    if (event.key === "Enter") {
      event.preventDefault(); // else it would press the button that comes now, too
      this.set(event.timeStamp);
    } else if (by && !typing) {
      event.preventDefault();
      this.stage.go(this.stage.at + by * (event.shiftKey ? 10 : 1));
    }
  }
}

const drill = document.getElementById("drill") && new Player(document.getElementById("drill"));
