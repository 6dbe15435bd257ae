"""Accounts, guests, and whose things are whose."""

from __future__ import annotations

import re
from io import StringIO

from django.core import mail
from django.core.management import CommandError, call_command
from django.test import Client, RequestFactory, TestCase
from django.urls import reverse

from web.bag.models import Lens
from web.demo.world import load
from web.kept.models import Kept
from web.people import address
from web.people.models import Owner, Person
from web.view.forms import sample_query

PASSWORD = "a slab of slate 9"


class Base(TestCase):
    def join(self, client: Client | None = None, name: str = "Marlo", **more: str) -> Client:
        client = client or Client()
        fields = {"username": name, "password1": PASSWORD, "password2": PASSWORD, **more}
        answer = client.post("/you/join/", fields)
        self.assertEqual(answer.status_code, 302, answer.content)
        return client

    def save(self, client: Client, name: str = "Pit") -> Kept:
        client.post("/view/save/", {"name": name, "state": sample_query().urlencode()})
        plan = Kept.objects.order_by("-pk").filter(name=name).first()
        assert plan is not None
        return plan


class GuestTest(Base):
    def test_looking_makes_nobody(self) -> None:
        load()
        for path in ("/view/", "/kept/", "/you/"):
            answer = self.client.get(path)
            self.assertEqual(answer.status_code, 200)
            self.assertNotIn("sessionid", answer.cookies)
        self.assertEqual(Owner.objects.count(), 1)

    def test_the_first_thing_kept_makes_an_owner_with_a_copy_of_the_sample(self) -> None:
        self.save(self.client)
        page = self.client.get("/kept/")
        for name in ("Pit", "Sallow Pit", "Tinder Row, under the wires", "Hallin Top, the hut"):
            self.assertContains(page, f"<b>{name}</b>")
        self.assertContains(page, "Make an account")
        self.assertNotContains(Client().get("/kept/"), "<b>Pit</b>")

    def test_changing_the_samples_plan_changes_a_copy(self) -> None:
        original = load().kepts.get(name="Sallow Pit")
        path = f"/view/plan/{original.pk}/"
        kept = self.client.post(
            f"{path}save/", {"name": "Mine now", "state": sample_query().urlencode()}, follow=True
        )
        self.assertContains(kept, 'value="Mine now"')
        self.assertContains(self.client.get(path), 'value="Mine now"')
        self.assertContains(Client().get(path), 'value="Sallow Pit"')
        self.client.post(reverse("kept:delete", args=[original.pk]))
        self.assertEqual(self.client.get(path).status_code, 404)
        self.assertContains(Client().get(path), 'value="Sallow Pit"')
        Client().post(reverse("kept:restore", args=[original.pk]))
        self.assertEqual(self.client.get(path).status_code, 404)


class AccountTest(Base):
    def test_what_a_guest_made_comes_along_into_a_new_account(self) -> None:
        plan = self.save(self.client)
        self.join(self.client)
        self.assertContains(self.client.get("/kept/"), "<b>Pit</b>")
        self.assertContains(self.client.get("/you/"), "Marlo")
        plan.refresh_from_db()
        self.assertEqual(str(plan.owner), "Marlo")

    def test_and_into_an_old_one_without_doubling_the_sample(self) -> None:
        self.save(self.join(), "First")
        self.save(self.client, "Second")
        self.client.post("/you/sign-in/", {"username": "Marlo", "password": PASSWORD})
        page = self.client.get("/kept/")
        for name in ("First", "Second", "Sallow Pit"):
            self.assertContains(page, f"<b>{name}</b>", count=1)
        self.assertEqual(Owner.objects.filter(person=None, is_sample=False).count(), 0)

    def test_a_changed_copy_comes_along_too(self) -> None:
        self.join().get("/bag/")
        lens = load().lenss.get(name="50 mm f/1.8")
        fields = {"name": lens.name, "shortest_mm": "50", "widest": "1.4", "ring_kind": "stops",
                  "to_infinity": "1"}  # fmt: skip
        self.client.post(f"/bag/lens/{lens.pk}/", fields)
        self.client.post("/you/sign-in/", {"username": "Marlo", "password": PASSWORD})
        own = Lens.objects.filter(owner__person__username="Marlo")
        self.assertEqual(own.get(name="50 mm f/1.8 (2)").widest, 1.4)
        self.assertEqual(own.count(), load().lenss.count() + 1)

    def test_guests_are_forgotten_in_the_end_and_nobody_else(self) -> None:
        self.join().get("/bag/")
        self.save(self.client)
        Owner.objects.filter(is_sample=False).update(used_on="2020-01-01")
        fresh = Client()
        self.save(fresh, "Fresh")
        said = StringIO()
        call_command("forget_guests", stdout=said)
        self.assertIn("Forgot 1 guest.", said.getvalue())
        names = {str(owner) for owner in Owner.objects.exclude(person=None)}
        self.assertEqual(names, {"Marlo"})
        self.assertContains(fresh.get("/kept/"), "<b>Fresh</b>")
        self.assertNotContains(self.client.get("/kept/"), "<b>Pit</b>")
        with self.assertRaises(CommandError):
            call_command("forget_guests", days=0)

    def test_signing_out_leaves_nothing_behind(self) -> None:
        client = self.join()
        self.save(client)
        self.assertEqual(client.get("/you/sign-out/").status_code, 405)
        client.post("/you/sign-out/")
        self.assertNotContains(client.get("/kept/"), "<b>Pit</b>")

    def test_messages_stand_beside_what_is_wrong_and_nothing_typed_is_lost(self) -> None:
        self.join()
        cases = (
            ({"username": "MARLO"}, "That name is taken"),
            ({"username": ""}, "Choose a name"),
            ({"password1": "12345", "password2": "12345"}, "too short"),
            ({"password2": "another"}, "match"),
            ({"email": "nonsense"}, "not a mail address"),
        )
        good = {
            "username": "Iven",
            "password1": PASSWORD,
            "password2": PASSWORD,
            "email": "a@b.example",
        }
        for changed, message in cases:
            with self.subTest(message):
                page = self.client.post("/you/join/", {**good, **changed})
                self.assertContains(page, message, status_code=422)
                self.assertContains(
                    page, f'value="{changed.get("email", "a@b.example")}"', status_code=422
                )
                self.assertNotContains(page, PASSWORD, status_code=422)

    def test_password_changed_and_reset_by_mail(self) -> None:
        client = self.join(email="marlo@valley.example")
        new = "a winch wheel 42"
        fields = {"old_password": PASSWORD, "new_password1": new, "new_password2": new}
        self.assertContains(client.post("/you/password/", fields, follow=True), "is changed")
        self.client.post("/you/reset/", {"email": "nobody@valley.example"})
        self.assertEqual(mail.outbox, [])
        sent = self.client.post("/you/reset/", {"email": "marlo@valley.example"}, follow=True)
        self.assertContains(sent, "Look in your mail")
        link = re.search(r"http://testserver(/\S+)", str(mail.outbox[0].body))
        assert link is not None
        page = self.client.get(link[1], follow=True)
        path = page.redirect_chain[-1][0]
        fields = {"new_password1": PASSWORD, "new_password2": PASSWORD}
        self.assertContains(self.client.post(path, fields, follow=True), "is changed")
        used = self.client.get(link[1], follow=True)
        self.assertContains(used, "has been used")
        again = Client().post("/you/sign-in/", {"username": "Marlo", "password": PASSWORD})
        self.assertEqual(again.status_code, 302)

    def test_ten_wrong_passwords_lock_the_name_from_there_and_say_nothing_else(self) -> None:
        self.join()
        wrong = {"username": "Marlo", "password": "wrong"}
        for _ in range(9):
            self.assertContains(self.client.post("/you/sign-in/", wrong), "do not go together")
        self.assertEqual(self.client.post("/you/sign-in/", wrong).status_code, 429)
        right = {"username": "Marlo", "password": PASSWORD}
        locked = self.client.post("/you/sign-in/", right)
        self.assertContains(locked, "Too many tries", status_code=429)
        other = self.client.post("/you/sign-in/", right, REMOTE_ADDR="10.9.8.7")
        self.assertEqual(other.status_code, 302, "whoever guesses locks nobody else out")
        unknown = {"username": "Nobody", "password": "wrong"}
        for _ in range(10):
            last = Client().post("/you/sign-in/", unknown, REMOTE_ADDR="10.9.8.6")
        self.assertEqual(last.status_code, 429, "a name that is not there is locked the same")

    def test_behind_a_proxy_the_address_is_what_the_proxy_saw(self) -> None:
        request = RequestFactory().get("/", REMOTE_ADDR="10.0.0.1",
                                       HTTP_X_FORWARDED_FOR="6.6.6.6, 5.5.5.5")  # fmt: skip
        for proxies, seen in ((0, "10.0.0.1"), (1, "5.5.5.5"), (2, "6.6.6.6"), (3, "10.0.0.1")):
            with self.settings(PROXIES=proxies):
                self.assertEqual(address.of(request), seen)

    def test_nobody_is_sent_elsewhere_after_signing_in(self) -> None:
        self.join()
        fields = {"username": "Marlo", "password": PASSWORD, "next": "https://elsewhere.example/"}
        answer = self.client.post("/you/sign-in/", fields)
        self.assertRedirects(answer, "/kept/")


class PreferencesTest(Base):
    GOOD = {"units": "m", "pace_mm": "80 cm", "arm_mm": "0.6 m", "eye_height_mm": "5' 3\"",
            "judgement_error": "12"}  # fmt: skip

    def test_measures_are_kept_in_any_unit(self) -> None:
        self.assertContains(self.client.post("/you/", self.GOOD, follow=True), "Kept.")
        owner = Owner.objects.get(is_sample=False)
        self.assertAlmostEqual(owner.eye_height_mm, 1600.2)
        self.assertEqual((owner.pace_mm, owner.judgement_error), (800, 0.12))
        self.assertEqual(owner.measures.pace, 800)
        page = self.client.get("/you/")
        self.assertContains(page, 'value="0.8 m"')
        self.assertContains(Client().get("/you/"), 'value="0.75 m"')
        self.client.post("/you/", {**self.GOOD, "light": "dark"})
        self.assertContains(self.client.get("/you/"), 'data-light="dark"')

    def test_paces_are_ones_own_and_links_say_metres(self) -> None:
        self.client.post("/you/", {**self.GOOD, "pace_mm": "1 m"})
        query = {"mark_name": "Post", "mark_distance": "3 paces", "ring": "5 paces"}
        page = self.client.get("/view/", query)
        self.assertContains(page, 'value="3 paces"')
        fragment = self.client.get("/view/", query, headers={"HX-Request": "true"})
        self.assertIn("mark_distance=3+m", fragment["HX-Replace-Url"])
        self.assertIn("ring=5+m", fragment["HX-Replace-Url"])
        for typed, said in (("eye", "1.6 m"), ("2 paces", "2 m")):
            high = {**query, "camera_height": typed}
            fragment = self.client.get("/view/", high, headers={"HX-Request": "true"})
            self.assertIn(f"camera_height={said.replace(' ', '+')}", fragment["HX-Replace-Url"])
        fields = {"name": "Posts", "state": "mark_name=Post&mark_distance=3+paces"}
        self.assertContains(self.client.post("/view/save/", fields, follow=True), 'value="3 m"')
        stranger = Client().get("/view/", query, headers={"HX-Request": "true"})
        self.assertIn("mark_distance=2.25+m", stranger["HX-Replace-Url"])

    def test_nonsense_is_said_in_its_place(self) -> None:
        for name, text, message in (
            ("pace_mm", "12 furlongs", "The unit “furlongs” is not known"),
            ("pace_mm", "5 m", "A pace is 30 cm to 1.5 m"),
            ("arm_mm", "", "An arm is 30 cm"),
            ("eye_height_mm", "inf", "Eyes are"),
            ("judgement_error", "200", "from 0 to 100 %"),
            ("units", "furlongs", "Choose metres or feet"),
        ):
            with self.subTest(name, text=text):
                page = self.client.post("/you/", {**self.GOOD, name: text})
                self.assertContains(page, message, status_code=422)
                self.assertContains(
                    page, 'value="0.6 m"' if name != "arm_mm" else 'value="80 cm"', status_code=422
                )


class PersonTest(Base):
    def test_words_for_owners(self) -> None:
        self.assertEqual(str(load()), "the sample")
        self.save(self.client)
        guest = Owner.objects.get(is_sample=False)
        self.assertEqual(str(guest), f"guest {guest.pk}")
        self.assertFalse(Person.objects.exists())
