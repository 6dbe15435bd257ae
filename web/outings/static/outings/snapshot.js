// A snapshot to measure in. The picture is read here and stays here; where was clicked goes into the
// form, and what it tells comes back from there.
document.addEventListener("alpine:init", () => {
  const GLASS = 132;
  const ENLARGED = 3;
  const HORIZON = ["snapshot-horizon", "snapshot-horizon-ink"];
  const STANDS = ["snapshot-stand", "snapshot-stand-ink"];
  const round = (share) => Math.round(share * 1e5) / 1e5;

  Alpine.data("snapshot", () => ({
    shown: false,
    trouble: "",
    tool: "horizon",
    last: null,

    init() {
      this.form = this.$root.querySelector("form");
      this.box = this.$root.querySelector("#snapshot-picture");
      this.things = this.$root.querySelector("#snapshot-things");
      this.form.addEventListener("input", () => this.mark());
      this.listen();
    },

    field(name) {
      return this.form.querySelector(`[name=${name}]`);
    },

    async open(event) {
      const file = event.target.files[0];
      if (!file) return;
      this.trouble = "";
      try {
        this.picture = await this.read(file);
      } catch (error) {
        this.trouble = `The picture cannot be shown: ${error.message}`;
        return;
      }
      await this.known(file);
      this.shown = true;
      await this.$nextTick();
      const canvas = this.box.querySelector("canvas");
      canvas.width = Math.min(1800, this.picture.width);
      canvas.height = Math.round((canvas.width * this.picture.height) / this.picture.width);
      const brush = canvas.getContext("2d");
      brush.imageSmoothingQuality = "high";
      brush.drawImage(this.picture, 0, 0, canvas.width, canvas.height);
      this.$root.picture = this.picture;
      this.field("width_px").value = this.picture.width;
      this.field("height_px").value = this.picture.height;
      this.tell();
    },

    async send(address, file) {
      const body = new FormData();
      body.append("file", file);
      const headers = { "X-CSRFToken": this.field("csrfmiddlewaretoken").value };
      return fetch(address, { method: "POST", body, headers });
    },

    async read(file) {
      try {
        return await createImageBitmap(file);
      } catch {
        const answer = await this.send(this.$root.dataset.developed, file);
        if (!answer.ok) throw new Error(await answer.text());
        return createImageBitmap(await answer.blob());
      }
    },

    // What the file says of its lens; what it does not is asked for, and what was typed stays.
    async known(file) {
      const answer = await this.send(this.$root.dataset.read, file);
      if (!answer.ok) return;
      const said = await answer.json();
      for (const name of ["focal_length_mm", "sensor_mm"]) {
        if (said[name]) this.field(name).value = said[name];
      }
      if (!said.focal_length_mm || !said.sensor_mm) {
        this.trouble = "The file does not say its lens: give the focal length and the sensor.";
      }
    },

    take(event) {
      this.tool = event.target.value;
    },

    choose(tool) {
      this.tool = tool;
      this.form.querySelector(`[name=tool][value=${tool}]`).checked = true;
    },

    place(event) {
      const box = this.box.getBoundingClientRect();
      const clip = (share) => Math.min(Math.max(share, 0), 1);
      const column = clip((event.clientX - box.left) / box.width);
      return [column, clip(1 - (event.clientY - box.top) / box.height)];
    },

    listen() {
      const glass = this.box.querySelector(".snapshot-glass");
      const look = (event) => this.look(glass, this.place(event));
      this.box.addEventListener("pointerdown", (event) => {
        this.box.setPointerCapture(event.pointerId);
        glass.classList.add("held");
        look(event);
      });
      this.box.addEventListener("pointermove", (event) => {
        if (this.box.hasPointerCapture(event.pointerId)) look(event);
      });
      this.box.addEventListener("pointerup", (event) => {
        glass.classList.remove("held");
        this.set(this.place(event));
      });
      this.box.addEventListener("keydown", (event) => this.key(event));
      this.$root.addEventListener("keydown", (event) => {
        const tools = { h: "horizon", f: "foot", t: "top" };
        if (tools[event.key] && !event.target.matches("input:not([type=radio])")) {
          this.choose(tools[event.key]);
        }
      });
    },

    look(glass, [column, row]) {
      if (!this.picture) return;
      glass.width = glass.height = GLASS;
      const brush = glass.getContext("2d");
      const scale = (ENLARGED * this.box.clientWidth) / this.picture.width;
      const [x, y] = [column * this.picture.width, (1 - row) * this.picture.height];
      brush.setTransform(scale, 0, 0, scale, GLASS / 2 - x * scale, GLASS / 2 - y * scale);
      brush.drawImage(this.picture, 0, 0);
      brush.setTransform(1, 0, 0, 1, 0, 0);
      brush.strokeRect(GLASS / 2 - 6, GLASS / 2 - 6, 12, 12);
      const left = column > 0.5 ? 0 : this.box.clientWidth - GLASS - 4;
      Object.assign(glass.style, { left: `${left}px`, top: "0px" });
    },

    set([column, row]) {
      const text = `${round(column)},${round(row)}`;
      if (this.tool === "horizon") this.horizon(column, text);
      else if (this.tool === "foot") this.foot(text);
      else this.top(text);
      this.tell();
    },

    horizon(column, text) {
      const [left, right] = this.form.querySelectorAll("[name=horizon]");
      const at = column < 0.5 ? left : right;
      at.value = text;
      this.last = at;
      if (left.value && right.value) this.choose("foot");
    },

    foot(text) {
      const empty = [...this.form.querySelectorAll("[name=thing_foot]")].find((one) => !one.value);
      const at = empty || this.another().querySelector("[name=thing_foot]");
      at.value = text;
      this.last = at;
    },

    top(text) {
      const tops = [...this.form.querySelectorAll("[name=thing_top]")];
      const at = tops.filter((one) => !one.value).pop() || tops.pop();
      if (!at) return;
      at.value = text;
      this.last = at;
    },

    another() {
      const made = this.$root.querySelector("#snapshot-thing").content.cloneNode(true);
      this.things.append(made);
      return this.things.lastElementChild;
    },

    out(event) {
      event.target.closest(".snapshot-thing").remove();
      this.tell();
    },

    key(event) {
      const moves = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
      if (!this.last) return;
      if (event.key === "Delete") {
        this.last.value = "";
      } else if (moves[event.key]) {
        const [across, up] = moves[event.key].map((step) => step * (event.shiftKey ? 10 : 1));
        const [column, row] = this.last.value.split(",").map(Number);
        if (Number.isNaN(row)) return;
        const at = [
          column + across / this.field("width_px").value,
          row + up / this.field("height_px").value,
        ];
        this.last.value = at.map((share) => round(Math.min(Math.max(share, 0), 1))).join(",");
      } else return;
      event.preventDefault();
      this.tell();
    },

    tell() {
      const wide = this.box.clientWidth || 600;
      this.field("shown_px").value = round(this.field("width_px").value / wide);
      this.mark();
      this.form.dispatchEvent(new Event("told"));
    },

    // What was clicked, over the picture: the horizon through both places, and each thing.
    mark() {
      const lines = [];
      const spot = (text) => {
        const [column, row] = text.split(",").map(Number);
        return Number.isNaN(row) || row === undefined ? null : [1000 * column, 1000 * (1 - row)];
      };
      const line = (from, to, names) => {
        for (const name of names) {
          lines.push(
            `<line class="${name}" x1="${from[0]}" y1="${from[1]}" x2="${to[0]}" y2="${to[1]}"/>`,
          );
        }
      };
      const ends = [...this.form.querySelectorAll("[name=horizon]")].map((one) => spot(one.value));
      if (ends[0] && ends[1]) {
        const rise = (ends[1][1] - ends[0][1]) / (ends[1][0] - ends[0][0] || 1);
        const at = (x) => [x, ends[0][1] + (x - ends[0][0]) * rise];
        line(at(0), at(1000), HORIZON);
      } else {
        for (const one of ends) if (one) line([one[0] - 30, one[1]], [one[0] + 30, one[1]], HORIZON);
      }
      for (const thing of this.things.children) {
        const foot = spot(thing.querySelector("[name=thing_foot]").value);
        const top = spot(thing.querySelector("[name=thing_top]").value);
        if (foot) line([foot[0] - 14, foot[1]], [foot[0] + 14, foot[1]], STANDS);
        if (foot && top) line(foot, top, STANDS);
      }
      this.box.querySelector("svg").innerHTML = lines.join("");
    },
  }));
});
