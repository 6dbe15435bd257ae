// What goes with a task: a picture, a magnified view, a ring. Each shows itself at any of the stops.
// A picture of one file. `lines` are laid over it.
class StillPicture {
  constructor(said, name) {
    const { width, height, src } = said;
    this.said = said;
    this.image = made("img", { src, width, height, alt: name, draggable: false });
    this.over = drawn("svg", { viewBox: `0 0 ${width} ${height}`, class: "over", "aria-hidden": "true" });
    this.element = made("div", { className: "still tinted" }, this.image);
    this.element.append(this.over);
  }

  get ready() {
    return this.image.decode().catch(() => {});
  }

  get missing() {
    return !this.image.naturalWidth;
  }

  show() {}

  stop() {}

  // Beside it, how it looks without what went wrong.
  reveal() {
    if (!this.said.after) return;
    const { width, height, after } = this.said;
    const sharp = made("img", { src: after, width, height, alt: "The same, as it should be" });
    const box = made("figure", { className: "tinted still beside" }, sharp);
    this.element.after(box);
    this.element.parentElement.classList.add("two");
  }
}

// A magnified view: many pictures in one file, one for each setting, with the noise of the night and
// what the air does on top.
class StackPicture {
  static TIMES = 8;

  constructor(said, name) {
    this.said = said;
    this.canvas = made("canvas", { width: said.width * StackPicture.TIMES, height: said.height * StackPicture.TIMES, role: "img", "aria-label": name });
    this.element = made("div", { className: "stack tinted" }, this.canvas);
    this.files = {};
    this.file("src");
    if (said.after) this.file("after");
    this.use = said.after ? "after" : "src";
    this.at = 0;
    this.painted = 0;
    this.small = new OffscreenCanvas(said.width, said.height);
    this.luck = Float32Array.from({ length: 8192 }, () => (Math.random() + Math.random() + Math.random() - 1.5) * 2);
    this.clock = setInterval(() => this.paint(), STILL.matches ? 1000 : 70);
  }

  file(name) {
    this.files[name] = made("img", { src: this.said[name], alt: "" });
    this.files[name].decode().then(() => this.paint(), () => {});
  }

  get ready() {
    return Promise.all(Object.values(this.files).map((one) => one.decode())).catch(() => {});
  }

  get missing() {
    return Object.values(this.files).some((one) => !one.naturalWidth);
  }

  show(at) {
    this.at = at;
    this.paint();
  }

  // The aperture that it is looked at with, or the one that it is taken with.
  look(use) {
    this.use = use;
    this.paint();
  }

  paint() {
    const { width, height, across, noise, wobble } = this.said;
    const file = this.files[this.use];
    if (!file.complete || !file.naturalWidth) return;
    const pen = this.small.getContext("2d", { willReadFrequently: true });
    const x = (this.at % across) * width;
    const y = Math.floor(this.at / across) * height;
    pen.drawImage(file, x, y, width, height, 0, 0, width, height);
    if (noise) {
      const seen = pen.getImageData(0, 0, width, height);
      const from = Math.floor(Math.random() * 4096);
      for (let at = 0; at < width * height; at += 1) {
        const grain = this.luck[(from + at * 7) & 8191] * noise * 255;
        for (let colour = 0; colour < 3; colour += 1) seen.data[4 * at + colour] += grain;
      }
      pen.putImageData(seen, 0, 0);
    }
    const view = this.canvas.getContext("2d");
    view.imageSmoothingEnabled = false;
    const air = STILL.matches ? 0 : wobble * StackPicture.TIMES;
    const [dx, dy] = [0, 1].map(() => (Math.random() + Math.random() - 1) * air);
    view.drawImage(this.small, dx, dy, this.canvas.width, this.canvas.height);
    this.painted += 1;
    this.canvas.dataset.painted = this.painted;
  }

  stop() {
    clearInterval(this.clock);
  }

  // Beside it, the best that there is.
  reveal(best) {
    const other = new StackPicture({ ...this.said, wobble: 0 }, "At its best");
    other.look(this.use);
    other.show(best);
    other.ready.then(() => {
      other.show(best);
      other.stop();
    });
    other.element.classList.add("beside");
    this.element.after(other.element);
    this.element.parentElement.classList.add("two");
  }
}

// A ring that is read, or turned.
class RingShown {
  constructor(said) {
    this.said = said;
    this.element = made("div", { className: "ring-shown" });
    this.element.innerHTML = said.svg;
    // On a phone what is about the index, as large as at a desk.
    const narrow = window.matchMedia("(max-width: 760px)").matches;
    if (narrow) this.element.firstElementChild.setAttribute("viewBox", "130 0 380 150");
    if (!said.live) this.turn(said.turns[0]);
  }

  get ready() {
    return Promise.resolve();
  }

  turn(degrees) {
    const [x, y] = this.said.middle;
    this.element.querySelector(".ring-turns").setAttribute("transform", `rotate(${degrees} ${x} ${y})`);
  }

  show(at) {
    if (this.said.live) this.turn(this.said.turns[at]);
  }

  stop() {}

  reveal() {
    this.element.classList.add("told");
  }
}

function pictureOf(task, name) {
  const said = task.picture;
  if (!said) return null;
  return new { image: StillPicture, stack: StackPicture, ring: RingShown }[said.kind](said, name);
}
