// Sky: what is on the screen and nowhere else. Everything that is worked out comes from the server.
document.addEventListener("alpine:init", () => {
  Alpine.data("sky", () => ({
    ...Planner,

    routine: "star",
    step: 0,
    all: true,

    init() {
      this.listen();
      document.addEventListener("htmx:afterSwap", () => this.showStep());
    },

    // Routines ----------------------------------------------------------------------------

    pickRoutine(event) {
      this.routine = event.currentTarget.dataset.routine;
      this.step = 0;
      this.all = false;
      this.showStep();
    },

    stepOn() {
      this.step = this.all ? 0 : this.step + 1;
      this.all = false;
      this.showStep();
    },

    stepBack() {
      this.step = Math.max(this.step - 1, 0);
      this.all = false;
      this.showStep();
    },

    allSteps() {
      this.all = true;
      this.showStep();
    },

    // One step at a time, large; the list as a whole until the first is asked for.
    showStep() {
      for (const routine of document.querySelectorAll(".routine")) {
        const mine = routine.dataset.key === this.routine;
        const steps = [...routine.querySelectorAll("li")];
        routine.hidden = !mine;
        if (mine) this.step = Math.min(this.step, steps.length - 1);
        routine.classList.toggle("one", mine && !this.all);
        steps.forEach((step, at) => {
          step.dataset.step = `${at + 1} of ${steps.length}`;
          step.hidden = mine && !this.all && at !== this.step;
          if (mine && at === this.step && !this.all) step.setAttribute("aria-current", "step");
          else step.removeAttribute("aria-current");
        });
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
      this.relinkSheet();
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

    key(event) {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === "Escape" && document.getElementById("ring").value) {
        this.computedAgain();
        return;
      }
      if (isTyping(event.target)) return;
      if (this.apertureKey(event)) return;
      if (event.key === "n") this.stepOn();
      else if (event.key === "p") this.stepBack();
      else if (event.key === "g") document.querySelector("#fold-routine > summary").click();
      else if (event.key >= "1" && event.key <= "3") {
        document.querySelectorAll("[data-routine]")[Number(event.key) - 1]?.click();
      }
    },
  }));
});
