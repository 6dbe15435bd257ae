// Two pictures under one loupe that moves in both. The files are read here, in the browser; what is
// said of a point was worked out where they were compared.
document.addEventListener("alpine:init", () => {
  const SAME = 0;
  const FIRST_SOFTER = 1;
  const SECOND_SOFTER = 2;
  const MOVED = 3;
  const ENLARGED = [0.5, 1, 2, 3, 4, 6, 8];
  const MOST_PINS = 6;
  const CONTRAST = 1.15;
  const px = (disc) => (disc === null ? "?" : `${Number(disc.toPrecision(2))} px`);

  Alpine.data("loupe", () => ({
    ready: false,
    says: "",
    trouble: "",
    enlarged: "300 %",
    zoom: 3,
    x: 0,
    y: 0,

    async init() {
      this.data = JSON.parse(this.$root.dataset.said);
      this.map = this.$root.querySelector("#loupe-map");
      this.panes = ["#loupe-one", "#loupe-two"].map((name) => this.$root.querySelector(name));
      this.start();
      try {
        this.pictures = [await this.read("first"), await this.read("second")];
      } catch (error) {
        this.trouble = `The pictures cannot be shown here: ${error.message}`;
        return;
      }
      this.ready = true;
      await this.$nextTick();
      this.listen();
      this.overview();
      this.draw();
    },

    // In the midst of where one is softer, as a start: what one wants to see first.
    start() {
      const { says, patch } = this.data;
      let most = -1;
      let at = [says.length / 2, (says[0] || []).length / 2];
      says.forEach((row, r) =>
        row.forEach((code, c) => {
          if (code !== FIRST_SOFTER && code !== SECOND_SOFTER) return;
          const about = says.slice(Math.max(r - 2, 0), r + 3);
          const alike = about.flatMap((each) => each.slice(Math.max(c - 2, 0), c + 3));
          const count = alike.filter((one) => one === code).length;
          if (count > most) [most, at] = [count, [r + 0.5, c + 0.5]];
        }),
      );
      [this.y, this.x] = at.map((place) => place * patch);
    },

    async read(which) {
      const address = this.$root.dataset[which];
      if (address) return createImageBitmap(await (await fetch(address)).blob());
      const file = document.getElementById(`loupe-${which}`).files[0];
      if (!file) throw new Error("choose the files again");
      try {
        return await createImageBitmap(file);
      } catch {
        const body = new FormData();
        body.append("file", file);
        const token = document.querySelector("[name=csrfmiddlewaretoken]").value;
        const headers = { "X-CSRFToken": token };
        const answer = await fetch(this.$root.dataset.developed, { method: "POST", body, headers });
        if (!answer.ok) throw new Error(await answer.text());
        return createImageBitmap(await answer.blob());
      }
    },

    listen() {
      this.drags(this.map, (event) => {
        const box = this.map.getBoundingClientRect();
        this.to(
          ((event.clientX - box.left) / box.width) * this.data.width,
          ((event.clientY - box.top) / box.height) * this.data.height,
        );
      });
      for (const pane of this.panes) {
        let last = null;
        this.drags(pane, (event, first) => {
          if (!first) {
            this.to(
              this.x - (event.clientX - last[0]) / this.zoom,
              this.y - (event.clientY - last[1]) / this.zoom,
            );
          }
          last = [event.clientX, event.clientY];
        });
      }
      this.map.addEventListener("keydown", (event) => this.key(event));
      new ResizeObserver(() => this.draw()).observe(this.panes[0]);
    },

    drags(element, act) {
      element.addEventListener("pointerdown", (event) => {
        element.setPointerCapture(event.pointerId);
        act(event, true);
      });
      element.addEventListener("pointermove", (event) => {
        if (element.hasPointerCapture(event.pointerId)) act(event, false);
      });
    },

    key(event) {
      const step = 40 / this.zoom;
      const moves = {
        ArrowLeft: [-step, 0],
        ArrowRight: [step, 0],
        ArrowUp: [0, -step],
        ArrowDown: [0, step],
      };
      if (moves[event.key]) this.to(this.x + moves[event.key][0], this.y + moves[event.key][1]);
      else if (event.key === "+") this.more();
      else if (event.key === "-") this.less();
      else if (event.key === "Enter") this.pin();
      else return;
      event.preventDefault();
    },

    to(x, y) {
      this.x = Math.min(Math.max(x, 0), this.data.width - 1);
      this.y = Math.min(Math.max(y, 0), this.data.height - 1);
      this.draw();
    },

    more() {
      this.enlarge(1);
    },

    less() {
      this.enlarge(-1);
    },

    enlarge(by) {
      const at = ENLARGED.indexOf(this.zoom) + by;
      this.zoom = ENLARGED[Math.min(Math.max(at, 0), ENLARGED.length - 1)];
      this.enlarged = `${100 * this.zoom} %`;
      this.draw();
    },

    overview() {
      const canvas = this.map.querySelector("canvas");
      const { width, height } = this.data;
      canvas.width = Math.min(1400, width);
      canvas.height = Math.round((canvas.width * height) / width);
      const brush = canvas.getContext("2d");
      brush.imageSmoothingQuality = "high";
      brush.drawImage(this.pictures[0], 0, 0, canvas.width, canvas.height);
    },

    // Both panes show the same place: the second is moved back by what it stands beside the first.
    draw() {
      if (!this.ready) return;
      this.panes.forEach((pane, at) => this.show(pane, at, this.x, this.y));
      const pane = this.panes[0].getBoundingClientRect();
      const here = this.map.querySelector("#loupe-here");
      const sides = [pane.width / this.zoom, pane.height / this.zoom];
      here.setAttribute("x", this.x - sides[0] / 2);
      here.setAttribute("y", this.y - sides[1] / 2);
      here.setAttribute("width", sides[0]);
      here.setAttribute("height", sides[1]);
      this.says = this.told(this.x, this.y);
    },

    show(canvas, at, x, y) {
      const box = canvas.getBoundingClientRect();
      const fine = window.devicePixelRatio || 1;
      canvas.width = Math.round(box.width * fine);
      canvas.height = Math.round(box.height * fine);
      const brush = canvas.getContext("2d");
      brush.imageSmoothingEnabled = this.zoom < 1;
      const [dx, dy] = at ? [this.data.across, this.data.down] : [0, 0];
      const scale = this.zoom * fine;
      brush.setTransform(
        scale,
        0,
        0,
        scale,
        canvas.width / 2 - (x + dx) * scale,
        canvas.height / 2 - (y + dy) * scale,
      );
      brush.drawImage(this.pictures[at], 0, 0);
    },

    told(x, y) {
      const { says, first, second, contrast, patch } = this.data;
      const [row, column] = [Math.floor(y / patch), Math.floor(x / patch)];
      const code = says[row]?.[column];
      if (code === MOVED) return "Something moved here: it says nothing of sharpness.";
      const [one, other, more] = [first, second, contrast].map((each) => each[row]?.[column]);
      if (code === FIRST_SOFTER) return `The first is softer here: ${px(one)} against ${px(other)}.`;
      if (code === SECOND_SOFTER)
        return `The second is softer here: ${px(other)} against ${px(one)}.`;
      const richer = more > CONTRAST ? "second" : more < 1 / CONTRAST ? "first" : "";
      const times = Number(Math.max(more, 1 / more).toPrecision(2));
      const and = richer ? ` The ${richer} has ${times} times the contrast: that is not sharpness.` : "";
      if (code === SAME) return `As sharp here: ${px(one)} and ${px(other)}.${and}`;
      return `Nothing here to tell sharpness by.${and}`;
    },

    pin() {
      const list = this.$root.querySelector("#loupe-pins");
      if (list.children.length >= MOST_PINS) {
        this.trouble = `${MOST_PINS} points are kept: take one out first.`;
        return;
      }
      this.trouble = "";
      const [x, y] = [this.x, this.y];
      const item = document.createElement("li");
      const views = [0, 1].map(() => document.createElement("canvas"));
      const words = document.createElement("p");
      words.textContent = this.told(x, y);
      const button = (text, act) => {
        const made = document.createElement("button");
        made.type = "button";
        made.className = "plain";
        made.textContent = text;
        made.addEventListener("click", act);
        return made;
      };
      const glasses = views.map((view) => {
        const glass = document.createElement("span");
        glass.className = "bench-thumb tinted loupe-glass";
        glass.append(view);
        return glass;
      });
      item.append(
        ...glasses,
        words,
        button("Go there", () => this.to(x, y)),
        button("Take out", () => item.remove()),
      );
      list.append(item);
      views.forEach((view, at) => this.show(view, at, x, y));
    },
  }));
});
