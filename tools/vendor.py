"""What is vendored: copied from the packages of package.json, and checked against them.

python tools/vendor.py copy     install the packages aside and copy their files here
python tools/vendor.py check    versions and contents are those that were copied
"""

from __future__ import annotations

import hashlib
import json
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from fontTools.ttLib import TTFont

ROOT = Path(__file__).resolve().parents[1]
PACKAGES = ROOT / "package.json"
RECORD = ROOT / "vendored.json"
STATIC = "web/ui/static/vendor"
TESTS = "tests/browser/vendor"

ATKINSON = "@fontsource-variable/atkinson-hyperlegible-next"
LATIN = "files/atkinson-hyperlegible-next-latin"
COPIES = {
    "bootstrap": {
        "dist/css/bootstrap.min.css": f"{STATIC}/bootstrap/bootstrap.min.css",
        "dist/css/bootstrap.min.css.map": f"{STATIC}/bootstrap/bootstrap.min.css.map",
        "LICENSE": f"{STATIC}/bootstrap/LICENSE",
    },
    "htmx.org": {
        "dist/htmx.min.js": f"{STATIC}/htmx/htmx.min.js",
        "LICENSE": f"{STATIC}/htmx/LICENSE",
    },
    "@alpinejs/csp": {
        "dist/cdn.min.js": f"{STATIC}/alpine/alpine-csp.min.js",
    },
    ATKINSON: {
        f"{LATIN}-wght-normal.woff2": f"{STATIC}/fonts/atkinson.woff2",
        f"{LATIN}-ext-wght-normal.woff2": f"{STATIC}/fonts/atkinson-ext.woff2",
        "LICENSE": f"{STATIC}/fonts/atkinson-LICENSE",
    },
    "@ibm/plex-sans": {
        "LICENSE.txt": f"{STATIC}/fonts/plex-LICENSE",
    },
    "axe-core": {
        "axe.min.js": f"{TESTS}/axe.min.js",
        "LICENSE": f"{TESTS}/axe-LICENSE",
    },
}
SYMBOLS = "∞≈→←≤≥′″µ↑↓"
"""What the text face lacks, cut out of the other."""
SYMBOL_FONTS = {
    "Regular": f"{STATIC}/fonts/symbols-regular.woff2",
    "Bold": f"{STATIC}/fonts/symbols-bold.woff2",
}

WEIGHTS = {weight: f"{STATIC}/fonts/print-{weight}.woff2" for weight in (400, 700, 800)}
"""The text face at one weight each, signs and all, for the printer: cutting it anew for each page
takes longer than setting the page."""


def versions() -> dict[str, str]:
    """Package → version, from package.json."""
    wanted: dict[str, str] = json.loads(PACKAGES.read_text())["dependencies"]
    return wanted


def digest(file: Path) -> str:
    """SHA-256 of a file's contents."""
    return hashlib.sha256(file.read_bytes()).hexdigest()


def targets() -> list[str]:
    """Every vendored file."""
    copied = [to for files in COPIES.values() for to in files.values()]
    return [*copied, *SYMBOL_FONTS.values(), *WEIGHTS.values()]


def copy() -> int:
    """Install the packages aside, without running any script of theirs, and copy."""
    from fontTools import subset  # only here: the check needs no font tools

    with tempfile.TemporaryDirectory() as folder:
        shutil.copy(PACKAGES, folder)
        npm = ["npm", "install", "--ignore-scripts", "--no-audit", "--no-fund", "--no-package-lock"]
        subprocess.run(npm, cwd=folder, check=True)
        modules = Path(folder) / "node_modules"
        for package, files in COPIES.items():
            for source, to in files.items():
                target = ROOT / to
                target.parent.mkdir(parents=True, exist_ok=True)
                shutil.copyfile(modules / package / source, target)
        for weight, to in SYMBOL_FONTS.items():
            woff2 = modules / "@ibm/plex-sans/fonts/complete/woff2" / f"IBMPlexSans-{weight}.woff2"
            subset.main([str(woff2), f"--text={SYMBOLS}", "--flavor=woff2",
                         "--layout-features=", f"--output-file={ROOT / to}"])  # fmt: skip
    cut_weights()
    record = {"packages": versions(), "files": {to: digest(ROOT / to) for to in sorted(targets())}}
    RECORD.write_text(json.dumps(record, indent=2, ensure_ascii=False) + "\n")
    return check()


def cut_weights() -> None:
    """The variable face as it is at each weight, with the signs that it lacks: a line of figures is
    then of one face, and keeps its columns."""
    from fontTools.ttLib import TTFont
    from fontTools.varLib import instancer

    for weight, to in WEIGHTS.items():
        face = TTFont(ROOT / f"{STATIC}/fonts/atkinson.woff2", recalcTimestamp=False)
        cut = instancer.instantiateVariableFont(face, {"wght": weight})
        _put_in(cut, TTFont(ROOT / SYMBOL_FONTS["Bold" if weight > 400 else "Regular"]))
        cut.flavor = "woff2"
        cut.save(ROOT / to)


def _put_in(face: TTFont, signs: TTFont) -> None:
    """Draw in a face what it lacks of another, which is as large."""
    from fontTools.pens.recordingPen import DecomposingRecordingPen
    from fontTools.pens.ttGlyphPen import TTGlyphPen

    drawn, there = signs.getGlyphSet(), face.getBestCmap()
    for letter, name in signs.getBestCmap().items():
        if letter in there:
            continue
        strokes, pen = DecomposingRecordingPen(drawn), TTGlyphPen(None)
        drawn[name].draw(strokes)
        strokes.replay(pen)
        called, glyph = f"sign{letter:04X}", pen.glyph()
        face["glyf"][called] = glyph  # which also puts it into the order of glyphs
        glyph.recalcBounds(face["glyf"])
        face["hmtx"][called] = (signs["hmtx"][name][0], glyph.xMin)
        for table in face["cmap"].tables:
            table.cmap[letter] = called


def check() -> int:
    """1 and a line for each difference between package.json, the record and the files."""
    record = json.loads(RECORD.read_text())
    complaints = []
    if record["packages"] != versions():
        complaints.append("package.json names other versions than were copied: ./aim vendor")
    if sorted(record["files"]) != sorted(targets()):
        complaints.append("the list of vendored files has changed: ./aim vendor")
    for name, expected in record["files"].items():
        file = ROOT / name
        if not file.exists():
            complaints.append(f"{name} is missing")
        elif digest(file) != expected:
            complaints.append(f"{name} is not what was copied")
    for complaint in complaints:
        print(complaint)
    return 1 if complaints else 0


if __name__ == "__main__":
    sys.exit({"copy": copy, "check": check}[sys.argv[1]]())
