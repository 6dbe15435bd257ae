"""Odd requests, made from the addresses and forms that there are: what a short test and the long
run of tools/fuzz.py send. A new address or field is in it by itself."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from random import Random
from typing import Any

from django.http import QueryDict
from django.test import Client
from django.urls import URLPattern, URLResolver, get_resolver

from web.bag.compare_views import CaseForm
from web.bag.views import KINDS
from web.kept.models import Kept
from web.people.forms import JoinForm, PreferencesForm
from web.planner.pages import Pages
from web.sky.views import pages as sky
from web.street.views import pages as street
from web.view.choices import How, Role
from web.view.views import pages as view

PLANNERS: dict[str, Pages[Any]] = {page.kind.app: page for page in (view, street, sky)}

NUMBERS = (
    "0", "1", "2", "7", "24", "50", "0.5", "0.025", "1.4", "-1", "-10", "100", "300", "1500",
    "1.5 -10", "2.8 22", "20 70", "-5 5", "3 0", "0 0", "1,5", "6000", "12", "15", "47", "90",
)  # fmt: skip
PHOTOGRAPHERS = (
    "24 mm", "50 mm f/1.8", "f/8", "3 m", "1.5m", "70 cm", "10 ft", "5'6\"", "inf", "infinity",
    "3 paces", "eye", "2 arms", "15 %", "99 %", "1/125", "2:06", "30 s", "ISO 400", "0.7–5 m",
    "1 2 3", "0.7 1.2 5 inf", "breeze", "A", "ABC", "B", "walking", "1.4 m/s", "5 km/h", "ND64",
    "10 stops", "N", "south-east", "must", "nice", "1", "on", "full-frame", "60x45", "36x24",
    "20–35 mm f/4 zoom", "28 mm f/2.8 with tab", "widest", "softens", "between", "m", "ft", "EV 12",
)  # fmt: skip
EXTREMES = (
    "1e308", "-1e308", "1e-300", "nan", "-inf", "-0", "9" * 30, "9" * 400, "0.0000001", "1e9",
    "1e5", "1000000", "99999999", "180", "-90", "89.999", "3000", "128", "0.0005", "1e7 m",
)  # fmt: skip
SCRIPTS = (
    "石段の下", "Überströmungsgefährdete Felsküste", "صخرة", "👩‍👩‍👧", "<script>alert(1)</script>",
    "'\"&<>", "a\x00b", "\u202eabc", "%00%ff", "{{ 7 }}", "../../etc", "x" * 200, "\n\n\n", " ",
)  # fmt: skip
KINDS_OF_VALUES = (NUMBERS, NUMBERS, PHOTOGRAPHERS, PHOTOGRAPHERS, EXTREMES, SCRIPTS)
OTHERS = {
    "axis_near_mm": "700", "axis_far_mm": "inf", "drag_mm": "2000", "ring_step": "2", "at": "0",
    "read_in": "ft", "paper": "a4", "name": "Low water", "way": "light", "step": "2", "page": "2",
    "q": "low", "kind": "plan", "lens": "", "deleted": "1", "gone": "lens-1", "body": "1",
    "one": "1", "other": "2", "standard": "1", "note": "A note", "version": "", "as_new": "1",
    "back": "kind=plan", "light": "dark", "next": "/view/", "kept": "1", "once": "", "text": "{}",
    "take": "1", "state": "", "username": "somebody", "password": "x", "email": "a@b.example",
    "old_password": "x", "new_password1": "y", "new_password2": "y", "adapter": "1", "do": "sort",
}  # fmt: skip
"""Names that a page's address or form may carry beside its fields, each with one that is right."""


@dataclass
class Ask:
    """One request."""

    method: str
    path: str
    query: QueryDict
    data: QueryDict
    headers: dict[str, str] = field(default_factory=dict)

    @property
    def printed(self) -> bool:
        """Whether it asks for a PDF."""
        return ".pdf" in self.path

    def send(self, client: Client) -> Any:
        """The answer of the application."""
        link = f"{self.path}?{self.query.urlencode()}" if self.query else self.path
        if self.method == "POST":
            return client.post(
                link, self.data.urlencode(), "application/x-www-form-urlencoded",
                headers=self.headers,
            )  # fmt: skip
        return client.generic(self.method, link, headers=self.headers)

    def __str__(self) -> str:
        return (
            f"{self.method} {self.path}?{self.query.urlencode()} {self.data.urlencode()} "
            f"{self.headers or ''}"
        )


def addresses() -> list[tuple[str, str]]:
    """Every address there is, with its name, as templates: ``/view/plan/{key}/``."""
    found: list[tuple[str, str]] = []

    def walk(patterns: list[Any], before: str, space: str) -> None:
        for one in patterns:
            route = before + str(one.pattern)
            if isinstance(one, URLResolver):
                walk(one.url_patterns, route, f"{one.namespace or space}")
            elif isinstance(one, URLPattern):
                found.append((f"/{route}", f"{space}:{one.name}"))

    walk(get_resolver().url_patterns, "", "")
    return found


OF = {"plan": "view", "set": "street", "night": "sky"}
"""The planner of each kind."""


def filled(route: str, keys: Mapping[str, int], dice: Random) -> str:
    """An address with its places filled: most often with something that is there."""
    kind = dice.choice(list(KINDS))
    of = next((part for part in route.split("/") if part in keys), "kept")
    key = keys[kind if "<slug:slug" in route else of]
    number = key if key and dice.random() < 0.8 else dice.choice([0, 1, 10**9, 2**63, 10**30])
    return (
        route.replace("cards/<slug:kind>/", f"cards/{dice.choice(tuple(OF))}/")
        .replace("<slug:face>", dice.choice(("card", "sheet")))
        .replace("<slug:slug>", kind if dice.random() < 0.95 else "tripod")
        .replace(
            "<slug:digest>/<slug:key>.<slug:kind>", dice.choice(("0/view.css", "a/b.js", "0/sky.x"))
        )
        .replace("<int:key>", str(number))
        .replace("<int:frame>", str(dice.choice((0, 1, 10**20))))
        .replace("<slug:paper>", dice.choice(("a4", "letter", "a5")))
        .replace("<uidb64>", dice.choice(["Mg", "!!", "x"]))
        .replace("<token>", dice.choice(["no-such-token", "set-password", "c-1"]))
    )


def keys_there() -> dict[str, int]:
    """Keys of things of the sample, by the words that addresses name them with."""
    found = {"kept": Kept.objects.all()[0].pk}
    for slug, kind in KINDS.items():
        found[slug] = kind.model.objects.all()[0].pk
    for page in PLANNERS.values():
        kept = Kept.objects.filter(kind=page.kind.key).first()
        found[page.kind.key if page.kind.key != "plan" else "plan"] = kept.pk if kept else 1
    return found


def value(dice: Random) -> str:
    """Something to type."""
    return str(dice.choice(dice.choice(KINDS_OF_VALUES)))


CORE = {
    "focal_length_mm": ("1", "3", "8", "24", "400", "3000"),
    "f_number": ("0.5", "1.4", "8", "64", "128"),
    "circle_mm": ("0.0005", "0.003", "0.02", "0.1", "1"),
    "lens": (
        "",
        "50 mm f/1.8",
        "28 mm f/2.8 with tab",
        "20–35 mm f/4 zoom",
        "16 mm f/2 for the night",
    ),
    "lens_pupils": ("", "1.5 -10", "0.1 500", "10 -200", "0.5 20", "3 0"),
    "lens_closest": ("", "2", "300", "99999"),
    "lens_range": ("", "0.5 128", "2.8 22", "1 1.1"),
    "format": ("full-frame", "1x1", "500x1", "60x45"),
    "pixels_across": ("", "200", "6000", "100000"),
    "diffraction": ("", "1"),
    "ring": ("", "4 mm", "30 cm", "2 m", "1e7 m", "inf"),
    "choose": ("fixed", "widest", "sharpest", "softens"),
    "place": ("between", "hyperfocal", "infinity", "subject", "third", "bracket"),
    "camera_height": ("", "1 cm", "0.9 m", "100 m"),
    "tilt_deg": ("", "-90", "-3", "0", "45", "90"),
    "slope_deg": ("", "-60", "60", "12"),
    "trials": ("", "2.6 m f/11 soft A", "3 m f/8 soft AB sharp C; 2 m f/8", "inf f/4 soft A"),
    "trial_soft": ("", "A", "ABC"),
    "trial_sharp": ("", "B", "ABC"),
    "keep": ("", "A", "B"),
    "moved": ("", "-0.4 m", "3 m", "10 km"),
    "near": ("", "1 cm", "0.7 m", "3 m"),
    "far": ("", "0.71 m", "5 m", "1e6 m", "inf"),
    "count": ("1", "2", "3", "9"),
    "like": ("1 cm", "1.4 m", "30 m", "inf"),
    "locked": ("", "inf", "0.7 1.4 inf", "3 m"),
    "home": ("", "2 m"),
    "foreground": ("", "30 cm", "1.5 m", "1 km"),
    "star_px": ("0.5", "3", "30"),
    "margin": ("0", "0.5", "5"),
    "latitude": ("-90", "0", "47", "90"),
    "height": ("-90", "0", "40", "90"),
    "direction": ("N", "180", "SW"),
}
"""What decides an answer, and values from one end of what is taken to the other."""
_MARK = {
    "distance": ("1 cm", "30 cm", "3 m", "10 m", "1e6 m", "inf"),
    "role": tuple(Role.values),
    "how": tuple(How.values),
    "error": ("", "0", "99 %", "50 cm", "100 m"),
    "share": ("", "0", "30 %", "99 %"),
    "stands": ("", "10 cm", "-3 m", "30 m"),
    "at": ("", "20 70", "0 0", "100 100"),
    "speed": ("", "1 m/s", "1000 km/h"),
}
_MOVES = {
    "axis_near_mm": ("4", "300", "700", "1e-9", "1e300"),
    "axis_far_mm": ("5000", "inf", "701", "1e308"),
    "drag_mm": ("1", "900", "1e308", "1e-300", "inf"),
    "ring_step": ("1", "-1", "100", "-99999"),
    "at": ("0", "1", "home", "near", "far"),
    "mark_step": ("0", "1", "-1", "99"),
    "mark_by": ("1", "-1", "50", "-99999"),
}


def scene(dice: Random, app: str) -> QueryDict:
    """A planner's link, whole or of a few words, with some of its texts others."""
    page = PLANNERS[app]
    query = QueryDict(mutable=True)
    if dice.random() < 0.6:
        query.update(dict(page.gear))
    core = [name for name in CORE if name in page.gear]
    for name in dice.sample(core, dice.randint(0, 6)):
        query[name] = dice.choice(CORE[name])
    for name in dice.sample(list(page.gear), dice.choice([0, 0, 1, 2, 4])):
        query[name] = value(dice)
    if dice.random() < 0.3:
        for name in dice.sample(list(_MOVES), dice.randint(2, 5)):
            query[name] = dice.choice(_MOVES[name])
    for _ in range(dice.choice([0, 1, 2, 3, 5, 26]) if app == "view" else 0):
        odd = dice.random() < 0.2
        query.appendlist("mark_name", value(dice) if odd else "A slab")
        for name, values in _MARK.items():
            plain = name not in ("distance", "role") and dice.random() < 0.6
            text = "" if plain else dice.choice(values)
            query.appendlist(f"mark_{name}", value(dice) if odd and dice.random() < 0.3 else text)
    return query


def fields_of(name: str, dice: Random) -> dict[str, str]:
    """What the form of an address asks for, each with something."""
    forms: dict[str, Any] = {"preferences": PreferencesForm, "join": JoinForm}
    form = forms.get(name.partition(":")[2])
    if name.startswith("bag:"):
        form = dice.choice([*(kind.form for kind in KINDS.values()), CaseForm])
    found = {}
    for at, its in getattr(form, "base_fields", {}).items():
        choices = [str(key) for key, _ in getattr(its, "choices", ()) or ()]
        found[at] = dice.choice(choices) if choices and dice.random() < 0.8 else value(dice)
    return found


def asked(dice: Random) -> Iterator[Ask]:
    """Odd requests, without end."""
    routes, keys = addresses(), keys_there()
    apps = list(PLANNERS)
    while True:
        if dice.random() < 0.6:
            app = dice.choice(apps)
            route, name = f"/{app}/", f"{app}:page"
        else:
            route, name = dice.choice(routes)
            app = name.partition(":")[0]
        path = filled(route, keys, dice)
        query, data = QueryDict(mutable=True), QueryDict(mutable=True)
        of = next((app for kind, app in OF.items() if f"/{kind}/" in path), app)
        if of in PLANNERS and dice.random() < 0.9:
            query = scene(dice, of)
        extra = dice.sample(list(OTHERS), dice.randint(0, 4) if dice.random() < 0.5 else 0)
        for one in extra:
            query[one] = OTHERS[one] if dice.random() < 0.5 else value(dice)
        looked_at = (":page", "_pdf", ":loose", ":kept", ":walk")
        usual = "GET" if name.endswith(looked_at) else "POST"
        method = dice.choices(
            [usual, "GET", "POST", "HEAD", "PUT", "OPTIONS"], [66, 15, 14, 3, 1, 1]
        )[0]
        if method == "POST":
            data.update(fields_of(name, dice))
            for one in dice.sample(list(OTHERS), dice.randint(0, 6)):
                data[one] = OTHERS[one] if dice.random() < 0.6 else value(dice)
            if app in PLANNERS or name.startswith("hand:"):
                state = scene(dice, app if app in PLANNERS else dice.choice(apps))
                data["state"] = state.urlencode()
        headers = {}
        if method == "GET" and app in PLANNERS and dice.random() < 0.5:
            folds = " ".join(fold.id for fold in PLANNERS[app].folds)
            headers = {"HX-Request": "true", "Aim-Screen": dice.choice(["wide", "narrow", "odd"]),
                       "Aim-Unfolded": folds}  # fmt: skip
            if dice.random() < 0.5:
                before = dice.choice(
                    ["http://[", "not a url", "http://testserver/view/?" + value(dice),
                     "http://testserver/view/?" + scene(dice, app).urlencode()]
                )  # fmt: skip
                headers["Aim-Before"] = before.replace("\n", "").replace("\x00", "")
        yield Ask(method, path, query, data, headers)
