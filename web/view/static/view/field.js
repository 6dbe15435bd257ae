// The field page: from plan to plan by a swipe or an arrow key; links are there without.
document.addEventListener("DOMContentLoaded", () => {
  const page = document.querySelector(".field-page");
  const go = (where) => { if (where) window.location.assign(where); };
  let from = null;
  page.addEventListener("touchstart", (event) => {
    const [touch] = event.touches;
    from = event.touches.length === 1 ? [touch.clientX, touch.clientY] : null;
  }, { passive: true });
  page.addEventListener("touchend", (event) => {
    if (!from) return;
    const [touch] = event.changedTouches;
    const [x, y] = [touch.clientX - from[0], touch.clientY - from[1]];
    from = null;
    if (Math.abs(x) < 60 || Math.abs(x) < 2 * Math.abs(y)) return;
    go(x < 0 ? page.dataset.after : page.dataset.before);
  });
  window.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "ArrowRight") go(page.dataset.after);
    if (event.key === "ArrowLeft") go(page.dataset.before);
  });
});
