// View, in the frame: marks and the autofocus box moved by pointer and by arrow keys. Part of the
// component of view.js: `this` is that.
const InFrame = {
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
};
