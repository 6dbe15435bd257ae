// View: what is on the screen and nowhere else. A drag in progress, a row being added, a mark
// just removed. Everything that is worked out comes from the server.
document.addEventListener("alpine:init", () => {
  Alpine.data("view", () => ({
    removed: null,
    trouble: false,
    pointer: null,
    lifted: null,
    waiting: null,
    busy: false,
    settling: 0,
    unfolded: new Set(),
    answered: false,
    linkSays: "Copy link",

    init() {
      const results = document.getElementById("results");
      results.addEventListener("pointerdown", (event) => this.grab(event));
      results.addEventListener("pointerdown", (event) => this.lift(event));
      results.addEventListener("keydown", (event) => this.turn(event));
      results.addEventListener("keydown", (event) => this.nudge(event));
      // What was unfolded stays so when the answer is drawn again.
      this.$refs.scene.addEventListener("toggle", (event) => {
        const fold = event.target;
        if (!fold.id.startsWith("fold-")) return;
        if (!fold.open) {
          if (fold.isConnected) this.unfolded.delete(fold.id);
        } else if (!this.unfolded.has(fold.id)) {
          this.unfolded.add(fold.id);
          const outdated = this.answered && fold.querySelector("[data-out]");
          if (isEmpty(fold) || outdated) this.ask();
        }
      }, true);
      // The server sends only what this page shows.
      const narrow = window.matchMedia("(max-width: 760px)");
      narrow.addEventListener("change", () => this.ask());
      // An answer brings the messages and verdicts that still stand.
      document.addEventListener("htmx:beforeSwap", () => {
        for (const message of this.$refs.scene.querySelectorAll(".message")) {
          message.className = "message";
          message.replaceChildren();
        }
        for (const verdict of this.$refs.marks.querySelectorAll(".result")) {
          verdict.replaceChildren();
        }
      });
      document.addEventListener("htmx:configRequest", (event) => {
        event.detail.headers["Aim-Screen"] = narrow.matches ? "narrow" : "wide";
        event.detail.headers["Aim-Unfolded"] = [...this.unfolded].join(" ");
      });
      document.addEventListener("htmx:afterSwap", (event) => {
        this.moved(event);
        this.answered = true;
        let empty = false;
        for (const id of this.unfolded) {
          const fold = document.getElementById(id);
          fold?.setAttribute("open", "");
          empty ||= fold !== null && isEmpty(fold);
        }
        if (empty) this.ask(); // opened after that answer had been asked for
      });
      document.addEventListener("htmx:afterSettle", () => this.redrawn());
      document.addEventListener("htmx:sendError", () => this.failed());
      document.addEventListener("htmx:responseError", () => this.failed());
    },

    // The ring's handle -----------------------------------------------------------------

    grab(event) {
      const handle = event.target.closest(".handle");
      if (!handle || event.button !== 0) return;
      event.preventDefault();
      handle.focus();
      const svg = handle.ownerSVGElement;
      this.pointer = { id: event.pointerId, size: handle.id, x: null };
      const results = document.getElementById("results");
      results.setPointerCapture(event.pointerId);
      const move = (moved) => {
        if (moved.pointerId === this.pointer?.id) this.drag(moved);
      };
      const drop = (ended) => {
        if (ended.pointerId !== this.pointer?.id) return;
        results.removeEventListener("pointermove", move);
        results.removeEventListener("pointerup", drop);
        results.removeEventListener("pointercancel", drop);
        const dragged = this.pointer.x !== null;
        this.pointer = null;
        if (dragged) this.settleSoon(0);
      };
      results.addEventListener("pointermove", move);
      results.addEventListener("pointerup", drop);
      results.addEventListener("pointercancel", drop);
      this.pointer.axis = axisOf(svg);
    },

    drag(event) {
      const axis = this.pointer.axis;
      const svg = document.getElementById(this.pointer.size).ownerSVGElement;
      const box = svg.getBoundingClientRect();
      const x = ((event.clientX - box.left) / box.width) * axis.width;
      this.pointer.x = Math.min(Math.max(x, axis.left), axis.right);
      this.follow();
      const share = (this.pointer.x - axis.left) / (axis.right - axis.left);
      const inverse = 1 / axis.near - share * (1 / axis.near - 1 / axis.far);
      this.move({ drag_mm: inverse > 0 ? 1 / inverse : "Infinity", ...axis.ends });
    },

    // The drawn handle stays under the finger, wherever the last answer put it.
    follow() {
      document
        .getElementById(this.pointer.size)
        .setAttribute("transform", `translate(${this.pointer.x.toFixed(1)} 0)`);
    },

    turn(event) {
      const handle = event.target.closest(".handle");
      if (!handle || event.ctrlKey || event.metaKey || event.altKey) return;
      const many = event.shiftKey ? 10 : 1;
      const steps = {
        ArrowLeft: -many, ArrowDown: -many, ArrowRight: many, ArrowUp: many,
        PageDown: -10, PageUp: 10, Home: -100, End: 100,
      }[event.key];
      if (steps === undefined) return;
      event.preventDefault();
      this.move({ ring_step: steps, ...axisOf(handle.ownerSVGElement).ends });
      this.settleSoon(350);
    },

    // Marks, and the autofocus box, in the finder ---------------------------------------

    lift(event) {
      const thing = event.target.closest(".movable");
      if (!thing || event.button !== 0) return;
      event.preventDefault();
      thing.focus();
      const results = document.getElementById("results");
      const held = { id: event.pointerId, place: null };
      results.setPointerCapture(event.pointerId);
      this.lifted = { id: thing.id, x: 0, y: 0 };
      const move = (moved) => {
        if (moved.pointerId !== held.id) return;
        const svg = document.getElementById(thing.id)?.ownerSVGElement
          ?? document.querySelector(".finder");
        const box = svg.getBoundingClientRect();
        const across = Math.min(Math.max((moved.clientX - box.left) / box.width, 0), 1);
        const up = Math.min(Math.max((box.bottom - moved.clientY) / box.height, 0), 1);
        held.place = [across, up];
        this.lifted.x = across * svg.viewBox.baseVal.width;
        this.lifted.y = (1 - up) * svg.viewBox.baseVal.height;
        this.putAt(thing.dataset.for, across, up);
        this.carryLifted();
        this.move({});
      };
      const drop = (ended) => {
        if (ended.pointerId !== held.id) return;
        results.removeEventListener("pointermove", move);
        results.removeEventListener("pointerup", drop);
        results.removeEventListener("pointercancel", drop);
        this.lifted = null;
        if (held.place) this.settleSoon(0);
      };
      results.addEventListener("pointermove", move);
      results.addEventListener("pointerup", drop);
      results.addEventListener("pointercancel", drop);
    },

    // What is held stays under the finger, wherever the last answer put it.
    carryLifted() {
      const { id, x, y } = this.lifted;
      document
        .getElementById(id)
        ?.setAttribute("transform", `translate(${x.toFixed(1)} ${y.toFixed(1)})`);
    },

    putAt(which, across, up) {
      const field = which === "box_at"
        ? document.getElementById("box_at")
        : this.$refs.marks.children[Number(which)].querySelector("[name=mark_at]");
      field.value = `${(100 * across).toFixed(1)} ${(100 * up).toFixed(1)}`;
    },

    unplace(event) {
      const row = event.target.closest("[data-row]");
      row.querySelector("[name=mark_at]").value = "";
      row.querySelector(".more").focus();
      this.ask();
    },

    nudge(event) {
      const thing = event.target.closest(".movable");
      const way = {
        ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowDown: [0, -1], ArrowUp: [0, 1],
      }[event.key];
      if (!thing || !way || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      const step = event.shiftKey ? 0.05 : 0.01;
      const size = thing.ownerSVGElement.viewBox.baseVal;
      const [x, y] = thing.getAttribute("transform").match(/-?[\d.]+/g).map(Number);
      const at = [x / size.width + way[0] * step, 1 - y / size.height + way[1] * step];
      this.putAt(thing.dataset.for, ...at.map((share) => Math.min(Math.max(share, 0), 1)));
      this.ask();
    },

    pickWay(event) {
      const place = event.currentTarget.dataset.place;
      this.$refs.scene.querySelector(`[name=place][value=${place}]`).click();
    },

    chooseAperture(event) {
      document.getElementById("choose").value = event.currentTarget.dataset.choose;
      this.ask();
    },

    // At most one request of a movement is under way; the newest waits, older ones are dropped.
    move(values) {
      if (this.busy) {
        const step = this.waiting?.ring_step;
        if (step && values.ring_step) values.ring_step += step;
        this.waiting = values;
        return;
      }
      this.busy = true;
      const form = new FormData(this.$refs.scene);
      for (const [name, value] of Object.entries(values)) form.set(name, value);
      htmx
        .ajax("GET", this.$refs.scene.action.split("?")[0], {
          source: "#results", target: "#results", values: form,
        })
        .finally(() => {
          this.busy = false;
          const next = this.waiting;
          this.waiting = null;
          if (next) this.move(next);
        });
    },

    // After a movement the form holds the new setting, and the link follows.
    settleSoon(delay) {
      clearTimeout(this.settling);
      this.settling = setTimeout(() => {
        if (this.busy || this.waiting) return this.settleSoon(30);
        this.ask();
      }, delay);
    },

    // Only the answer to a movement says where the ring is now: one to the form, asked before the
    // movement began, may come in between. At once, for the next step starts from what is seen.
    moved(event) {
      if (event.detail.requestConfig?.elt?.id !== "results") return;
      document.getElementById("ring").value = document.getElementById("ring-now").dataset.text;
      if (this.pointer && this.pointer.x !== null) this.follow();
      if (this.lifted?.x) this.carryLifted();
    },

    redrawn() {
      this.trouble = false;
      for (const field of this.$refs.scene.querySelectorAll("[aria-describedby]")) {
        const message = document.getElementById(field.getAttribute("aria-describedby"));
        const wrong = message !== null && message.classList.contains("wrong");
        if (wrong) field.setAttribute("aria-invalid", "true");
        else field.removeAttribute("aria-invalid");
      }
      const scene = new URLSearchParams(new FormData(this.$refs.scene));
      const name = document.getElementById("plan-name").value;
      if (name) scene.set("name", name);
      document.getElementById("to-sheet").search = scene.toString();
      const newView = document.getElementById("new-view");
      const gear = new URLSearchParams(new FormData(this.$refs.scene));
      for (const name of [...gear.keys()]) {
        if (name.startsWith("mark_") || name === "ring") gear.delete(name);
      }
      newView.search = gear.toString();
    },

    computedAgain() {
      document.getElementById("ring").value = "";
      // A choice clicked asks by itself; the button, and a choice already made, do not.
      this.ask();
    },

    ask() {
      this.$refs.scene.dispatchEvent(new Event("change", { bubbles: true }));
    },

    again() {
      this.ask();
    },

    failed() {
      this.trouble = true;
    },

    nothing() {},

    // Aperture --------------------------------------------------------------------------

    stepAperture(event) {
      this.stopDown(Number(event.currentTarget.dataset.step));
    },

    stopDown(direction) {
      const field = document.getElementById("f_number");
      const choose = document.getElementById("choose");
      const shown = document.getElementById("aperture-now").dataset.number;
      const now = Number(choose.value === "fixed" ? field.value.replace(",", ".") : shown);
      const series = [...document.querySelectorAll("#engraved option")].map((o) => Number(o.value));
      const next = direction > 0
        ? series.find((n) => n > now)
        : series.findLast((n) => n < now);
      if (next === undefined || Number.isNaN(now)) return;
      field.value = String(next);
      choose.value = "fixed";
      this.ask();
    },

    // The tripod ------------------------------------------------------------------------

    // A step is a tenth of a metre, or half a foot, and larger once it has gone far.
    moveTripod(event) {
      const field = document.getElementById("moved");
      const feet = document.querySelector("#scene [name=units]").value === "ft";
      const now = Number.parseFloat(field.value.replace(",", ".").replace(/^[−–]/, "-")) || 0;
      const unit = feet ? 0.5 : 0.1;
      const far = Math.abs(now) >= 20 * unit ? 5 : 1;
      const moved = Math.round((now / unit + Number(event.currentTarget.dataset.step) * far)) * unit;
      field.value = moved ? `${Number(moved.toFixed(2))} ${feet ? "ft" : "m"}` : "";
      this.ask();
    },

    // What would do, tried at once.
    stepBack(event) {
      const feet = document.querySelector("#scene [name=units]").value === "ft";
      const unit = feet ? 304.8 : 1000;
      const field = document.getElementById("moved");
      const { back, moved: before } = event.currentTarget.dataset;
      const moved = (Number(before) + Number(back)) / unit;
      field.value = `${(Math.ceil(moved * 100) / 100).toFixed(2)} ${feet ? "ft" : "m"}`;
      this.ask();
    },

    takeRevised(event) {
      const { ring, number } = event.currentTarget.dataset;
      document.getElementById("ring").value = ring;
      for (const name of ["trial_soft", "trial_sharp"]) document.getElementById(name).value = "";
      if (number) {
        document.getElementById("f_number").value = number;
        document.getElementById("choose").value = "fixed";
      }
      this.ask();
    },

    cameOut(event) {
      const { letter, field } = event.currentTarget.dataset;
      const other = field === "trial_soft" ? "trial_sharp" : "trial_soft";
      const letters = new Set(document.getElementById(field).value.toUpperCase());
      if (!letters.delete(letter)) letters.add(letter);
      document.getElementById(field).value = [...letters].join("");
      const rest = document.getElementById(other);
      rest.value = rest.value.toUpperCase().replaceAll(letter, "");
      this.ask();
    },

    renumber() {
      if (!document.getElementById("moved").value) return;
      const form = new FormData(this.$refs.scene);
      form.set("renumber", "1");
      htmx
        .ajax("GET", this.$refs.scene.action.split("?")[0], {
          source: "#results", target: "#results", values: form,
        })
        .then(() => { document.getElementById("moved").value = ""; });
    },

    // Marks -----------------------------------------------------------------------------

    typed(event) {
      if (event.target.id === "f_number") document.getElementById("choose").value = "fixed";
      if (event.target.id === "lens") {
        // Another lens: what the link told of the one before does not hold for it.
        for (const name of ["lens_range", "lens_closest"]) {
          this.$refs.scene.querySelector(`[name=${name}]`).value = "";
        }
      }
      if (event.target.name === "mark_how") {
        const usual = event.target.selectedOptions[0].dataset.usual;
        event.target.closest("[data-row]").querySelector("[name=mark_error]").placeholder = usual;
      }
      const row = event.target.closest("[data-row]");
      if (row && row === this.$refs.marks.lastElementChild && event.target.value) this.addRow();
    },

    // Lines of a list pasted into a mark: a name and a distance each, apart by a tab, a semicolon
    // or the last comma.
    pasted(event) {
      const lines = event.clipboardData.getData("text/plain").split(/\r?\n/).filter((l) => l.trim());
      if (lines.length < 2 || !event.target.matches("[name^=mark_]")) return;
      event.preventDefault();
      const rows = this.$refs.marks.children;
      let at = [...rows].indexOf(event.target.closest("[data-row]"));
      for (const line of lines.slice(0, 200)) {
        const [, name, distance] = line.match(/^(.*?)\s*[\t;,]\s*([^\t;,]+(?:,\d+\s*\w*)?)$/)
          ?? [null, "", line];
        if (at === rows.length - 1) this.addRow();
        const row = rows[at++];
        row.querySelector("[name=mark_name]").value = name.trim();
        row.querySelector("[name=mark_distance]").value = distance.trim();
      }
      this.ask();
    },

    addRow() {
      const row = this.$refs.marks.lastElementChild.cloneNode(true);
      for (const input of row.querySelectorAll("input")) input.value = "";
      for (const select of row.querySelectorAll("select")) select.selectedIndex = 0;
      row.querySelector(".more-said").classList.remove("open");
      row.querySelector(".more").setAttribute("aria-expanded", "false");
      row.querySelector("[id^=verdict-]").replaceChildren();
      row.querySelector("[id^=message-]").replaceChildren();
      this.$refs.marks.append(row);
      this.letterRows();
    },

    removeMark(event) {
      const row = event.target.closest("[data-row]");
      const rows = [...this.$refs.marks.children];
      const at = rows.indexOf(row);
      const name = row.querySelector("[name=mark_name]").value;
      if (at === rows.length - 1) return;
      row.remove();
      this.removed = { row, at, name: name || "the mark" };
      this.letterRows();
      this.$refs.marks.children[at].querySelector("input").focus();
      this.ask();
    },

    get removedText() {
      return this.removed ? `Removed ${this.removed.name}.` : "";
    },

    putBack() {
      this.$refs.marks.children[this.removed.at].before(this.removed.row);
      this.removed.row.querySelector("input").focus();
      this.removed = null;
      this.letterRows();
      this.ask();
    },

    // Letters and ids go by the place in the list.
    tellMore(event) {
      const button = event.currentTarget;
      const row = button.closest("[data-row]");
      const open = row.querySelector(".more-said").classList.toggle("open");
      button.setAttribute("aria-expanded", String(open));
      if (open) row.querySelector("[name=mark_how]").focus();
    },

    letterRows() {
      [...this.$refs.marks.children].forEach((row, index) => {
        const letter = String.fromCharCode(65 + Math.min(index, 25));
        row.querySelector("[data-letter]").textContent = letter;
        for (const part of row.querySelectorAll("[id]")) {
          part.id = part.id.replace(/\d+$/, index);
        }
        for (const label of row.querySelectorAll("label")) {
          label.htmlFor = label.htmlFor.replace(/\d+$/, index);
          label.textContent = label.textContent.replace(/mark \S+/, `mark ${letter}`);
        }
        const described = row.querySelector("[aria-describedby]");
        described.setAttribute("aria-describedby", `message-mark-${index}`);
        const more = row.querySelector(".more");
        more.setAttribute("aria-controls", `more-${index}`);
        more.setAttribute("aria-label", `How far and how high mark ${letter} is`);
        row.querySelector(".remove").setAttribute("aria-label", `Remove mark ${letter}`);
      });
    },

    // Keys, and saving ------------------------------------------------------------------

    key(event) {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === "Escape" && document.getElementById("ring").value) {
        this.computedAgain();
      } else if (isTyping(event.target)) {
        return;
      } else if (event.key === "[") {
        this.stopDown(-1);
      } else if (event.key === "]") {
        this.stopDown(1);
      } else if (event.key === "n") {
        event.preventDefault();
        this.$refs.marks.lastElementChild.querySelector("input").focus();
      } else if (event.key >= "1" && event.key <= "7") {
        this.$refs.scene.querySelectorAll("[name=place]")[Number(event.key) - 1].click();
      }
    },

    // What is saved is what the form says now, not what the last answer was about.
    carry() {
      document.getElementById("state").value = this.typedScene();
    },

    carryToBag() {
      document.getElementById("hand-state").value = this.typedScene();
    },

    typedScene() {
      return new URLSearchParams(new FormData(this.$refs.scene)).toString();
    },

    // The address is the link; where the clipboard is closed to pages, it says so.
    async copyLink() {
      try {
        await navigator.clipboard.writeText(window.location.href);
        this.linkSays = "Copied";
      } catch {
        this.linkSays = "Copy the address";
      }
      setTimeout(() => { this.linkSays = "Copy link"; }, 2500);
    },

    // Another thing from the bag: the page comes again with its numbers.
    take(event) {
      event.target.form.requestSubmit();
    },
  }));
});

// Whether a fold waits for what it says to be asked for.
function isEmpty(fold) {
  const out = fold.querySelector("[data-out]");
  return out ? out.childElementCount === 0 : fold.children.length < 2;
}

// The ends of a drawn axis: in drawing units, and in mm as the server said them.
function axisOf(svg) {
  const { near, far, left, right, width } = svg.dataset;
  return {
    left: Number(left), right: Number(right), width: Number(width),
    near: Number(near), far: far === "inf" ? Infinity : Number(far),
    ends: { axis_near_mm: near, axis_far_mm: far },
  };
}
