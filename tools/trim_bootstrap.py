"""Bootstrap's style sheet without what no page uses: ``python -m tools.trim_bootstrap``.

Writes ``bootstrap-used.min.css`` beside the whole one: every rule of which a selector may match,
which is one whose classes all stand somewhere in the templates, scripts or Python of the web. Of a
slow line's first second the rest would take a fifth.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
FOLDER = ROOT / "web" / "ui" / "static" / "vendor" / "bootstrap"
WHOLE, USED = FOLDER / "bootstrap.min.css", FOLDER / "bootstrap-used.min.css"
_CLASS = re.compile(r"\.(-?[_a-zA-Z][\w-]*)")


def words() -> set[str]:
    """Every word of the web that may be a class."""
    found: set[str] = set()
    for pattern in ("*.html", "*.js", "*.py", "*.svg"):
        for path in (ROOT / "web").rglob(pattern):
            if "vendor" not in path.parts:
                found |= set(re.findall(r"[\w-]+", path.read_text("utf-8")))
    return found


def rules(css: str) -> Iterator[tuple[str, str]]:
    """Each rule: what stands before its brace, and what within."""
    at = 0
    while (brace := css.find("{", at)) >= 0:
        depth, end = 1, brace + 1
        while depth:
            depth += {"{": 1, "}": -1}.get(css[end], 0)
            end += 1
        yield css[at:brace], css[brace + 1 : end - 1]
        at = end


def trimmed(css: str, used: set[str]) -> str:
    """The style sheet with the rules that may match."""
    kept = []
    for head, body in rules(css):
        if head.startswith(("@media", "@supports")):
            inner = trimmed(body, used)
            if inner:
                kept.append(f"{head}{{{inner}}}")
        elif head.startswith("@"):
            name = head.split()[-1]
            if not head.startswith("@keyframes") or name in used:
                kept.append(f"{head}{{{body}}}")
        else:
            selectors = [
                one for one in re.split(r",(?![^(]*\))", head)
                if set(_CLASS.findall(one)) <= used and "data-bs-theme=dark" not in one
            ]  # fmt: skip
            if selectors:
                kept.append(f"{','.join(selectors)}{{{body}}}")
    return "".join(kept)


def main() -> None:
    """Write it."""
    css = WHOLE.read_text("utf-8")
    charset = re.match(r'@charset "UTF-8";', css)
    licence = re.search(r"/\*!.*?\*/", css, re.DOTALL)
    plain = re.sub(r"/\*.*?\*/", "", css[charset.end() if charset else 0 :], flags=re.DOTALL)
    text = f"{licence.group() if licence else ''}{trimmed(plain, words())}\n"
    USED.write_text(text, "utf-8")
    print(f"{len(css)} → {len(text)} letters")


if __name__ == "__main__":
    main()
