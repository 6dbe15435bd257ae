// The sliding strip under a thumb: the slide goes along the scale, by pointer or by arrow keys.
(() => {
  let held = null;

  function put(slide, x) {
    const half = slide.getBoundingClientRect().width / 2;
    const at = Math.max(-half, Math.min(half, x));
    slide.dataset.at = at;
    slide.style.transform = `translateX(${at}px)`;
  }

  document.addEventListener("pointerdown", (event) => {
    const slide = event.target.closest?.(".strip-slide");
    if (!slide) return;
    held = { slide, from: event.clientX, at: Number(slide.dataset.at ?? 0) };
    slide.setPointerCapture(event.pointerId);
  });

  document.addEventListener("pointermove", (event) => {
    if (held) put(held.slide, held.at + event.clientX - held.from);
  });

  for (const end of ["pointerup", "pointercancel"]) {
    document.addEventListener(end, () => {
      held = null;
    });
  }

  document.addEventListener("keydown", (event) => {
    const slide = event.target.closest?.(".strip-slide");
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!slide || !by) return;
    event.preventDefault();
    put(slide, Number(slide.dataset.at ?? 0) + by * (event.shiftKey ? 20 : 2));
  });
})();
