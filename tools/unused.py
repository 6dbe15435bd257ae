"""What nobody uses, found by vulture: part of ./aim check.

A name that only a template, a drawing or a script says is used there. What is kept although only
tests call it stands in ``KEPT`` with its reason; a reason that no longer holds is reported too.
"""

from __future__ import annotations

import re
import sys
from pathlib import Path

from vulture import Vulture

ROOT = Path(__file__).resolve().parents[1]
ROOMS = ("optics", "drawing", "web", "tools")
DJANGO = re.compile(
    r"clean_\w+|Meta|ordering|abstract|app_name|urlpatterns|handler\d+|default_manager_name|ready|"
    r"constraints|indexes|choices|help|get_\w+_url|\w+_template_name|template_name|extra_context|"
    r"form_class|success_url|redirect_authenticated_user|default_auto_field|field_order|"
    r"__\w+__|Command|add_arguments|\w+Config|fetch|queryset|empty_label|default_error_messages|auto_id|required_css_class|USERNAME_FIELD|"
    r"visit_\w+|validate|get_help_text|process_exception|on_starting"
)
"""What Django itself looks for, the maker of PDFs, and the server."""
OF_SUBSTANCE = ("function", "method", "class", "property")
"""What is reported. A field that nobody reads yet may be part of a contract, such as a shot's."""
KEPT = {
    "roam": "the zoom card of the pocket cards will lay a zoom's settings out with it",
    "along_barrel": "ring scales for the pocket are drawn along the barrel with it",
    "under_mark": "a printed ring scale is checked against the lens with it",
    "past_infinity": "Bench will say how far past infinity a ring turns",
    "approaching": "Outings will say how far somebody who came on has smeared",
    "between_readings": "Bench will fit a ring to what was read of it",
    "between_angles": "Bench will fit a ring to what was read of it",
}


def said_elsewhere() -> set[str]:
    """Every word of a template, a drawing or a script of our own; and of dotted names in text, as
    settings and addresses have them."""
    words: set[str] = set()
    for path in (ROOT / "web").rglob("*"):
        if path.suffix in (".html", ".svg", ".js", ".txt") and "vendor" not in path.parts:
            words |= set(re.findall(r"\w+", path.read_text("utf-8")))
        elif path.suffix == ".py":
            dotted = re.findall(r'"(web(?:\.\w+)+)"', path.read_text("utf-8"))
            words |= {name.rpartition(".")[2] for name in dotted}
    return words


def main() -> int:
    """Print what is unused; 1 if there is any."""
    vulture = Vulture(ignore_decorators=["@copies", "@moves", "@register.*"])
    vulture.scavenge(
        [str(ROOT / room) for room in ROOMS], exclude=["*/migrations/*", "*/settings/*"]
    )
    words = said_elsewhere()
    found = [
        item
        for item in vulture.get_unused_code(min_confidence=60)
        if item.typ in OF_SUBSTANCE and item.name not in words and not DJANGO.fullmatch(item.name)
    ]
    for item in found:
        if item.name not in KEPT:
            where = Path(item.filename).relative_to(ROOT)
            print(f"{where}:{item.first_lineno}: nobody uses the {item.typ} {item.name}")
    stale = set(KEPT) - {item.name for item in found}
    for name in sorted(stale):
        print(f"tools/unused.py: {name} is used, or gone: take it off the list")
    return 1 if stale or any(item.name not in KEPT for item in found) else 0


if __name__ == "__main__":
    sys.exit(main())
