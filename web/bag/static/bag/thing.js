// The form of a thing: a choice opens the questions that it needs, and what was typed stands between
// its prefix and its unit once.
document.addEventListener("alpine:init", () => {
  Alpine.data("thing", () => ({
    // The tab said by pointing at the drawn ring: straight down at the distance nearest to there.
    tabAt(event) {
      const drawing = event.target.closest("svg");
      if (!drawing) return;
      const seen = drawing.getBoundingClientRect();
      const x = ((event.clientX - seen.left) / seen.width) * drawing.viewBox.baseVal.width;
      const away = (tick) => Math.abs(parseFloat(tick) - x);
      const ticks = event.currentTarget.dataset.distances.split(";").filter(Boolean);
      const tick = ticks.reduce((best, each) => (away(each) < away(best) ? each : best));
      const field = document.getElementById("tab_at_infinity_hours");
      field.value = `straight down at ${tick.slice(tick.indexOf(" ") + 1)}`;
      field.closest("details")?.setAttribute("open", "");
      field.dispatchEvent(new Event("input", { bubbles: true }));
    },
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
