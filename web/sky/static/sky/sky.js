// Sky: what is on the screen and nowhere else. Everything that is worked out comes from the server.
document.addEventListener("alpine:init", () => {
  Alpine.data("sky", () => ({
    ...Planner,

    init() {
      this.listen();
    },

    moved() {},

    stopDown(direction) {
      const field = document.getElementById("f_number");
      const next = this.nextAperture(Number(field.value.replace(",", ".")), direction);
      if (next === undefined) return;
      field.value = String(next);
      this.ask();
    },

    key(event) {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      this.apertureKey(event);
    },
  }));
});
