// View, what the panels propose, tried with one click. Part of the component of view.js: `this` is
// that.
const FoldedPanels = {
  applied: new Map(),

  // One tap that writes into fields of the scene, and can be undone.
  carryOut(event) {
    const button = event.currentTarget;
    const before = this.write(JSON.parse(button.dataset.sets));
    this.done = { says: button.textContent, before };
    this.ask();
  },

  undo() {
    this.write(this.done.before);
    this.done = null;
    this.ask();
  },

  // What the fields held before.
  write(texts) {
    const before = {};
    for (const [name, text] of Object.entries(texts)) {
      const field = this.$refs.scene.elements[name];
      before[name] = field.value;
      if (field instanceof RadioNodeList) {
        for (const one of field) one.checked = one.value === text;
      } else field.value = text;
    }
    return before;
  },

  // What the answer says applies now is opened, once; what was opened so is closed when it no longer
  // applies. What was shut by hand stays shut for as long.
  openWhatApplies() {
    if (this.pointer || this.turning) return; // a movement is not an answer yet
    const says = document.querySelector(".answer").dataset.applies.split(" ");
    for (const fold of document.querySelectorAll(".tools > details")) {
      const applies = says.includes(fold.id);
      if (applies && !this.applied.has(fold.id) && !fold.open) {
        this.applied.set(fold.id, true);
        fold.open = true;
      } else if (!applies && this.applied.has(fold.id)) {
        const used = fold.contains(document.activeElement);
        if (this.applied.get(fold.id) && !used) fold.open = false;
        this.applied.delete(fold.id);
      } else if (applies && !this.applied.has(fold.id)) this.applied.set(fold.id, false);
    }
  },

  openFold(event) {
    const fold = document.getElementById(event.currentTarget.dataset.fold);
    fold.open = true;
    fold.scrollIntoView({ block: "start" });
    fold.querySelector("summary").focus({ preventScroll: true });
  },

  pickWay(event) {
    const place = event.currentTarget.dataset.place;
    this.$refs.scene.querySelector(`[name=place][value=${place}]`).click();
  },

  chooseAperture(event) {
    document.getElementById("choose").value = event.currentTarget.dataset.choose;
    this.ask();
  },

  // The tripod ------------------------------------------------------------------------

  // A step is as long as the units have it, and larger once it has gone far.
  moveTripod(event) {
    const field = document.getElementById("moved");
    const stride = Number(field.dataset.stride);
    const now = Number.parseFloat(field.value.replace(",", ".").replace(/^[−–]/, "-")) || 0;
    const far = Math.abs(now) >= 20 * stride ? 5 : 1;
    const moved = Math.round((now / stride + Number(event.currentTarget.dataset.step) * far)) * stride;
    field.value = moved ? `${Number(moved.toFixed(2))} ${field.dataset.unit}` : "";
    this.ask();
  },

  // What would do, tried at once.
  stepBack(event) {
    const field = document.getElementById("moved");
    const { back, moved: before } = event.currentTarget.dataset;
    const moved = (Number(before) + Number(back)) / Number(field.dataset.mm);
    field.value = `${(Math.ceil(moved * 100) / 100).toFixed(2)} ${field.dataset.unit}`;
    this.ask();
  },

  // How a mark came out in a trial frame: the server writes it down, and answers with it.
  cameOut(event) {
    const { frame, letter, came } = event.currentTarget.dataset;
    this.move({ at_frame: frame, letter, came });
    this.settleSoon(0);
  },

  forgetTrials() {
    document.getElementById("trials").value = "";
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
};
