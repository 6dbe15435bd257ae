"""One visitor's way through every page and form, right and wrong, and what each page said.

The forms' own fields are asked one after the other with what nobody means; a new field is asked by
itself. What each step said is in ``journey.json.xz``.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

from django.db.models import BooleanField
from django.test import Client

from tests import WHOLE
from tests.web.walk.pages import Node, read
from web.bag.models import InHand
from web.bag.views import KINDS
from web.kept.models import Kept
from web.people.models import Owner

WRONG = ("x", "0", "-7", "1e9", "70")
PASSWORD = "slate winch tallow"
HIDDEN = ("csrfmiddlewaretoken", "once", "state", "next", "version")
VOLATILE = (
    (re.compile(r"[0-9a-f]{8}-[0-9a-f-]{27}|[0-9a-f]{16,}"), "…"),
    (re.compile(r"\b\d{1,2} [A-Z][a-z]+ 20\d\d\b|\b20\d\d-\d\d-\d\d\S*"), "a day"),
    (re.compile(r"\b\d\d:\d\d\b"), "a time"),
)
Step = tuple[str, list[str] | None]
"""What is asked, and what was said; None where it was not asked today."""
_ONE_IN = 4
"""Of what is looked at many times in the same way, so many are once every day."""


def words(node: Node) -> Iterator[str]:
    """The words of an element and what its fields hold, in the order of the page."""
    for part in node.parts:
        if isinstance(part, str):
            if said := " ".join(part.split()):
                yield said
            continue
        given = part.attrs
        if part.tag in ("style", "script") or given.get("name") in HIDDEN:
            continue
        if part.tag in ("input", "select", "textarea"):
            ticked = " ticked" if "checked" in given else ""
            yield f"[{given.get('name')}={given.get('value', '')}{ticked}]"
        if part.tag == "option" and "selected" in given:
            yield "chosen:"
        for name in ("aria-label", "aria-invalid", "href", "action", "placeholder"):
            if given.get(name):
                yield f"{name} {given[name]}"
        if part.tag == "path" and given.get("d"):
            yield f"d {given['d']}"
        yield from words(part)


def said(answer: Any) -> list[str]:
    """What an answer said, without what is another at every turn."""
    lines = [str(answer.status_code), f"to {answer.get('Location', '')}"]
    kind = answer.get("Content-Type", "")
    if "html" in kind:
        page = read(answer.content.decode())
        lines += words(page.one("main") or page)
        lines += words(page.one(id="help") or read(""))
    elif "json" in kind:
        lines += answer.content.decode().splitlines()
    for pattern, instead in VOLATILE:
        lines = [pattern.sub(instead, line) for line in lines]
    return lines


class Journey:
    """The steps of one browser."""

    def __init__(self) -> None:
        self.client, self.steps, self.today = Client(), list[Step](), True

    def get(self, path: str, **query: str) -> Any:
        return self.step("get", path, query)

    def post(self, path: str, **fields: str) -> Any:
        return self.step("post", path, fields)

    def step(self, method: str, path: str, data: dict[str, str]) -> Any:
        told = " ".join(f"{name}={value}" for name, value in sorted(data.items()))
        asked = f"{len(self.steps)} {method} {path} {told}"[:160]
        answer = getattr(self.client, method)(path, data) if self.today else None
        self.steps.append((asked, None if answer is None else said(answer)))
        return answer

    def turn(self, at: int) -> None:
        """Whether what follows, of which there is much, is asked today."""
        self.today = WHOLE or at % _ONE_IN == 0

    @property
    def owner(self) -> Owner:
        found = Owner.objects.filter(is_sample=False).first()
        assert found is not None
        return found

    def makes_a_bag(self) -> None:
        self.post("/view/save/", name="First", state="")

    def looks(self) -> None:
        for path in ("/view/", "/street/", "/sky/", "/sky/walk/", "/bag/", "/bag/standards/",
                     "/bag/formats/", "/bag/file/", "/bag/import/", "/kept/", "/you/", "/you/join/",
                     "/you/sign-in/", "/you/reset/", "/you/privacy/", "/you/delete/",
                     "/you/password/", "/nowhere/", "/bag/lens/99/", f"/bag/lens/{2**63}/",
                     f"/bag/lens/{2**63 - 1}/", "/view/plan/0/", "/you/reset/sent/"):  # fmt: skip
            self.get(path)
        for one in ("1", "2", "5", "99", "x"):
            self.get("/bag/standards/", body=one, one=one, other="2", standard=one)
            self.get("/bag/formats/", body=one, standard=one)

    def bag(self) -> None:
        self.makes_a_bag()
        for slug, kind in KINDS.items():
            things = list(kind.model.objects.filter(owner=self.owner).order_by("pk"))
            self.get(f"/bag/{slug}/new/")
            self.post(f"/bag/{slug}/new/")
            for thing in things:
                self.get(f"/bag/{slug}/{thing.pk}/")
            form = kind.form(instance=things[0], owner=self.owner)
            right = {name: form.text_of(name) for name in form.fields}
            first = kind.model.objects.filter(pk=things[0].pk)
            as_it_was = first.values().get()
            for at, name in enumerate(form.fields):
                self.turn(at)
                for wrong in (WRONG[at % 5], WRONG[(at + 1) % 5], ""):
                    self.post(f"/bag/{slug}/{things[0].pk}/", **(right | {name: wrong}))
                    first.update(**as_it_was)
            self.turn(0)
            self.post(f"/bag/{slug}/new/", **(right | {"name": "Another"}))
            self.post(f"/bag/{slug}/new/", **(right | {"name": "Another"}))
            for count in (1, 2, 3) if "marks" in right else ():
                few = "\n".join(f"{700 * 2**at} mm  {40 - 15 * at}" for at in range(count))
                self.post(f"/bag/{slug}/{things[0].pk}/", **(right | {"marks": few}))
                self.get(f"/bag/{slug}/{things[0].pk}/")
            self.get("/bag/")
            last = things[-1].pk
            self.post(f"/bag/{slug}/{last}/take-out/")
            self.get("/bag/", gone=f"{slug}-{last}")
            self.post(f"/bag/{slug}/{last}/put-back/")
        self.get("/bag/file/")
        bag = '{"format": "aim-still-bag", "version": 1, %s}'
        for text in ("", "{}", '{"format": "aim-still-bag", "version": 9}', "[1]",
                     bag % '"lenses": [{"name": "New"}]', bag % '"lenses": [{"name": "New", '
                     '"shortest_mm": 50, "longest_mm": 50, "widest": 2}]',
                     bag % '"bodies": [{"name": "B", "x": 1}]', bag % '"measures": 7',
                     bag % '"measures": {"pace_mm": 800}', bag % '"measures": {"pace_mm": 9}',
                     bag % '"standards": [{"name": "S", "way": "tighter", "than": "?"}]',
                     bag % '"adapters": [{"name": "T", "factor": "x"}]'):  # fmt: skip
            self.post("/bag/import/", text=text)
            self.post("/bag/import/", text=text, take="1")

    def in_hand(self) -> None:
        self.makes_a_bag()
        keys = {slug: [str(thing.pk) for thing in kind.model.objects.filter(owner=self.owner)
                       .order_by("pk")] for slug, kind in KINDS.items()}  # fmt: skip
        lens, body, standard = keys["lens"][1], keys["body"][1], keys["standard"][1]
        for chosen in ({}, {"lens": lens}, {"body": body}, {"standard": standard},
                       {"lens": lens, "body": body}, {"body": body, "standard": standard},
                       {"lens": lens, "body": body, "standard": standard}):  # fmt: skip
            InHand.objects.all().delete()
            for app in ("view", "street", "sky"):
                answer = self.post("/bag/in-hand/", state="", next=f"/{app}/", **chosen)
                if answer.status_code == 302:
                    self.get(answer["Location"])
            self.get(f"/bag/lens/{lens}/")
        for key in keys["lens"]:
            self.post("/bag/in-hand/", state="near=2+m&speed=x", next="/street/", lens=key)

    def choices(self) -> None:
        """Whatever can be chosen of a body and a lens, on the pages that give advice by it."""
        self.makes_a_bag()
        for slug in ("body", "lens"):
            kind = KINDS[slug]
            for thing in list(kind.model.objects.filter(owner=self.owner).order_by("pk")):
                self.post("/bag/in-hand/", state="", next="/view/", **{slug: str(thing.pk)})
                self.advice()
            for field in kind.model.told():
                keys = [key for key, _ in field.choices or ()]
                keys += [True, False] if isinstance(field, BooleanField) else []
                for at, key in enumerate(keys):
                    before = getattr(thing, field.name)
                    if key in ("own", before):
                        continue  # an own format has sides too
                    self.turn(at)
                    kind.model.objects.filter(pk=thing.pk).update(**{field.name: key})
                    self.get(f"/bag/{slug}/{thing.pk}/")
                    self.advice()
                    kind.model.objects.filter(pk=thing.pk).update(**{field.name: before})
            self.turn(0)

    def advice(self) -> None:
        for path in ("/cards/plan/sheet/", "/sky/walk/", "/cards/night/card/"):
            self.get(path, way="light")

    def kept(self) -> None:
        for at in range(31):
            self.post("/view/save/", name=f"Scene {at:02d}", state=f"f_number={4 + at % 9}")
        for app in ("street", "sky"):
            self.post(f"/{app}/save/", name=f"One of {app}", state="f_number=4", note="Mind")
            self.post(f"/{app}/save/", name="", state="")
        for query in ({}, {"page": "2"}, {"page": "9"}, {"kind": "plan"}, {"kind": "night"},
                      {"q": "scene 1"}, {"q": "mind"}, {"lens": "x"}, {"kind": "x"}):  # fmt: skip
            self.get("/kept/", **query)
        one = Kept.objects.get(name="Scene 07")
        self.get(f"/view/plan/{one.pk}/")
        self.post(f"/view/plan/{one.pk}/save/", name="Scene 07", state="f_number=22", version="x")
        self.post(f"/view/plan/{one.pk}/save/", name="Renamed", state="f_number=22")
        self.post(f"/kept/{one.pk}/duplicate/")
        self.post(f"/kept/{one.pk}/delete/")
        self.get("/kept/", deleted=str(one.pk))
        self.get(f"/view/plan/{one.pk}/")
        self.post(f"/kept/{one.pk}/restore/")
        self.get(f"/cards/kept/{one.pk}/sheet/")

    def account(self) -> None:
        self.makes_a_bag()
        right = {"units": "ft", "pace_mm": "2' 8\"", "arm_mm": "2' 1\"", "judgement_error": "12",
                 "eye_height_mm": "5' 4\""}  # fmt: skip
        for name in right:
            for wrong in WRONG:
                self.post("/you/", **(right | {name: wrong}))
        self.post("/you/", **right)
        self.get("/you/")
        self.get("/view/")
        join = {"username": "Marlo", "password1": PASSWORD, "password2": PASSWORD}
        for name, wrong in (("username", "."), ("username", ""), ("password1", "x"),
                            ("password2", "other"), ("email", "no address")):  # fmt: skip
            self.post("/you/join/", **(join | {name: wrong}))
        self.post("/you/join/", **join)
        self.get("/you/")
        self.get("/you/mail/")
        self.post("/you/mail/", email="x", password=PASSWORD)
        self.post("/you/mail/", email="marlo@mail.example", password="wrong")
        self.post("/you/mail/", email="marlo@mail.example", password=PASSWORD)
        self.get("/you/password/")
        self.post("/you/password/", old_password="x", new_password1="a", new_password2="b")
        self.get("/you/delete/")
        self.post("/you/delete/", sure="no")
        self.post("/you/sign-out/")
        self.post("/you/sign-in/", username="Marlo", password="wrong")
        self.post("/you/sign-in/", username="Marlo", password=PASSWORD)
        self.get("/kept/")
