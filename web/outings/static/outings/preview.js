// The plan's picture on the snapshot: its frame, rows of distance, what would be soft; and a look at
// it as blurred as each depth of the ground would be, at the size of a print.
(() => {
  const PIXELS_TO_MM = 96 / 25.4;
  const GAUSS_OF_DISC = 0.26; // standard deviation of a Gaussian that blurs as a disc does
  const root = () => document.querySelector(".snapshot");
  const said = () => {
    const place = document.getElementById("snapshot-preview");
    return place ? JSON.parse(place.dataset.preview) : null;
  };
  let at = [0.5, 0.35];

  // Rows are from below; a snapshot that was held askew has them askew.
  function draw() {
    const over = document.getElementById("snapshot-plan");
    if (!over) return;
    const data = said();
    if (!data) {
      over.replaceChildren();
      return;
    }
    const y = (row) => (1000 * (1 - row)).toFixed(1);
    const [left, bottom, right, top] = data.crop;
    const parts = [];
    for (const [low, high] of data.soft) {
      parts.push(`<rect class="plan-soft" x="${1000 * left}" width="${1000 * (right - left)}" y="${y(high)}" height="${1000 * (high - low)}"/>`);
    }
    for (const [row, label] of data.rows) {
      parts.push(`<path class="plan-halo" d="M${1000 * left} ${y(row)}H${1000 * right}"/><path class="plan-row" d="M${1000 * left} ${y(row)}H${1000 * right}"/>`);
      parts.push(`<text x="${1000 * left + 8}" y="${y(row) - 6}">${label}</text>`);
    }
    if (data.focus !== null) parts.push(`<path class="plan-focus" d="M${1000 * left} ${y(data.focus)}H${1000 * right}"/>`);
    parts.push(`<rect class="plan-frame" x="${1000 * left}" y="${y(top)}" width="${1000 * (right - left)}" height="${1000 * (top - bottom)}"/>`);
    const hatching = '<defs><pattern id="plan-hatching" width="12" height="12" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><rect class="plan-light" width="5" height="12"/><rect class="plan-dark" width="2.5" height="12"/></pattern></defs>';
    const box = document.getElementById("snapshot-picture");
    const squeeze = box.clientWidth / Math.max(box.clientHeight, 1);
    over.innerHTML = `${hatching}<g transform="translate(500 500) scale(1 ${squeeze}) rotate(${data.roll}) scale(1 ${1 / squeeze}) translate(-500 -500)">${parts.join("")}</g>`;
    for (const text of over.querySelectorAll("text")) {
      const x = Number(text.getAttribute("x"));
      const down = Number(text.getAttribute("y"));
      text.setAttribute("transform", `translate(${x} ${down}) scale(1 ${squeeze}) translate(${-x} ${-down})`);
    }
    look();
  }

  // The picture under the loupe, a stretch of rows at a time, each as blurred as its depth.
  function look() {
    const glass = document.getElementById("preview-glass");
    const picture = root()?.picture;
    const data = said();
    if (!glass || !data || !picture) return;
    glass.closest("figure").hidden = false;
    const [left, , right] = data.crop;
    const wide = (right - left) * picture.width; // of the snapshot's pixels in the picture
    const scale = (data.print * PIXELS_TO_MM) / wide; // pixels of the screen to one of those
    const ratio = window.devicePixelRatio || 1;
    glass.width = glass.clientWidth * ratio;
    glass.height = glass.clientHeight * ratio;
    const brush = glass.getContext("2d");
    const shown = [glass.width / ratio / scale, glass.height / ratio / scale];
    const from = [at[0] * picture.width - shown[0] / 2, (1 - at[1]) * picture.height - shown[1] / 2];
    const bands = data.bands;
    const disc = (row) => {
      let next = bands.findIndex(([there]) => there >= row);
      if (next <= 0) next = next < 0 ? bands.length - 1 : 0;
      return bands[next][1] * data.print * PIXELS_TO_MM; // pixels of the screen
    };
    const step = Math.max(glass.height / 24, 8);
    brush.clearRect(0, 0, glass.width, glass.height);
    for (let y = 0; y < glass.height; y += step) {
      const row = 1 - (from[1] + (y + step / 2) / ratio / scale) / picture.height;
      brush.save();
      brush.beginPath();
      brush.rect(0, y, glass.width, step + 0.5);
      brush.clip();
      brush.filter = `blur(${(GAUSS_OF_DISC * disc(row) * ratio).toFixed(2)}px)`;
      brush.drawImage(picture, from[0], from[1], shown[0], shown[1], 0, 0, glass.width, glass.height);
      brush.restore();
    }
    const note = document.getElementById("preview-note");
    note.textContent = scale > 1.5 ? "The snapshot has fewer pixels than the print will: it looks coarser here." : "";
  }

  document.addEventListener("htmx:afterSwap", draw);
  document.addEventListener("snapshot:shown", draw);
  document.addEventListener("pointermove", (event) => {
    const glass = event.target.closest?.("#preview-glass");
    const data = said();
    const picture = root()?.picture;
    if (!glass || !event.buttons || !data || !picture) return;
    const [left, , right] = data.crop;
    const scale = (data.print * PIXELS_TO_MM) / ((right - left) * picture.width);
    at = [at[0] - event.movementX / scale / picture.width, at[1] + event.movementY / scale / picture.height]
      .map((share) => Math.min(Math.max(share, 0), 1));
    look();
  });
  document.addEventListener("keydown", (event) => {
    if (event.target.id !== "preview-glass") return;
    const moves = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
    const move = moves[event.key];
    if (!move) return;
    at = at.map((share, way) => Math.min(Math.max(share + 0.02 * move[way], 0), 1));
    event.preventDefault();
    look();
  });
})();
