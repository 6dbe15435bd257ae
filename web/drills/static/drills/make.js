// Elements, made in a line; and fingers, followed.
const SVG = "http://www.w3.org/2000/svg";
const STILL = window.matchMedia("(prefers-reduced-motion: reduce)");

function made(name, said = {}, ...inside) {
  const element = document.createElement(name);
  for (const [key, value] of Object.entries(said)) {
    if (key in element && key !== "list") element[key] = value;
    else element.setAttribute(key, value);
  }
  element.append(...inside);
  return element;
}

function drawn(name, said = {}, text = "") {
  const element = document.createElementNS(SVG, name);
  for (const [key, value] of Object.entries(said)) element.setAttribute(key, value);
  element.textContent = text;
  return element;
}

// Follows a finger or the mouse on an element.
function drags(element, begin, move) {
  element.classList.add("drags");
  element.addEventListener("pointerdown", (event) => {
    if (event.button) return;
    element.setPointerCapture(event.pointerId);
    begin(event);
    event.preventDefault();
  });
  element.addEventListener("pointermove", (event) => {
    if (element.hasPointerCapture(event.pointerId)) move(event);
  });
}

// The axis of distances: near on the left, infinity on the right.
function sightline({ width, ticks, few }) {
  const narrow = window.matchMedia("(max-width: 760px)").matches;
  const svg = drawn("svg", { viewBox: `0 0 ${width} 80`, class: "judged", "aria-hidden": "true" });
  svg.append(drawn("path", { class: "axis", d: `M0 44H${width}` }));
  for (const [x, label] of narrow ? few : ticks) {
    svg.append(drawn("path", { class: "tick", d: `M${x} 44v7` }), drawn("text", { x, y: narrow ? 76 : 68, class: "tick-label" }, label));
  }
  return svg;
}
