"""Outings before they begin, there, and handed over: what is gathered, logged, settled, kept."""

from __future__ import annotations

import io
import json
import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

from django.test import Client
from django.utils import timezone
from pypdf import PdfReader

from tests.web.test_people import Base
from web.bag.models import Lens
from web.demo.world import load
from web.kept.models import Kept
from web.outings import log, usecases
from web.outings.models import Entry, Frame, Item, Look, Outing, What
from web.people.models import Owner
from web.people.owners import taken_along


def entry(what: str, at: datetime | None = None, **more: Any) -> dict[str, Any]:
    """An entry as a device sends it."""
    return {"key": str(uuid.uuid4()), "device": "phone 1", "what": what, "item": None,
            "at": (at or timezone.now()).isoformat(), "subject": "", "follows": "", "says": {},
            **more}  # fmt: skip


class Case(Base):
    def setUp(self) -> None:
        self.client = self.join()
        self.owner = Owner.objects.get(person__username="Marlo")
        self.plan = Kept.objects.get(owner=self.owner, name="Sallow Pit")
        self.client.post("/outings/new/", {"name": "Spring tide"})
        self.outing = Outing.objects.get(owner=self.owner, name="Spring tide")
        self.at = f"/outings/{self.outing.pk}/"

    def gather(self, *kept: Kept) -> None:
        self.client.post(f"{self.at}gather/", {"kept": [one.pk for one in kept]})

    def send(self, *entries: dict[str, Any], client: Client | None = None) -> dict[str, Any]:
        body = json.dumps({"entries": list(entries), "zone": 60})
        answer = (client or self.client).post(f"{self.at}log.json", body, "application/json")
        self.assertEqual(answer.status_code, 200, answer.content)
        found: dict[str, Any] = answer.json()
        return found


class BeforeTest(Case):
    def test_what_is_gathered_says_what_to_set_pack_and_set_up(self) -> None:
        night = Kept.objects.get(owner=self.owner, kind="night", name="Hallin Top")
        self.gather(self.plan, night, self.plan)
        self.assertEqual(self.outing.items.count(), 2)
        page = self.client.get(self.at)
        self.assertContains(page, "2.6 m, f/11")
        self.assertContains(page, "20–35 mm f/4 zoom")
        self.assertContains(page, "Tripod")
        self.assertContains(page, "Red torch")
        self.assertContains(page, "Ring at 2.6 m; anywhere from 2.2 to 2.8 m will do.")
        self.assertContains(page, "Learn the ground by day")  # a night is dark, said or not
        self.assertContains(page, "Local rules")

    def test_it_is_said_in_the_words_of_the_body(self) -> None:
        link = self.plan.link.replace("lens=", "body=Full+frame%2C+24+MP&lens=", 1)
        texts = f"/view/save/?{link}"
        self.client.post(texts, {"name": "With a body", "state": link})
        self.gather(Kept.objects.get(owner=self.owner, name="With a body"))
        page = self.client.get(self.at)
        self.assertContains(page, "the thumb button")
        self.assertContains(page, "the centre of the rear dial")

    def test_what_is_said_of_it_is_kept_and_what_is_wrong_is_said_beside_it(self) -> None:
        said = {"name": "Spring tide", "place": "Sallow Pit", "on": "2026-03-21",
                "waits_for": "ebb", "better": "magnify", "again_minutes": "5",
                "again_frames": "0", "again_waves": "3",
                "grounds": ["water", "nonsense"]}  # fmt: skip
        self.assertEqual(self.client.post(f"{self.at}change/", said).status_code, 302)
        self.outing.refresh_from_db()
        self.assertEqual(str(self.outing.on), "2026-03-21")
        self.assertEqual(self.outing.grounds, ["water"])
        self.assertEqual((self.outing.again_minutes, self.outing.again_waves), (5, 3))
        wrong = {**said, "on": "soon", "name": "", "again_waves": "-4", "better": "b" * 501}
        page = self.client.post(f"{self.at}change/", wrong)
        self.assertEqual(page.status_code, 422)
        for words in ("Give the day as", "Give it a name", "Waves, 0 to 600", "500 have room"):
            self.assertContains(page, words, status_code=422)
        self.assertContains(page, "b" * 501, status_code=422)  # nothing typed is lost
        self.outing.refresh_from_db()
        self.assertEqual(self.outing.place, "Sallow Pit")

    def test_a_plan_that_changes_is_followed_until_it_begins(self) -> None:
        self.gather(self.plan)
        self.plan.link = self.plan.link.replace("f_number=11", "f_number=8")
        self.plan.save()
        self.assertContains(self.client.get(self.at), "f/8")
        self.send(entry("taken"))
        self.plan.link = self.plan.link.replace("f_number=8", "f_number=16")
        self.plan.save()
        page = self.client.get(self.at)
        self.assertContains(page, "It was changed since it was taken out")
        self.assertContains(page, "f/8")
        item = self.outing.items.get()
        self.client.post(f"{self.at}gather/", {"item": item.pk, "fresh": "1"})
        self.assertContains(self.client.get(self.at), "f/16")

    def test_order_leaving_and_packs(self) -> None:
        others = list(Kept.objects.filter(owner=self.owner)[:3])
        self.gather(*others)
        first = self.outing.items.all()[0]
        self.client.post(f"{self.at}gather/", {"item": first.pk, "to": "last"})
        self.assertEqual(self.outing.items.all()[2].pk, first.pk)
        self.client.post(f"{self.at}gather/", {"item": first.pk, "out": "1"})
        self.assertEqual(self.outing.items.count(), 2)
        pack = self.owner.packs.get()
        self.client.post(f"{self.at}gather/", {"packs": "1", "pack": [pack.pk, 10**9]})
        self.assertContains(self.client.get(self.at), pack.name)

    def test_one_sheet_is_one_page_of_paper(self) -> None:
        self.gather(self.plan, *Kept.objects.filter(owner=self.owner)[:5])
        self.assertContains(self.client.get(f"{self.at}sheet/"), "2.6 m, f/11")
        for paper in ("a4", "letter"):
            answer = self.client.get(f"{self.at}sheet.pdf?paper={paper}")
            self.assertEqual(answer["Content-Type"], "application/pdf")
            self.assertEqual(len(PdfReader(io.BytesIO(answer.content)).pages), 1)

    def test_the_way_back_from_deleting(self) -> None:
        answer = self.client.post(f"{self.at}delete/", follow=True)
        self.assertContains(answer, "Deleted “Spring tide”")
        self.assertEqual(self.client.get(self.at).status_code, 404)
        self.client.post(f"{self.at}restore/")
        self.assertEqual(self.client.get(self.at).status_code, 200)

    def test_the_place_again(self) -> None:
        self.gather(self.plan)
        self.send(entry("taken"))
        answer = self.client.post(f"{self.at}again/", {"better": "Two frames."}, follow=True)
        fresh = Outing.objects.get(name="Spring tide, again")
        self.assertEqual(fresh.after, self.outing)
        self.assertEqual(fresh.items.get().kept, self.plan.pk)
        self.assertContains(answer, "Two frames.")
        # What of the bag has changed since is said: the lens shifts its focus now.
        lens = Lens.objects.get(owner=self.owner, name="20–35 mm f/4 zoom")
        lens.pupil_ratio, lens.hiatus_mm = 1.6, 12.0
        lens.save()
        page = self.client.get(f"{self.at}after/")
        self.assertContains(page, "What would be set otherwise by now")
        self.assertContains(page, "the bag is another by now")
        self.assertContains(self.client.get(f"/outings/{fresh.pk}/"), "the bag is another by now")


class LogTest(Case):
    def test_what_is_sent_twice_is_there_once(self) -> None:
        first, second = entry("taken"), entry("wiped")
        self.assertEqual(len(self.send(first)["heard"]), 1)
        said = self.send(first, second, first)
        self.assertEqual(sorted(said["heard"]), sorted([first["key"], second["key"], first["key"]]))
        self.assertEqual(self.outing.entries.count(), 2)
        self.outing.refresh_from_db()
        self.assertEqual(self.outing.zone_minutes, 60)

    def test_what_is_no_entry_is_refused_and_says_why(self) -> None:
        good = entry("taken")
        far = (timezone.now() + timedelta(days=9)).isoformat()
        bad = [
            entry("danced"), {**entry("taken"), "at": "soon"}, {**entry("taken"), "at": far},
            {**entry("taken"), "key": "no key"}, "text", None, 7, {**entry("taken"), "at": None},
            {**entry("taken"), "at": "2026-13-45T99:00:00Z"}, {**entry("taken"), "what": []},
        ]  # fmt: skip
        said = self.send(*bad, good)
        self.assertEqual(said["heard"], [good["key"]])
        self.assertIn("look at the clock", " ".join(said["refused"].values()))
        for body in ("", "[]", "7", "{", '{"entries": 5}', "[" * 5000):
            answer = self.client.post(f"{self.at}log.json", body, "application/json")
            self.assertIn(answer.status_code, (200, 422), body)
        self.assertEqual(self.outing.entries.count(), 1)
        odd = {"item": [1], "subject": 5, "follows": None, "says": "x", "device": "d" * 99}
        self.assertEqual(len(self.send(entry("note", **odd))["heard"]), 1)

    def test_what_is_of_something_left_here_still_happened(self) -> None:
        self.gather(self.plan)
        item = self.outing.items.get()
        self.client.post(f"{self.at}gather/", {"item": item.pk, "out": "1"})
        self.send(entry("taken", item=item.pk))
        self.assertIsNone(self.outing.entries.get().item)

    def test_a_week_of_it_at_once(self) -> None:
        before = timezone.now() - timedelta(days=7)
        many = [entry("taken", before + timedelta(minutes=20 * n)) for n in range(480)]
        self.assertEqual(len(self.send(*many)["heard"]), 480)
        self.assertContains(self.client.get(f"{self.at}log/"), "Frame taken", 480)

    def check(self, word: str, device: str, follows: str = "") -> dict[str, Any]:
        says = {"end": "nearest", "word": word}
        return entry("checked", device=device, subject="check:1:nearest", says=says,
                     follows=follows)  # fmt: skip

    def test_two_devices_that_contradict_each_other_stand_side_by_side(self) -> None:
        mine, other = self.check("holds", "phone 1"), self.check("soft", "phone 2")
        self.send(mine)
        said = self.send(other)
        self.assertEqual(sorted(said["conflicts"][0]), sorted([mine["key"], other["key"]]))
        page = self.client.get(f"{self.at}log/")
        self.assertContains(page, "Two devices say different things")
        self.assertContains(page, "phone 2")
        self.client.post(f"{self.at}settle/", {"keep": other["key"]})
        self.assertEqual(log.conflicts(self.outing.entries.all()), [])
        self.assertEqual(self.outing.entries.count(), 3)  # both are still there
        self.client.post(f"{self.at}settle/", {"keep": other["key"]})
        self.assertEqual(self.outing.entries.count(), 3)

    def test_what_follows_or_says_the_same_is_no_contradiction(self) -> None:
        first = self.check("soft", "phone 1")
        later = self.check("holds", "phone 2", follows=first["key"])
        self.assertEqual(self.send(first, later)["conflicts"], [])
        same = [self.check("holds", device, follows=later["key"]) for device in ("a", "b")]
        self.assertEqual(self.send(*same)["conflicts"], [])
        taken_back = entry("undone", says={"of": same[0]["key"]})
        self.send(taken_back, self.check("soft", "c", follows=later["key"]))
        self.assertEqual(len(log.standing(self.outing.entries.all())), 4)

    def test_the_page_for_out_there(self) -> None:
        self.gather(self.plan)
        page = self.client.get(f"{self.at}there/")
        for words in ("2.6 m, f/11", "Frame taken", "Slate slab", "Tip ridge", "Knocked"):
            self.assertContains(page, words)

    def test_an_outing_deleted_under_an_open_page(self) -> None:
        usecases.delete(self.outing)
        answer = self.client.post(f"{self.at}log.json", "{}", "application/json")
        self.assertEqual(answer.status_code, 404)


class WhoseTest(Base):
    def test_a_guest_logs_in_the_samples_outing_and_has_their_own(self) -> None:
        sample = load().outings.get(name="Sallow Pit, low sun")
        item = sample.items.get(name="Sallow Pit")
        guest = Client()
        page = guest.get(f"/outings/{sample.pk}/there/")
        self.assertContains(page, f'data-item="{item.pk}"')
        body = json.dumps({"entries": [entry("taken", item=item.pk)]})
        guest.post(f"/outings/{sample.pk}/log.json", body, "application/json")
        own = Outing.objects.get(copied_from=sample.pk)
        last = own.entries.order_by("-pk")[0]
        self.assertEqual(last.item, own.items.get(name="Sallow Pit"))
        self.assertEqual(sample.entries.count() + 1, own.entries.count())
        self.assertContains(guest.get(f"/outings/{sample.pk}/there/"), f'data-item="{item.pk}"')
        # And what the page of the sample named is theirs: a frame, and what it is of.
        frame = sample.frames.get(name="pit-01.jpg")
        wheel = sample.items.get(name="Sallow Pit, the wheel alone")
        said = {"frame": frame.pk, "item": wheel.pk}
        guest.post(f"/outings/{sample.pk}/belongs/", said)
        self.assertEqual(own.frames.get(name="pit-01.jpg").item, own.items.get(name=wheel.name))
        self.assertEqual(sample.frames.get(name="pit-01.jpg").item, item)

    def test_what_a_guest_took_out_goes_with_them(self) -> None:
        guest = Client()
        guest.post("/outings/new/", {"name": "Mine"})
        own = Outing.objects.get(name="Mine")
        plan = Kept.objects.get(owner=own.owner, name="Sallow Pit")
        guest.post(f"/outings/{own.pk}/gather/", {"kept": plan.pk})
        self.join(name="Iven")
        guest.post("/you/sign-in/", {"username": "Iven", "password": "a slab of slate 9"})
        own.refresh_from_db()
        self.assertEqual(own.owner.person and own.owner.person.username, "Iven")
        kept = Kept.objects.get(pk=own.items.get().kept)
        self.assertEqual(kept.owner, own.owner)
        samples = Outing.objects.filter(owner=own.owner, name="Sallow Pit, low sun")
        self.assertEqual(samples.count(), 1)

    def test_it_is_told_and_what_nobody_has_is_forgotten(self) -> None:
        owner = load()
        said = taken_along(owner)["outings"]
        self.assertEqual(len(said), 3)
        self.assertEqual(sum(len(one["frames"]) for one in said), 11)
        json.dumps(said)
        Look.objects.create(digest="f" * 64)
        usecases.forget_looks()
        self.assertEqual(Look.objects.count(), 11)

    def test_the_models_say_what_they_are(self) -> None:
        outing = Outing(name="A", clock_off_s=30.0, zone_minutes=60)
        frame = Frame(outing=outing, name="b.jpg", at=datetime(2026, 3, 1, 12, tzinfo=UTC))
        self.assertEqual(frame.when, datetime(2026, 3, 1, 11, 0, 30, tzinfo=UTC))
        named = (outing, frame, Item(name="c"), Look(digest="d" * 64),
                 Entry(what=What.TAKEN, at=frame.at))  # fmt: skip
        self.assertEqual([str(one)[:5] for one in named], ["A", "b.jpg", "c", "ddddd", "taken"])
