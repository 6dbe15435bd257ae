// Both lights, in a file by itself: kept where the browser keeps anything for one.
(() => {
  const root = document.documentElement;
  const button = document.getElementById("light");

  function put(light) {
    root.dataset.light = light;
    button.textContent = light === "dark" ? "daylight" : "dark-adapted";
    button.setAttribute("aria-pressed", String(light === "dark"));
    try {
      localStorage.setItem("aim-light", light);
    } catch {
      // A browser that keeps nothing for a file: it opens in daylight again.
    }
  }

  let kept = "daylight";
  try {
    kept = localStorage.getItem("aim-light") ?? kept;
  } catch {
    // As above.
  }
  put(kept);
  button.addEventListener("click", () => put(root.dataset.light === "dark" ? "daylight" : "dark"));
})();

// Search: cards and the ways to them, by parts of their names.
(() => {
  const find = document.getElementById("find");
  find?.addEventListener("input", () => {
    const words = find.value.toLowerCase().split(/\s+/);
    let some = false;
    for (const way of document.querySelectorAll(".pocket-ways li")) {
      const fits = words.every((word) => way.textContent.toLowerCase().includes(word));
      way.hidden = !fits;
      document.querySelector(way.querySelector("a").hash).hidden = !fits;
      some ||= fits;
    }
    document.getElementById("none").hidden = some;
  });
})();
