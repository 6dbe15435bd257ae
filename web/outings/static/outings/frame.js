// A frame: a click sets where a mark stands; its file and another under one loupe, at 100 or 200 %.
(() => {
  const page = document.getElementById("frame-page");
  if (!page) return;
  const STEP = 0.01;
  let cross = null;

  // The marks stand where they are in the picture.
  function place() {
    for (const mark of page.querySelectorAll(".frame-mark")) {
      mark.style.left = `${100 * Number(mark.dataset.x)}%`;
      mark.style.top = `${100 * Number(mark.dataset.y)}%`;
    }
  }

  function set(x, y) {
    const form = page.querySelector(".frame-point");
    if (!form) return;
    form.elements.x.value = x.toFixed(4);
    form.elements.y.value = y.toFixed(4);
    const chosen = form.querySelector("[name=letter]:checked")?.value;
    form.requestSubmit();
    page.dataset.chosen = chosen;
  }

  function showCross(map) {
    const shown = map.querySelector(".frame-cross");
    shown.hidden = false;
    shown.style.left = `${100 * cross[0]}%`;
    shown.style.top = `${100 * cross[1]}%`;
  }

  page.addEventListener("click", (event) => {
    const map = event.target.closest(".frame-map");
    if (!map) return;
    const box = map.getBoundingClientRect();
    const at = [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
    cross = at.map((share) => Math.min(Math.max(share, 0), 1));
    if (loupe.one) loupe.move(...cross);
    set(...cross);
  });

  page.addEventListener("keydown", (event) => {
    const map = event.target.closest(".frame-map");
    if (!map) return;
    const ways = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
    if (ways[event.key]) {
      const step = event.shiftKey ? 10 * STEP : STEP;
      cross = (cross ?? [0.5, 0.5]).map((share, way) => Math.min(Math.max(share + step * ways[event.key][way], 0), 1));
      showCross(map);
      if (loupe.one) loupe.move(...cross);
      event.preventDefault();
    } else if (event.key === "Enter" && cross) {
      set(...cross);
      event.preventDefault();
    }
  });

  document.addEventListener("keydown", (event) => {
    if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
    const there = { n: page.dataset.after, p: page.dataset.before }[event.key];
    if (there) window.location.href = there;
  });

  document.addEventListener("htmx:afterSwap", () => {
    place();
    const form = page.querySelector(".frame-point");
    // The next mark that is not placed yet is what the next click sets.
    const placed = new Set([...page.querySelectorAll(".frame-mark")].map((mark) => mark.dataset.letter));
    const choices = [...(form?.querySelectorAll("[name=letter]") ?? [])];
    const next = choices.find((one) => !placed.has(one.value)) ?? choices.find((one) => one.value === page.dataset.chosen);
    if (next) next.checked = true;
  });

  // The loupe --------------------------------------------------------------------------------

  const desk = document.getElementById("frame-loupe");
  const loupe = {
    pictures: [null, null],
    at: [0.5, 0.5],
    get one() {
      return this.pictures[0] ?? this.pictures[1];
    },
    get enlarged() {
      return Number(desk.querySelector("[name=enlarged]:checked").value);
    },
    move(x, y) {
      this.at = [x, y];
      this.draw();
    },
    draw() {
      desk.querySelector(".frame-panes").hidden = !this.one;
      desk.querySelectorAll(".frame-panes span").forEach((pane, which) => {
        const picture = this.pictures[which];
        pane.hidden = !picture;
        if (!picture) return;
        const canvas = pane.querySelector("canvas");
        const ratio = window.devicePixelRatio || 1;
        const width = Math.round(canvas.clientWidth * ratio);
        canvas.width = width;
        canvas.height = Math.round(width * 0.75);
        const pen = canvas.getContext("2d");
        pen.imageSmoothingEnabled = false;
        const wide = canvas.width / this.enlarged;
        const high = canvas.height / this.enlarged;
        const left = this.at[0] * picture.width - wide / 2;
        const top = this.at[1] * picture.height - high / 2;
        pen.drawImage(picture, left, top, wide, high, 0, 0, canvas.width, canvas.height);
      });
    },
  };

  async function read(file) {
    try {
      return await createImageBitmap(file, { imageOrientation: "from-image" });
    } catch {
      const body = new FormData();
      body.append("file", file);
      const token = document.querySelector("[name=csrfmiddlewaretoken]").value;
      const answer = await fetch(desk.dataset.developed, { method: "POST", headers: { "X-CSRFToken": token }, body });
      if (!answer.ok) throw new Error(answer.status === 422 ? await answer.text() : "It cannot be read.");
      return createImageBitmap(await answer.blob());
    }
  }

  desk.addEventListener("change", async (event) => {
    const which = event.target.dataset.loupe;
    const trouble = desk.querySelector(".message");
    if (which !== undefined) {
      trouble.textContent = "";
      try {
        loupe.pictures[Number(which)] = await read(event.target.files[0]);
      } catch (error) {
        trouble.textContent = error.message;
      }
    }
    loupe.draw();
  });

  let held = null;
  desk.addEventListener("pointerdown", (event) => {
    if (!event.target.closest("canvas")) return;
    held = [event.clientX, event.clientY];
    event.target.setPointerCapture(event.pointerId);
  });
  desk.addEventListener("pointermove", (event) => {
    if (!held || !loupe.one) return;
    const scale = (window.devicePixelRatio || 1) / loupe.enlarged;
    const moved = [(event.clientX - held[0]) * scale / loupe.one.width, (event.clientY - held[1]) * scale / loupe.one.height];
    held = [event.clientX, event.clientY];
    loupe.move(...loupe.at.map((share, way) => Math.min(Math.max(share - moved[way], 0), 1)));
  });
  desk.addEventListener("pointerup", () => {
    held = null;
  });
  addEventListener("resize", () => loupe.draw());
  place();
})();
