// Positions by touch: a name is called, and the ring is turned there, unseen: a drag along the edge, or
// the arrow keys. Where the thumb lets go, the ring stays.
class Touch {
  static PER_STOP = 2.6; // pixels of the edge to a stop

  constructor(task, room, picture, left) {
    Object.assign(this, { task, room, left });
    this.at = task.start;
    this.last = task.labels.length - 1;
    this.called = made("p", { className: "called", role: "status" }, "…");
    this.edge = made("div", { className: "edge", tabIndex: 0, role: "slider", "aria-label": "The ring, unseen: turn it, and let go", "aria-valuemin": 0, "aria-valuemax": 1, "aria-valuenow": 0, "aria-valuetext": "unseen" });
    this.edge.append(made("span", { className: "edge-far", "aria-hidden": "true" }, "far"), made("span", { className: "edge-near", "aria-hidden": "true" }, "near"));
    room.append(this.called, this.edge);
    room.closest(".drill-task").classList.add("by-touch");
    this.follow();
    this.timer = setTimeout(() => this.call(), task.wait);
  }

  call() {
    this.called.textContent = this.task.calls;
    this.called.classList.add("now");
    if (Touch.sound) Touch.sounds(this.task);
    this.edge.focus({ preventScroll: true });
    requestAnimationFrame(() => {
      this.since = performance.now();
    });
  }

  // Off unless it was asked for: home in the middle, nearer lower, farther higher.
  static sounds(task) {
    Touch.air ??= new AudioContext();
    const tone = Touch.air.createOscillator();
    const quiet = Touch.air.createGain();
    const where = task.home ? 0 : task.best > task.start ? 1 : -1;
    tone.frequency.value = 440 * 1.5 ** where;
    quiet.gain.value = 0.1;
    tone.connect(quiet).connect(Touch.air.destination);
    tone.start();
    tone.stop(Touch.air.currentTime + 0.18);
  }

  follow() {
    let from = 0;
    let start = 0;
    drags(this.edge, (event) => {
      from = event.clientY;
      start = this.at;
      this.edge.focus({ preventScroll: true });
    }, (event) => this.turn(start + (from - event.clientY) / Touch.PER_STOP));
    this.edge.addEventListener("pointerup", (event) => {
      if (Math.abs(event.clientY - from) > 3) this.leave(event.timeStamp);
    });
  }

  turn(to) {
    if (this.over) return;
    const before = this.at;
    this.at = Math.min(Math.max(Math.round(to), 0), this.last);
    const ends = this.at === 0 || this.at === this.last;
    if (ends && before !== this.at) navigator.vibrate?.(15);
  }

  // Whether a key was for the ring.
  key(event) {
    const way = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
    if (way) this.turn(this.at + way * (event.shiftKey ? 15 : 3));
    else if (event.key === "Enter" || event.key === " ") this.leave(event.timeStamp);
    else return false;
    event.preventDefault();
    return true;
  }

  leave(when) {
    if (this.over || !this.since) return;
    this.over = true;
    this.left(this.at, Math.max(when - this.since, 0));
  }

  // Now the ring is seen: where it was left, and where it was meant to be.
  reveal() {
    const { places } = this.task.axis;
    const svg = sightline(this.task.axis);
    const handle = drawn("g", { class: "handle", transform: `translate(${places[this.at]} 0)` });
    handle.append(drawn("path", { d: "M0 44L-9 28V10H9V28Z" }));
    svg.append(handle, drawn("path", { class: "true", d: `M${places[this.task.best]} 2V44` }));
    this.edge.replaceWith(svg);
  }

  stop() {
    clearTimeout(this.timer);
    this.room.closest(".drill-task").classList.remove("by-touch");
  }
}
