// The form of a thing: a choice opens the questions that it needs.
document.addEventListener("alpine:init", () => {
  Alpine.data("thing", () => ({
    openNeeded(event) {
      for (const fold of this.$root.querySelectorAll(`[data-when="${event.target.name}"]`)) {
        if (fold.dataset.values.split(" ").includes(event.target.value)) fold.open = true;
      }
    },
  }));
});
