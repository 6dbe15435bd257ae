"""What holds of every form, asked of them as they are: a new field is asked too.

Everything typed comes back from saving, a link, a copy, a file and another browser; and every field
that takes a length takes it in every unit.
"""

from __future__ import annotations

from collections.abc import Iterator
from urllib.parse import urlencode

from django.http import QueryDict
from django.test import Client, TestCase
from django.urls import reverse

from optics.base import units
from tests.web.fuzz import CORE, PLANNERS
from tests.web.links import HTMX
from tests.web.walk.pages import Node, read
from web.bag.views import KINDS
from web.demo.world import load
from web.kept.models import Kept
from web.ui.fields import LengthField

MARK = {
    "mark_name": "Winch <wheel> & 海",
    "mark_distance": "3.25 m",
    "mark_role": "nice",
    "mark_how": "straight",
    "mark_error": "7 %",
    "mark_share": "31 %",
    "mark_stands": "40 cm",
    "mark_at": "45 60",
    "mark_speed": "1.5 m/s",
}


def typed_in(page: Node, form: str) -> list[tuple[str, str]]:
    """What a form of a page would send, as a browser would send it."""
    whole = page.one("form", id=form) or page.one("form", cls=form)
    assert whole is not None, form
    outside = [one for one in page.walk() if one.attrs.get("form") == form]
    found: list[tuple[str, str]] = []
    for one in [*whole.walk(), *outside]:
        name = one.attrs.get("name", "")
        elsewhere = one.attrs.get("form", form) != form
        if not name or name == "csrfmiddlewaretoken" or one.tag == "button" or elsewhere:
            continue
        if one.attrs.get("type") in ("checkbox", "radio") and "checked" not in one.attrs:
            continue
        if one.tag == "select":
            chosen = next((o for o in one.all("option") if "selected" in o.attrs), None)
            chosen = chosen or one.one("option")
            assert chosen is not None
            found.append((name, chosen.attrs.get("value", "")))
        elif one.tag == "textarea":
            found.append((name, "".join(p for p in one.parts if isinstance(p, str)).strip()))
        elif one.tag == "input":
            found.append((name, one.attrs.get("value", "")))
    return found


def kept_of(app: str) -> str:
    """A planner's link with something said in every field it has, each another than its usual."""
    gear = PLANNERS[app].gear
    link = QueryDict(mutable=True)
    link.update(dict(gear))
    for name in gear:
        others = [text for text in CORE.get(name, ()) if text and text != gear[name]]
        if name in SAID:
            link[name] = SAID[name]
        elif others and name not in ("lens", "lens_pupils", "lens_closest", "lens_range", "format"):
            link[name] = others[len(others) // 2]
        elif name.startswith("care_") or name in ("upright", "diffraction", "dusk"):
            link[name] = "1"
    if app == "sky":
        link["subject"] = "comet"
    if app == "view":
        for name, text in MARK.items():
            link.setlist(name, [text, ""])
        link.setlist("mark_name", [MARK["mark_name"], "Hill"])
        link.setlist("mark_distance", [MARK["mark_distance"], "200 m"])
        link.setlist("mark_role", [MARK["mark_role"], "must"])
        link.setlist("mark_how", [MARK["mark_how"], "ring"])
    return link.urlencode()


SAID = {
    "focal_length_mm": "35", "f_number": "8", "circle_mm": "0.02", "pixels_across": "4000",
    "lens": "35 mm of a friend", "lens_range": "1.4 16", "lens_closest": "350",
    "lens_pupils": "1.1 -4", "ring": "3 m", "place": "hyperfocal", "choose": "fixed",
    "look": "subject",
    "subject": "A", "tilt_deg": "12", "slope_deg": "5", "moved": "0.4 m", "camera_height": "1.2 m",
    "count": "3", "home": "2 m", "locked": "1.2 m", "near": "1 m", "far": "8 m", "like": "2 m",
    "speed": "1.5 m/s", "angle_deg": "30", "lag": "0.3 s", "units": "m", "seconds": "8",
    "trail_px": "4", "star_px": "2", "margin": "1.5", "latitude": "47", "direction": "NE",
    "height": "35", "foreground": "2 m", "metered_f": "8", "metered_time": "1/30",
    "dark": "4", "meter": "21.2", "moon": "half", "underfoot": "snow", "order": "dark",
    "projection": "equisolid", "mount": "tracker", "pole_off": "1", "film_iso": "200",
    "reciprocity": "1.4", "part": "middle", "iso_most": "3200",
    "metered_iso": "200", "iso": "400", "time": "1/60", "trials": "2.6 m f/11 soft A", "keep": "A",
}  # fmt: skip


class ComesBackTest(TestCase):
    """Everything typed comes back from a link, from another browser, from saving and copying."""

    def setUp(self) -> None:
        load()

    def form(self, client: Client, path: str, query: str = "") -> list[tuple[str, str]]:
        answer = client.get(f"{path}?{query}" if query else path, follow=True)
        self.assertEqual(answer.status_code, 200)
        return typed_in(read(answer.content.decode()), "scene")

    def test_from_every_way_of_keeping_it(self) -> None:
        for app, page in PLANNERS.items():
            with self.subTest(app):
                sent = kept_of(app)
                there = dict(QueryDict(sent).items())
                typed = self.form(self.client, f"/{app}/", sent)
                shown = dict(typed)
                for each in page.gear:
                    if each in shown:
                        self.assertEqual(shown[each], there[each], f"{app}: {each}")
                self.assertGreater(len(shown), len(page.gear) * 0.9, "the form has its fields")
                name = f'朝 <b> & "it\'s" {app}'
                fields = {"name": name, "state": urlencode(typed), "note": "a\n<b>"}
                saved = self.client.post(f"/{app}/save/", fields)
                self.assertEqual(saved.status_code, 302, saved.content[:2000])
                self.assertEqual(self.form(self.client, saved["Location"]), typed)
                opened = read(self.client.get(saved["Location"]).content.decode())
                title = dict(typed_in(opened, "save"))
                self.assertEqual(title["name"], fields["name"])
                if app == "view":
                    self.assertEqual(title["note"], fields["note"])
                kept = Kept.objects.get(name=name)
                copied = self.client.post(reverse("kept:duplicate", args=[kept.pk]))
                self.assertEqual(self.form(self.client, copied["Location"]), typed)
                fragment = self.client.get(f"/{app}/", QueryDict(urlencode(typed)), headers=HTMX)
                link = fragment["HX-Replace-Url"]
                self.assertEqual(self.form(Client(), link), typed, "in another browser")

    def test_of_things_in_the_bag_from_their_page_and_from_a_file(self) -> None:
        owner = load()
        other = Client()
        for slug, kind in KINDS.items():
            for thing in kind.model.objects.filter(owner=owner):
                path = f"/bag/{slug}/{thing.pk}/"
                before = dict(typed_in(read(self.client.get(path).content.decode()), "thing-form"))
                before.pop("once")
                self.assertEqual(self.client.post(path, before).status_code, 302, thing)
                after = dict(typed_in(read(self.client.get(path).content.decode()), "thing-form"))
                after.pop("once")
                self.assertEqual(after, before, thing)
        text = self.client.get("/bag/file/").content.decode()
        other.post("/bag/import/", {"text": text, "take": "1"})
        self.assertEqual(other.get("/bag/file/").content.decode(), text)

    def test_of_ones_own_measures(self) -> None:
        fields = {"units": "ft", "pace_mm": "2' 8\"", "arm_mm": "2' 1\"", "judgement_error": "12",
                  "eye_height_mm": "5' 4\"", "lag_s": "0.31"}  # fmt: skip
        self.client.post("/you/", fields)
        page = read(self.client.get("/you/").content.decode())
        found = dict(typed_in(page, "measures"))
        found.pop("light")
        self.assertEqual(found.pop("units"), "ft")
        for name, text in found.items():
            if name in ("judgement_error", "lag_s"):
                self.assertEqual(text, fields[name])
            else:
                self.assertAlmostEqual(units.parse(text, "ft"), units.parse(fields[name], "ft"), 0)


class UnitsTest(TestCase):
    """Every field that takes a length takes it in every unit, and means the same by it."""

    WRITTEN = (
        "2 m",
        "200 cm",
        "2000 mm",
        "2,0 m",
        "0.002 km",
        "6' 6.74\"",
        "6.5617 ft",
        "78.74 in",
    )

    def lengths(self) -> Iterator[tuple[str, LengthField]]:
        for kind in KINDS.values():
            for name, its in kind.form.base_fields.items():
                if isinstance(its, LengthField):
                    yield f"{kind.slug} {name}", its

    def test_of_forms(self) -> None:
        for name, its in self.lengths():
            for text in self.WRITTEN:
                with self.subTest(name, text=text):
                    value = its.to_python(text)
                    assert value is not None
                    self.assertAlmostEqual(value, 2000, delta=0.3)

    def test_of_planners(self) -> None:
        load()
        for app, page in PLANNERS.items():
            reading = page.read(page.link_of(page.gear), lambda: None, page.kind.asks(_asking()))
            for name in type(reading).LENGTHS:
                said = set()
                for text in self.WRITTEN:
                    link = page.link_of({**page.gear, name: text})
                    found = page.read(link, lambda: None, page.kind.asks(_asking()))
                    self.assertNotIn(name, found.errors, (app, name, text))
                    length = found.length_of(name)
                    assert length is not None, (app, name)
                    said.add(round(length, 0))
                self.assertEqual(said, {2000.0}, (app, name))


def _asking() -> object:
    from django.contrib.auth.models import AnonymousUser
    from django.test import RequestFactory

    request = RequestFactory().get("/")
    request.user = AnonymousUser()
    request.session = {}  # type: ignore[assignment]
    request.owner = load()  # type: ignore[attr-defined]
    return request


class TablesTest(TestCase):
    """Every row of every table has a cell under each of its heads, and nothing beside them."""

    PATHS = (
        "/bag/", "/bag/standards/", "/bag/formats/", "/cards/plan/sheet/", "/cards/plan/card/",
        "/cards/night/card/", "/cards/set/card/", "/kept/",
    )  # fmt: skip

    def wide(self, row: Node) -> int:
        cells = [one for one in row.parts if isinstance(one, Node) and one.tag in ("td", "th")]
        return sum(int(one.attrs.get("colspan", "1")) for one in cells)

    def test_rows_against_their_heads(self) -> None:
        load()
        paths = [*self.PATHS, *(f"/{app}/?{kept_of(app)}" for app in PLANNERS),
                 *(f"/{app}/" for app in PLANNERS)]  # fmt: skip
        seen = 0
        for path in paths:
            page = read(self.client.get(path).content.decode())
            for table in page.all("table"):
                heads = [self.wide(row) for part in table.all("thead") for row in part.all("tr")]
                if not heads:
                    continue
                for body in table.all("tbody"):
                    for row in body.all("tr"):
                        seen += 1
                        self.assertEqual(self.wide(row), heads[-1], (path, row.words))
        self.assertGreater(seen, 60)
