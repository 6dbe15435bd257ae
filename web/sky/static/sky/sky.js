// Sky: what is on the screen and nowhere else. Everything that is worked out comes from the server.
document.addEventListener("alpine:init", () => {
  Alpine.data("sky", () => ({
    ...Planner,

    routine: "star",

    init() {
      this.listen();
      carryAlong();
      document.addEventListener("htmx:afterSwap", () => this.showRoutine());
    },

    // Ways to get there ----------------------------------------------------------------------

    pickRoutine(event) {
      this.routine = event.currentTarget.dataset.routine;
      this.showRoutine();
    },

    showRoutine() {
      for (const routine of document.querySelectorAll(".routine")) {
        routine.hidden = routine.dataset.key !== this.routine;
      }
      for (const button of document.querySelectorAll("[data-routine]")) {
        button.setAttribute("aria-pressed", String(button.dataset.routine === this.routine));
      }
    },

    moved() {
      document.getElementById("ring").value = document.getElementById("ring-now").dataset.text;
      this.follow();
    },

    relink() {
      this.relinkPages();
    },

    computedAgain() {
      document.getElementById("ring").value = "";
      this.ask();
    },

    // A value offered in a table goes into its field.
    takeValue(event) {
      const { field, value, ring } = event.currentTarget.dataset;
      document.getElementById(field).value = value;
      if (field === "margin" || ring) document.getElementById("ring").value = ring ?? "";
      this.ask();
    },

    stopDown(direction) {
      const field = document.getElementById("f_number");
      const next = this.nextAperture(Number(field.value.replace(",", ".")), direction);
      if (next === undefined) return;
      field.value = String(next);
      this.ask();
    },

    // One step at a time, by the way that is picked.
    walk() {
      this.relinkPages();
      const link = document.getElementById("to-walk");
      window.location.assign(`${link.href}&way=${this.routine}`);
    },

    key(event) {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === "Escape" && document.getElementById("ring").value) {
        this.computedAgain();
        return;
      }
      if (isTyping(event.target)) return;
      if (this.apertureKey(event)) return;
      if (event.key === "w") this.walk();
      else if (event.key === "g") document.querySelector("#fold-routine > summary").click();
      else if (event.key >= "1" && event.key <= "4") {
        document.querySelectorAll("[data-routine]")[Number(event.key) - 1]?.click();
      }
    },
  }));
});
