// View: what is on the screen and nowhere else. A drag in progress, a row being added, a mark
// just removed. Everything that is worked out comes from the server.
document.addEventListener("alpine:init", () => {
  Alpine.data("view", () => ({
    ...Planner,
    ...InFrame,
    ...Marks,
    ...UnitKeys,
    ...FoldedPanels,

    removed: null,
    done: null,
    drawn: false,
    lifted: null,
    lettersCome: false,

    init() {
      this.listen();
      this.listenForUnits();
      this.openWhatApplies();
      const first = document.querySelector(".mark-list.first [name=mark_distance]");
      const nowhere = document.activeElement === document.body;
      if (first && !first.value && nowhere) first.focus({ preventScroll: true });
      const results = document.getElementById("results");
      window.addEventListener("scroll", () => this.keepInView(), { passive: true });
      results.addEventListener("pointerdown", (event) => this.lift(event));
      results.addEventListener("keydown", (event) => this.nudge(event));
      // An answer brings the verdicts that still stand.
      document.addEventListener("htmx:beforeSwap", () => {
        for (const verdict of this.$refs.marks.querySelectorAll(".result")) {
          verdict.replaceChildren();
        }
      });
    },

    moved() {
      document.getElementById("ring").value = document.getElementById("ring-now").dataset.text;
      this.follow();
      if (this.lifted?.x) this.carryLifted();
    },

    relink() {
      this.openWhatApplies();
      // One aperture: where it is chosen for us, its field has the one that was chosen.
      const aperture = document.getElementById("f_number");
      const chosen = document.getElementById("choose").value !== "fixed";
      if (chosen && document.activeElement !== aperture) {
        aperture.value = document.getElementById("aperture-now").dataset.number;
      }
      this.relinkPages();
      const newView = document.getElementById("new-view");
      const gear = new URLSearchParams(new FormData(this.$refs.scene));
      for (const name of [...gear.keys()]) {
        if (name.startsWith("mark_") || name === "ring") gear.delete(name);
      }
      for (const name of ["tilt_deg", "slope_deg", "moved"]) gear.delete(name);
      gear.set("first", "1");
      gear.set("camera_height", "eye"); // a new scene starts level, at one's own height
      newView.search = gear.toString();
    },

    computedAgain() {
      document.getElementById("ring").value = "";
      // A choice clicked asks by itself; the button, and a choice already made, do not.
      this.ask();
    },

    stopDown(direction) {
      const field = document.getElementById("f_number");
      const choose = document.getElementById("choose");
      const shown = document.getElementById("aperture-now").dataset.number;
      const now = Number(choose.value === "fixed" ? field.value.replace(",", ".") : shown);
      const next = this.nextAperture(now, direction);
      if (next === undefined) return;
      field.value = String(next);
      choose.value = "fixed";
      this.ask();
    },

    // The drawing, right under the answer or in its place below.
    showDrawing() {
      this.drawn = !this.drawn;
    },

    get drawing() {
      return this.drawn ? "drawn-tall" : "";
    },

    // On a desk, once the answer is scrolled away its figures stay on a strip.
    keepInView() {
      const answer = document.querySelector(".answer").getBoundingClientRect();
      this.$refs.scene.classList.toggle("scrolled", answer.top < -60);
    },

    get doneText() {
      return this.done ? `${this.done.says}: done.` : "";
    },

    get removedText() {
      return this.removed ? `Removed ${this.removed.name}.` : "";
    },

    key(event) {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const typing = isTyping(event.target) && event.target.id !== "ring";
      if (event.key === "Escape" && !typing && document.getElementById("ring").value) {
        this.computedAgain();
      } else if (isTyping(event.target) || this.apertureKey(event)) {
        return;
      } else if (event.key === "n") {
        event.preventDefault();
        this.$refs.marks.lastElementChild.querySelector("input").focus();
      } else if (event.key >= "1" && event.key <= "9") {
        this.$refs.scene.querySelectorAll("[name=place]")[Number(event.key) - 1]?.click();
      }
    },
  }));
});
