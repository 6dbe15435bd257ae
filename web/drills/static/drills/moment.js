// A moment: somebody steps out, or comes on, and one presses. Times are those of this page's clock.
class Moment {
  static BEFORE = 1200; // ms until they come on
  static STEPS = 450; // ms between two steps, where nothing is to glide

  constructor(task, room, picture, pressed) {
    Object.assign(this, { task, room, pressed });
    this.scene = made("div", { className: "moment-scene drags" });
    this.button = made("button", { type: "button", className: "drill-big shutter" }, "Press");
    room.append(this.scene, this.button);
    // Down, not up: the shutter goes when the finger does.
    for (const one of [this.scene, this.button]) {
      one.addEventListener("pointerdown", (event) => {
        event.preventDefault();
        this.press(event.timeStamp);
      });
    }
    if (task.svg) this.comes();
    else this.stepsOut();
  }

  stepsOut() {
    const side = this.task.side;
    const svg = drawn("svg", { viewBox: "0 0 300 200", class: "doorway", "aria-hidden": "true" });
    svg.append(drawn("path", { class: "ground", d: "M0 150H300" }));
    const body = drawn("g", { class: "somebody", transform: `translate(${150 + side * 62} 168) scale(92)` });
    body.append(drawn("path", { d: "M-.13 0L-.09 -.49H-.16L-.14 -.8Q0 -.9 .14 -.8L.16 -.49H.09L.13 0H.03L0 -.44L-.03 0Z" }), drawn("circle", { cx: 0, cy: -0.93, r: 0.068 }));
    body.style.visibility = "hidden";
    svg.append(body, drawn("path", { class: "doors", d: "M0 0H58V176H0zM242 0H300V176H242z" }));
    this.scene.append(svg);
    this.timer = setTimeout(() => {
      requestAnimationFrame(() => {
        body.style.visibility = "visible";
        this.scene.dataset.out = "1";
        // Seen from the next frame on.
        requestAnimationFrame(() => {
          this.since = performance.now();
        });
        this.timer = setTimeout(() => this.press(performance.now()), this.task.labels.length * this.task.step);
      });
    }, this.task.wait);
  }

  comes() {
    this.scene.innerHTML = this.task.svg;
    if (!this.task.plan) this.scene.querySelector(".coming").remove();
    this.move(0);
    this.timer = setTimeout(() => {
      this.since = performance.now();
      this.scene.dataset.out = "1";
      this.walk();
    }, Moment.BEFORE);
  }

  walk() {
    const gone = performance.now() - this.since;
    if (this.over) return;
    if (gone > this.task.labels.length * this.task.step) {
      this.press(performance.now());
      return;
    }
    this.move(STILL.matches ? Math.floor(gone / Moment.STEPS) * Moment.STEPS : gone);
    requestAnimationFrame(() => this.walk());
  }

  // Where they are, so many ms on.
  move(ms) {
    const { begins, closing, x, y, frame, finder } = this.task;
    const depth = begins - closing * ms;
    const [grows, foot, across, slope] = finder;
    const tall = grows / depth;
    const right = frame[0] / 2 + across / depth + slope;
    this.scene.querySelector(".somebody").setAttribute("transform", `translate(${right.toFixed(2)} ${(frame[1] / 2 + foot / depth).toFixed(2)}) scale(${tall.toFixed(3)})`);
    const dot = this.scene.querySelector(".walker");
    dot?.setAttribute("cx", (x[0] + x[1] * depth).toFixed(1));
    dot?.setAttribute("cy", (y[0] + y[1] * depth).toFixed(1));
  }

  press(when) {
    if (this.over) return;
    this.over = true;
    clearTimeout(this.timer);
    const late = this.since ? Math.max(when - this.since, 0) : 0;
    const at = Math.min(Math.floor(late / this.task.step), this.task.labels.length - 1);
    if (this.task.svg) this.move(late);
    this.button.disabled = true;
    this.pressed(at, late);
  }

  key(event) {
    if (event.key !== " " && event.key !== "Enter") return false;
    event.preventDefault();
    this.press(event.timeStamp);
    return true;
  }

  reveal() {}

  stop() {
    clearTimeout(this.timer);
    this.over = true;
  }
}
