// Every target of a planner's page with its size and its neighbours: what is smaller than a thumb,
// and what is nearer than 8 px to another of a different kind. Of a field that has its cell to
// itself the cell counts, of a word its ground; what is fixed lies over what scrolls below it.
const KINDS = [["input, select, textarea, .choice", "field"], ["summary", "fold"], ["svg *", "handle"]];
const found = [];
for (const e of document.querySelectorAll(
  "main a[href], main button, main input:not([type=hidden]), main select, main summary, "
  + "main textarea, main [role=button], main .choice",
)) {
  const inChoice = e.closest(".choice") && !e.matches(".choice");
  if (inChoice || !e.checkVisibility({ visibilityProperty: true })) continue;
  const box = e.getBoundingClientRect();
  if (!box.width || !box.height) continue;
  let { left, top, right, bottom } = box;
  const field = e.closest(".field");
  const label = document.querySelector(`label[for="${e.id}"]:not(.visually-hidden)`);
  if (field && e.matches("input, select")) {
    const cell = field.getBoundingClientRect();
    if (field.querySelector("button")) top = Math.min(top, cell.top);
    else ({ left, top, right, bottom } = cell);
  } else if (e.id && label?.checkVisibility()) {
    top = Math.min(top, label.getBoundingClientRect().top);
  }
  if (e.matches(".term, .aside-note a")) {
    const more = getComputedStyle(e, "::after");
    top += Number.parseFloat(more.top);
    bottom -= Number.parseFloat(more.bottom);
    left += Number.parseFloat(more.left);
    right -= Number.parseFloat(more.right);
  }
  if (e.matches("svg *")) {
    ({ left, top, right, bottom } = (e.querySelector(".grip") ?? e).getBoundingClientRect());
  }
  const kind = KINDS.find(([selector]) => e.matches(selector))?.[1] ?? "button";
  const said = e.innerText?.slice(0, 20) || e.getAttribute("aria-label") || "";
  const name = `${e.tagName}#${e.id} ${said}`.replace(/\s+/g, " ");
  const fixed = e.closest(".strip") !== null;
  found.push({ e, box, kind, name, fixed, wide: right - left, high: bottom - top });
}
const apart = (a, b) => Math.max(
  Math.max(a.left - b.right, b.left - a.right), Math.max(a.top - b.bottom, b.top - a.bottom),
);
const small = found.filter((one) => one.wide < 43.5 || one.high < 43.5)
  .map((one) => `${one.name} ${one.wide.toFixed(0)}x${one.high.toFixed(0)}`);
const near = [];
for (const [at, a] of found.entries()) {
  for (const b of found.slice(at + 1)) {
    if (a.kind === b.kind || a.fixed || b.fixed || a.e.contains(b.e) || b.e.contains(a.e)) continue;
    if (apart(a.box, b.box) < 7.5) near.push(`${a.name} | ${b.name}`);
  }
}
return { count: found.length, small, near };
