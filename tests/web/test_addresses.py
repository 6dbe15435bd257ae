"""Every address there is, by every method, asked by who may and who may not.

The addresses are the resolver's own: a new one is asked too. Nothing breaks, nobody changes what is
another's, and what is another's is not there.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from django.test import Client, TestCase
from django.urls import URLPattern, URLResolver, get_resolver

from tests import WHOLE, some
from tests.web.test_people import PASSWORD
from web.bag.models import Lens, Thing
from web.bag.views import KINDS
from web.bench.models import Test, Thumbnail
from web.cards.models import Pack
from web.demo.world import load
from web.kept.models import Kept
from web.outings.models import Outing
from web.people.models import Owner

METHODS = ("get", "head", "options", "post", "put", "patch", "delete")
ENDS_VISITS = ("you/sign-out/",)
"""Asked last: the one who asks is another then."""


def addresses() -> Iterator[str]:
    """All of them, as they are written in the patterns."""

    def walk(part: Any, before: str) -> Iterator[str]:
        for one in part.url_patterns:
            here = before + str(one.pattern)
            if isinstance(one, URLResolver):
                yield from walk(one, here)
            elif isinstance(one, URLPattern):
                yield here

    yield from walk(get_resolver(), "")


class AddressesTest(TestCase):
    def setUp(self) -> None:
        load()
        self.mine = Client()
        fields = {"username": "Marlo", "password1": PASSWORD, "password2": PASSWORD}
        self.mine.post("/you/join/", fields)
        for app in ("view", "street", "sky"):
            self.mine.post(f"/{app}/save/", {"name": f"My {app}", "state": ""})
        self.owner = Owner.objects.get(person__username="Marlo")

    def filled(self, pattern: str) -> list[str]:
        """An address with what is mine in its places."""
        if "<slug:slug>" in pattern:
            found = []
            for slug, kind in KINDS.items():
                thing = kind.model.objects.filter(owner=self.owner).first()
                assert thing is not None
                found.append(pattern.replace("<slug:slug>", slug)
                             .replace("<int:key>", str(thing.pk)))  # fmt: skip
            return found
        if "bench/" in pattern:
            lens = Lens.objects.filter(owner=self.owner).first()
            assert lens is not None
            key = lens.pk
            if "frames/" in pattern and "tests/" not in pattern:
                small = Thumbnail.objects.get_or_create(
                    owner=self.owner, finding="0a1b2c3d", name="a.jpg", small=b"x"
                )
                key = small[0].pk
            if "tests/" in pattern:
                key = Test.objects.get_or_create(owner=self.owner, lens=lens)[0].pk
            pattern = pattern.replace("<slug:seed>/<slug:which>", "7/first")
            pattern = pattern.replace("<int:frame>", "1").replace("<slug:paper>", "a4")
            return [pattern.replace("<int:key>", str(key))]
        if "outings/" in pattern:
            outing = Outing.objects.filter(owner=self.owner, name__startswith="Sallow").first()
            assert outing is not None
            frame = outing.frames.first()
            assert frame is not None
            key = frame.pk if "outings/frames/" in pattern else outing.pk
            return [pattern.replace("<int:key>", str(key)).replace("<slug:ending>", "csv")]
        if "drills/" in pattern:
            kept = Kept.objects.filter(owner=self.owner, kind="set").first()
            assert kept is not None
            pattern = pattern.replace("<slug:key>", "moment").replace("<int:key>", str(kept.pk))
            return [pattern.replace("<str:said>", "x")]
        if "cards/lens/" in pattern:
            lens = Lens.objects.filter(owner=self.owner).first()
            assert lens is not None
            pattern = pattern.replace("<slug:kind>", "over")
            return [pattern.replace("<int:key>", str(lens.pk))]
        pattern = pattern.replace("<slug:ending>", "pdf")
        if "packs/<int:key>" in pattern:
            pack = Pack.objects.filter(owner=self.owner).first()
            assert pack is not None
            return [pattern.replace("<int:key>", str(pack.pk))]
        pattern = pattern.replace("<slug:kind>/", "plan/").replace("<slug:face>", "sheet")
        kinds = {"kept/<int:key>/sheet": "plan", "plan/": "plan", "set/": "set", "night/": "night"}
        kind = next((one for part, one in kinds.items() if f"/{part}" in f"/{pattern}"), None)
        kept = Kept.objects.filter(owner=self.owner, **({"kind": kind} if kind else {})).first()
        assert kept is not None
        pattern = pattern.replace("<slug:digest>", "0").replace(
            "<slug:key>.<slug:kind>", "view.css"
        )
        pattern = pattern.replace("<int:key>", str(kept.pk))
        return [pattern.replace("<uidb64>", "MQ").replace("<token>", "a-b")]

    def mine_now(self) -> list[Any]:
        """All that is mine, with every value of it."""
        models: list[type[Thing] | type[Kept]] = [kind.model for kind in KINDS.values()]
        rows = [list(model.with_deleted.filter(owner=self.owner).values())
                for model in (*models, Kept)]  # fmt: skip
        return [*rows, list(Owner.objects.filter(pk=self.owner.pk).values())]

    def test_by_every_method(self) -> None:
        guest, stranger, fresh = Client(), Client(), Client()
        guest.post("/view/save/", {"name": "A guest's", "state": ""})
        fields = {"username": "Iven", "password1": PASSWORD, "password2": PASSWORD}
        stranger.post("/you/join/", fields)
        before = self.mine_now()
        paths = sorted(addresses(), key=lambda path: path in ENDS_VISITS)
        self.assertGreater(len(paths), 45)
        for who, client in (("a guest", guest), ("another", stranger), ("somebody new", fresh)):
            for pattern in paths if who == "another" else some(paths, 3, first=who == "a guest"):
                for path in self.filled(pattern):
                    for method in METHODS if who == "a guest" or WHOLE else ("get", "post"):
                        with self.subTest(who, path=path, method=method):
                            answer = getattr(client, method)(f"/{path}")
                            self.assertLess(answer.status_code, 500)
                            signs_in = answer.headers.get("Location", "").startswith("/you/sign")
                            if method in ("put", "patch", "delete") and not signs_in:
                                self.assertEqual(answer.status_code, 405)
                            if method == "options" and not signs_in:
                                self.assertIn(answer.status_code, (200, 405))
                            theirs = "<int:key>" in pattern and method in ("get", "post", "head")
                            if theirs:
                                self.assertIn(answer.status_code, (404, 405))
            self.assertEqual(self.mine_now(), before, who)

    def test_what_head_says_is_what_get_says(self) -> None:
        for pattern in some([*addresses()], 5):
            for path in self.filled(pattern):
                got, head = self.mine.get(f"/{path}"), self.mine.head(f"/{path}")
                with self.subTest(path):
                    self.assertEqual(head.status_code, got.status_code)
                    self.assertEqual(head.get("Location"), got.get("Location"))
                    self.assertEqual(head.content, b"")
