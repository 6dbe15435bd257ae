// A way to get there, a step at a time. All steps are in the page: it needs no network out there.
document.addEventListener("alpine:init", () => {
  Alpine.data("walk", () => ({
    step: 1,
    count: 0,

    init() {
      this.step = Number(this.$root.dataset.step);
      this.count = this.$root.querySelectorAll(".walk-step").length;
      // A page kept on the phone may have been kept at another step than its address says now.
      const said = Number(new URLSearchParams(window.location.search).get("step"));
      const wanted = said || this.kept();
      if (wanted !== this.step) this.show(wanted);
      carryAlong();
      this.$root.addEventListener("toggle", (event) => this.shown(event.target), true);
      this.stayAwake();
      document.addEventListener("visibilitychange", () => this.stayAwake());
    },

    // A screen that goes dark out there takes the next step with it.
    async stayAwake() {
      if (document.visibilityState !== "visible") return;
      try {
        await navigator.wakeLock?.request("screen");
      } catch {
        // A browser that will not, or a battery that is low: the page works without.
      }
    },

    // Another way in between loses no place in this one.
    kept() {
      try {
        return Number(sessionStorage.getItem(`walk ${this.$root.dataset.link}`)) || this.step;
      } catch {
        return this.step;
      }
    },

    keep() {
      try {
        sessionStorage.setItem(`walk ${this.$root.dataset.link}`, this.step);
      } catch {
        // A browser that keeps nothing: the address still says the step.
      }
    },

    show(step) {
      if (step < 1 || step > this.count) return;
      this.step = step;
      for (const section of this.$root.querySelectorAll(".walk-step")) {
        const here = section.id === `step-${step}`;
        section.hidden = !here;
        if (here) section.setAttribute("aria-current", "step");
        else section.removeAttribute("aria-current");
      }
      document.querySelector(`#step-${step} h1`).focus();
      window.scrollTo(0, 0);
      this.keep();
      history.replaceState(null, "", `${this.$root.dataset.link}&step=${step}`);
    },

    on() {
      this.show(this.step + 1);
    },

    back() {
      this.show(this.step - 1);
    },

    // What was opened is not to stay under the edge that Back and Next share.
    shown(details) {
      if (details.open) details.scrollIntoView({ block: "end" });
    },

    // Back to where it went wrong.
    goTo(event) {
      this.show(Number(event.currentTarget.dataset.step));
    },

    key(event) {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (document.getElementById("help")?.classList.contains("open")) return;
      const pressed = [" ", "Enter"].includes(event.key);
      if (pressed && event.target.closest("a, button, summary")) return;
      if (pressed) event.preventDefault();
      if (pressed || ["n", "ArrowRight", "PageDown"].includes(event.key)) this.on();
      else if (["p", "ArrowLeft", "PageUp"].includes(event.key)) this.back();
      else if (event.key === "Escape") window.location.assign(this.$root.dataset.back);
      else if (["1", "2", "3", "4"].includes(event.key)) {
        document.querySelector(`[data-way="${event.key}"]`)?.click();
      }
    },
  }));
});
