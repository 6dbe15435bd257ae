// View on a phone: a distance opens the keyboard of figures, which has no letters. Beside it stand
// the words that a distance may need, and the way to the letters. Part of the component of view.js.
const UnitKeys = {
  listenForUnits() {
    const marks = this.$refs.marks;
    marks.addEventListener("focusin", (event) => this.showUnits(event.target));
    marks.addEventListener("focusout", (event) => this.hideUnits(event.target));
  },

  // Over what stands to the right of the figure, so that nothing moves under the thumb.
  showUnits(field) {
    if (field.name !== "mark_distance" || !window.matchMedia("(pointer: coarse)").matches) return;
    const keys = this.$refs.units;
    const row = field.closest("[data-row]");
    row.append(keys);
    keys.hidden = false;
    const from = row.getBoundingClientRect();
    const beside = row.matches(".asks") ? field : field.parentElement;
    const box = beside.getBoundingClientRect();
    keys.style.left = `${box.right - from.left + 8}px`;
    keys.style.top = `${field.getBoundingClientRect().top - from.top}px`;
  },

  hideUnits(field) {
    const keys = this.$refs.units;
    if (field.name !== "mark_distance" || this.lettersCome) return;
    keys.hidden = true;
    this.$refs.unitsHome.append(keys);
    field.inputMode = "decimal";
  },

  // The unit after the figure, in place of the one that was there.
  writeUnit(event) {
    const field = event.currentTarget.closest("[data-row]").querySelector("[name=mark_distance]");
    const { unit } = event.currentTarget.dataset;
    const figure = field.value.replace(/[^\d.,/¼½¾]+$/, "");
    if (unit === "∞") field.value = unit;
    else if (figure) field.value = `${figure} ${unit}`;
    else return;
    field.dispatchEvent(new Event("input", { bubbles: true }));
  },

  writeLetters(event) {
    const field = event.currentTarget.closest("[data-row]").querySelector("[name=mark_distance]");
    this.lettersCome = true; // the keyboard changes only with a new focus
    field.blur();
    field.inputMode = "text";
    field.focus();
    this.lettersCome = false;
  },
};
