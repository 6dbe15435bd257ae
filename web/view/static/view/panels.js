// View, what the panels propose, tried with one click. Part of the component of view.js: `this` is
// that.
const FoldedPanels = {
  // One tap that writes into a field of the panels.
  mend(event) {
    const { field, text, clears } = event.currentTarget.dataset;
    document.getElementById(field).value = text;
    if (clears) document.getElementById(clears).value = "";
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
