// Pointers on the axis of a planner, dragged by hand or stepped by keys. Part of the component of
// each planner: `this` is that.
const Pointers = {
  grab(event) {
    const handle = event.target.closest(".handle");
    if (!handle || event.button !== 0) return;
    event.preventDefault();
    handle.focus();
    const svg = handle.ownerSVGElement;
    this.pointer = { id: event.pointerId, handle: handle.id, which: whichOf(handle), x: null };
    [this.pointer.fromX, this.pointer.fromY] = [event.clientX, event.clientY];
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
    if (this.pointer.x === null && !isSideways(event, this.pointer)) return;
    const svg = document.getElementById(this.pointer.handle).ownerSVGElement;
    const box = svg.getBoundingClientRect();
    const x = ((event.clientX - box.left) / box.width) * axis.width;
    this.pointer.x = Math.min(Math.max(x, axis.left), axis.right);
    this.follow();
    const share = (this.pointer.x - axis.left) / (axis.right - axis.left);
    const inverse = 1 / axis.near - share * (1 / axis.near - 1 / axis.far);
    this.move({
      drag_mm: inverse > 0 ? 1 / inverse : "Infinity", ...axis.ends, ...this.pointer.which,
    });
  },

  // The drawn handle stays under the finger, wherever the last answer put it.
  follow() {
    if (!this.pointer || this.pointer.x === null) return;
    document
      .getElementById(this.pointer.handle)
      ?.setAttribute("transform", `translate(${this.pointer.x.toFixed(1)} 0)`);
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
    this.turning = true;
    this.move({ ring_step: steps, ...axisOf(handle.ownerSVGElement).ends, ...whichOf(handle) });
    this.settleSoon(350);
  },

  // At most one request of a movement is under way; the newest waits, older ones are dropped.
  move(values) {
    if (this.busy) {
      const { ring_step: step, mark_by: by, mark_step: at } = this.waiting ?? {};
      if (step && values.ring_step) values.ring_step += step;
      if (by && values.mark_step === at) values.mark_by += by;
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
      this.turning = false;
      this.ask();
    }, delay);
  },
};

// Whether a pointer means to move what it holds along the axis, not to scroll the page.
function isSideways(event, from) {
  const [x, y] = [Math.abs(event.clientX - from.fromX), Math.abs(event.clientY - from.fromY)];
  return event.pointerType !== "touch" || (x >= 6 && x > y);
}

// Which of several handles this is, as a request says it.
function whichOf(handle) {
  return handle.dataset.at === undefined ? {} : { at: handle.dataset.at };
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
