"""What holds of every page, asked of them as they are: a new field or address is asked too.

No text is read as markup, or escaped twice; what is one's own is named on no stranger's page;
looking changes nothing; the database is asked no more than it was.
"""

from __future__ import annotations

import re
from urllib.parse import urlencode

from django.db import connection
from django.http import QueryDict
from django.test import Client, TestCase
from django.test.utils import CaptureQueriesContext
from django.urls import reverse

from tests.web.fuzz import PLANNERS
from tests.web.links import HTMX
from tests.web.test_classes import MARK, kept_of
from tests.web.test_people import PASSWORD
from web.bag.views import KINDS
from web.demo.world import load
from web.kept.models import Kept
from web.people.models import Owner

HOSTILE = "<b id=x>&\"'</b>"
ESCAPED_TWICE = ("&amp;lt;", "&amp;amp;", "&amp;quot;", "&amp;#x27;", "&amp;gt;")


class HostileTest(TestCase):
    """No text that somebody typed is read as markup anywhere, or escaped twice."""

    def assert_plain(self, page: str, where: str) -> None:
        self.assertNotIn("<b id=x>", page, where)
        for part in ESCAPED_TWICE:
            self.assertNotIn(part, page, where)

    def test_in_every_field_of_every_planner(self) -> None:
        load()
        for app, page in PLANNERS.items():
            folds = " ".join(fold.id for fold in page.folds)
            for name in (*page.gear, *(MARK if app == "view" else ())):
                link = QueryDict(kept_of(app), mutable=True)
                link[name] = HOSTILE
                query = link.urlencode()
                whole = self.client.get(f"/{app}/?{query}&name={urlencode({'': HOSTILE})[1:]}")
                self.assertEqual(whole.status_code, 200)
                self.assert_plain(whole.content.decode(), f"{app} {name}")
                headers = {**HTMX, "Aim-Unfolded": folds}
                part = self.client.get(f"/{app}/?{query}", headers=headers)
                self.assert_plain(part.content.decode(), f"{app} {name}, in part")
        for path in (
            "/cards/plan/sheet/", "/cards/plan/card/", "/cards/night/card/", "/sky/walk/",
            "/cards/set/card/", "/street/practice/",
        ):  # fmt: skip
            of = {"plan": "view", "night": "sky", "set": "street"}
            app = next((of[part] for part in path.split("/") if part in of), path.split("/")[1])
            link = QueryDict(kept_of(app), mutable=True)
            link["name"] = HOSTILE
            link["lens"] = HOSTILE
            page_of = self.client.get(f"{path}?{link.urlencode()}").content.decode()
            self.assert_plain(page_of, path)
            self.assertIn("&lt;b id=x&gt;", page_of, f"{path} names it")

    def test_of_what_is_kept(self) -> None:
        load()
        words = {"name": HOSTILE, "note": HOSTILE, "state": kept_of("view")}
        self.client.post("/view/save/", words)
        for slug, kind in KINDS.items():
            owner = Owner.objects.get(is_sample=False)
            thing = kind.model.objects.filter(owner=owner).first()
            assert thing is not None
            form = kind.form(instance=thing, owner=owner)
            data = {name: form.text_of(name) for name in form.fields} | {"name": HOSTILE}
            self.assertEqual(self.client.post(f"/bag/{slug}/{thing.pk}/", data).status_code, 302)
        kept = Kept.objects.get(name=HOSTILE)
        lens = KINDS["lens"].model.objects.get(name=HOSTILE)
        said = urlencode({"": HOSTILE})[1:]
        for path in ("/bag/", "/kept/", "/view/", "/bag/standards/", "/bag/formats/", "/sky/",
                     "/street/", kept.get_absolute_url(), f"/bag/lens/{lens.pk}/",
                     f"/cards/kept/{kept.pk}/sheet/", f"/kept/?lens={said}",
                     f"/bag/?gone=lens-{lens.pk}", f"/kept/?q={said}"):  # fmt: skip
            page = self.client.get(path).content.decode()
            self.assert_plain(page, path)
        listed = self.client.get("/kept/").content.decode()
        self.assertIn("&lt;b id=x&gt;", listed)


class StrangersTest(TestCase):
    """Nothing of one's own, there or deleted, is named on any page of a stranger."""

    def test_no_name_reaches_another(self) -> None:
        load()
        mine = Client()
        fields = {"username": "Marlo", "password1": PASSWORD, "password2": PASSWORD}
        mine.post("/you/join/", fields)
        names = []
        for app in PLANNERS:
            for word in ("There", "Gone"):
                names.append(f"{word} {app}")
                mine.post(f"/{app}/save/", {"name": names[-1], "state": "", "note": f"Note {app}"})
        for kept in Kept.objects.filter(name__startswith="Gone"):
            mine.post(reverse("kept:delete", args=[kept.pk]))
        for slug, kind in KINDS.items():
            owner = Owner.objects.get(person__username="Marlo")
            thing = kind.model.objects.filter(owner=owner).first()
            assert thing is not None
            thing.name = f"Own {slug}"
            thing.save()
            names.append(thing.name)
            if slug == "lens":
                mine.post(f"/bag/lens/{thing.pk}/take-out/")
        self.assertIn("There view", mine.get("/kept/").content.decode())
        guest, stranger, fresh = Client(), Client(), Client()
        guest.post("/view/save/", {"name": "A guest's", "state": ""})
        fields["username"] = "Iven"
        stranger.post("/you/join/", fields)
        mine_only = {"owner__person__username": "Marlo"}
        own = Kept.with_deleted.filter(**mine_only, name__in=names)
        apps = {page.kind.key: app for app, page in PLANNERS.items()}
        paths = ["/view/", "/street/", "/sky/", "/kept/", "/bag/", "/you/", "/bag/standards/",
                 "/bag/formats/", "/bag/file/", "/you/export/", "/kept/?q=There"]  # fmt: skip
        paths += [f"/kept/?deleted={one.pk}" for one in own]
        for slug, kind in KINDS.items():
            for key in kind.model.with_deleted.filter(**mine_only).values_list("pk", flat=True):
                paths += [f"/bag/?gone={slug}-{key}", f"/bag/{slug}/{key}/"]
        for one in own:
            path = f"/{apps[one.kind]}/{one.kind}/{one.pk}/"
            paths += [path, f"{path}sheet/", f"{path}card/", f"{path}walk/"]
        for client in (guest, stranger, fresh):
            for path in paths:
                page = client.get(path).content.decode()
                for name in (*names, "Note view", "Marlo"):
                    self.assertNotIn(name, page, path)


class ChangedBySendingTest(TestCase):
    """Looking changes nothing: what changes something is sent, and GET of it is refused."""

    def test_getting_an_address_that_changes_something_changes_nothing(self) -> None:
        load()
        self.client.post("/view/save/", {"name": "Mine", "state": ""})
        kept = Kept.objects.get(name="Mine")
        lens = KINDS["lens"].model.objects.filter(owner=kept.owner).first()
        assert lens is not None
        before = list(Kept.with_deleted.values()), list(KINDS["lens"].model.with_deleted.values())
        for path in (
            f"/kept/{kept.pk}/delete/", f"/kept/{kept.pk}/duplicate/", f"/kept/{kept.pk}/restore/",
            "/view/save/", f"/view/plan/{kept.pk}/save/", f"/bag/lens/{lens.pk}/take-out/",
            f"/bag/lens/{lens.pk}/put-back/", "/bag/in-hand/", "/light/", "/you/sign-out/",
        ):  # fmt: skip
            for method in ("get", "head", "put", "delete"):
                answer = getattr(self.client, method)(path)
                self.assertEqual(answer.status_code, 405, (method, path))
        after = list(Kept.with_deleted.values()), list(KINDS["lens"].model.with_deleted.values())
        self.assertEqual(after, before)


class QueriesTest(TestCase):
    """How often the database is asked: no more than this, whoever looks."""

    MOST = {
        ("fragment", "fresh"): 6, ("fragment", "guest"): 6, ("fragment", "signed in"): 7,
        ("page", "fresh"): 11, ("page", "guest"): 13, ("page", "signed in"): 14,
    }  # fmt: skip

    def test_of_every_planner(self) -> None:
        load()
        fresh, guest, person = Client(), Client(), Client()
        guest.post("/view/save/", {"name": "Mine", "state": ""})
        fields = {"username": "Marlo", "password1": PASSWORD, "password2": PASSWORD}
        person.post("/you/join/", fields)
        for client, who in ((fresh, "fresh"), (guest, "guest"), (person, "signed in")):
            for app in PLANNERS:
                client.get(f"/{app}/")
                for how, headers in (("fragment", HTMX), ("page", {})):
                    with CaptureQueriesContext(
                        connection,
                    ) as asked:
                        client.get(f"/{app}/?{kept_of(app)}", headers=headers)
                    said = [re.sub(r"\s+", " ", one["sql"])[:90] for one in asked]
                    self.assertLessEqual(len(asked), self.MOST[how, who], (app, how, who, said))
