"""What is somebody's is there for nobody else: every address that takes an id, tried by others."""

from __future__ import annotations

from typing import Any

from django.test import Client
from django.urls import URLPattern, URLResolver, get_resolver

from tests.web.test_people import Base
from web.bag.models import Body, Lens
from web.bench.models import Test, Thumbnail
from web.kept.kinds import kinds
from web.kept.models import Kept
from web.outings.models import Frame, Outing


def patterns(resolver: URLResolver, prefix: str = "") -> list[str]:
    """Every address the application answers to, as the URL configuration has it."""
    found = []
    for each in resolver.url_patterns:
        path = prefix + str(each.pattern)
        found.extend(patterns(each, path) if isinstance(each, URLResolver) else [path])
        assert isinstance(each, (URLPattern, URLResolver))
    return found


def with_ids() -> list[str]:
    return [path for path in patterns(get_resolver()) if "<int:" in path]


class StrangerTest(Base):
    """Every address that takes an id, found in the URL configuration, tried by others."""

    def test_anothers_things_are_not_there(self) -> None:
        owner = self.join()
        plan = self.save(owner)
        lens, body = (model.objects.filter(owner=plan.owner).first() for model in (Lens, Body))
        in_bag = {"lens": lens, "body": body}
        kept = {
            kind.app: Kept.objects.filter(owner=plan.owner, kind=kind.key).first()
            for kind in kinds()
        }
        test = Test.objects.create(owner=plan.owner, lens=lens)
        small = Thumbnail.objects.create(owner=plan.owner, finding="0a1b2c3d", name="a", small=b"x")
        outing = Outing.objects.create(owner=plan.owner, name="Mine")
        frame = Frame.objects.create(outing=outing, name="a.jpg")
        stranger, guest, fresh = self.join(name="Iven"), Client(), Client()
        self.save(guest, "Guest's")
        self.assertGreater(len(with_ids()), 3)
        paths = []
        for pattern in with_ids():
            one: Any = kept.get(pattern.partition("/")[0], plan)
            if pattern.startswith("outings/"):
                one = frame if "outings/frames/" in pattern else outing
                pattern = pattern.replace("<slug:ending>", "csv")
            if pattern.startswith(("bench/", "cards/lens/")):
                one = test if "tests/" in pattern else small if "frames/" in pattern else lens
                pattern = pattern.replace("<int:frame>", "1")
            for slug, thing in in_bag.items() if "<slug:slug>" in pattern else [("", one)]:
                filled = pattern.replace("<slug:slug>", slug)
                paths.append(f"/{filled.replace('<int:key>', str(thing.pk))}")
        for path in paths:
            for client in (stranger, guest, fresh):
                for method in (client.get, client.post):
                    with self.subTest(path, method=method.__name__):
                        self.assertIn(method(path).status_code, (404, 405))
            self.assertIn(
                404, {stranger.get(path).status_code, stranger.post(path).status_code}, path
            )
        self.assertTrue(Kept.objects.filter(pk=plan.pk).exists())
