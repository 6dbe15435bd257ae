"""How far every field goes: the smallest and the largest number that each takes, found by trying.

Nothing is asked of the fields' own limits: a number is typed, and the page says that it is wrong or
does not. A new field is asked too. ``AIM_RECORD=1 ./aim test tests.web.test_limits`` writes down
what they take now, one line a field, to be read by whoever changes a limit.
"""

from __future__ import annotations

import json
import os
from collections.abc import Callable, Iterator
from pathlib import Path

from django.test import TestCase

from tests import some
from tests.web.fuzz import PLANNERS
from tests.web.test_classes import MARK, _asking
from web.bag.views import KINDS
from web.demo.world import load
from web.people.forms import PreferencesForm
from web.planner.pages import Pages

LIMITS = Path(__file__).parent / "recorded" / "limits.json"
DECADES = 8
USUAL = (1.0, 0.5, 8.0, 40.0, 400.0, 5000.0)
"""One of these is taken by every field that takes numbers at all."""
Takes = Callable[[str], bool]


def typed(number: float) -> str:
    """As a hand would type it, to six figures."""
    return f"{number:.6g}" if 1e-4 <= abs(number) < 1e6 else f"{number:.6f}".rstrip("0").rstrip(".")


def edge(takes: Takes, good: float, step: float) -> str:
    """The last number that is taken from ``good`` on, in steps of ``step`` times what it was, and
    whether that is itself; what is taken everywhere has no edge."""
    low = good
    for _ in range(DECADES):
        high = low * step if abs(low * step) > 1e-4 else 0.0
        if not takes(typed(high)):
            break
        low = high
        if low == 0.0:
            return edge(takes, -1.0, 10.0) if takes("-1") else "0, also"
    else:
        return "no edge"
    if high == 0.0:
        return "above 0"
    for _ in range(14):
        middle = (low + high) / 2
        low, high = (middle, high) if takes(typed(middle)) else (low, middle)
    last = float(f"{low:.4g}")
    return f"{last:g}, {'also' if takes(typed(last)) else 'not'}"


def edges(takes: Takes) -> str:
    """Both ends of what a field takes, in words; empty for a field that takes no number."""
    if all(takes(text) for text in ("abc", "-1", "1e99")):
        return ""  # words
    good = next((number for number in USUAL if takes(typed(number))), None)
    if good is None:
        return ""
    return f"{edge(takes, good, 0.1)} to {edge(takes, good, 10.0)}"


class LimitsTest(TestCase):
    def of_planner(self, app: str, page: Pages) -> Iterator[tuple[str, Takes]]:  # type: ignore[type-arg]
        asked = page.kind.asks(_asking())
        mark = MARK if app == "view" else {}
        texts = {**page.gear, **mark, "lens": "", "unsure": "1"}

        def wrong(more: dict[str, str]) -> set[str]:
            found = page.read(page.link_of({**texts, **more}), lambda: None, asked)
            return {one.name for one in found.messages if one.wrong}

        before = wrong({})
        for name in texts:
            yield f"{app} {name}", lambda text, name=name: wrong({name: text}) <= before  # type: ignore[misc]

    def of_forms(self) -> Iterator[tuple[str, Takes]]:
        owner = load()
        for slug, kind in KINDS.items():
            thing = kind.model.objects.filter(owner=owner).first()
            shown = kind.form(instance=thing, owner=owner)
            texts = {one: shown.text_of(one) for one in shown.fields}
            for name, its in shown.fields.items():
                if hasattr(its, "choices"):
                    continue  # its numbers are keys

                def takes(text: str, name: str = name, kind=kind, texts=texts) -> bool:  # type: ignore[no-untyped-def]
                    made = kind.form({**texts, name: text}, owner=owner)
                    return name not in made.errors

                yield f"{slug} {name}", takes
        for name, its in PreferencesForm.base_fields.items():

            def cleaned(text: str, its=its) -> bool:  # type: ignore[no-untyped-def]
                try:
                    its.clean(text)
                except Exception:
                    return False
                return True

            yield f"you {name}", cleaned

    def test_every_field_takes_what_it_took(self) -> None:
        load()
        fields = [*self.of_forms()]
        for app, page in PLANNERS.items():
            fields += self.of_planner(app, page)
        now = {name: edges(takes) for name, takes in some(fields, 4, first=2)}
        now = {name: found for name, found in now.items() if found}  # else of words
        self.assertGreater(len(now), 15)
        if os.environ.get("AIM_RECORD"):
            LIMITS.write_text(json.dumps(now, indent=1) + "\n")
        names = {name for name, _ in some(fields, 4, first=2)}
        recorded = json.loads(LIMITS.read_text())
        self.assertEqual(now, {name: said for name, said in recorded.items() if name in names})
