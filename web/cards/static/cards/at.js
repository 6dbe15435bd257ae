// What a card's code says stands in the address: read there, so that the page that is on the phone
// says it without a signal.
{
  const place = document.getElementById("at");
  const said = new URLSearchParams(window.location.search);
  const lines = said.getAll("n").slice(0, 8).map((line) => line.slice(0, 200));
  if (place && lines.length) {
    document.getElementById("at-name").textContent = (said.get("c") || "From a card").slice(0, 80);
    document.getElementById("at-lines").replaceChildren(
      ...lines.map((line) => Object.assign(document.createElement("li"), { textContent: line })),
    );
    document.getElementById("at-nothing").hidden = true;
    const planner = said.get("in");
    for (const own of ["c", "n", "in"]) said.delete(own);
    const ours = place.dataset.planners.split(" ").includes(planner) && said.size > 0;
    document.getElementById("at-way").hidden = !ours;
    if (ours) document.getElementById("at-link").href = `/${planner}/?${said}`;
  }
  carryAlong();
}
