// View, what the panels propose, tried with one click. Part of the component of view.js: `this` is
// that.
const FoldedPanels = {
  pickWay(event) {
    const place = event.currentTarget.dataset.place;
    this.$refs.scene.querySelector(`[name=place][value=${place}]`).click();
  },

  chooseAperture(event) {
    document.getElementById("choose").value = event.currentTarget.dataset.choose;
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
};
