// The form of a thing: a choice opens the questions that it needs, and what was typed stands between
// its prefix and its unit once.
document.addEventListener("alpine:init", () => {
  Alpine.data("thing", () => ({
    changed(event) {
      const field = event.target;
      for (const fold of this.$root.querySelectorAll(`[data-when="${field.name}"]`)) {
        if (fold.dataset.values.split(" ").includes(field.value)) fold.open = true;
      }
      for (const affix of field.closest(".control")?.querySelectorAll(".affix") ?? []) {
        const said = affix.textContent.trim();
        const text = field.value.trim();
        if (text.endsWith(said)) field.value = text.slice(0, -said.length).trim();
        else if (text.startsWith(said)) field.value = text.slice(said.length).trim();
      }
    },
  }));
});
