"""Several people writing at once: nothing is lost."""

from __future__ import annotations

import threading

from django.db import connection, transaction
from django.db.models import F
from django.test import Client, TransactionTestCase

from web.bag.models import Lens
from web.demo.world import load
from web.people.models import Owner

WRITERS, TIMES = 4, 15


class WritersTest(TransactionTestCase):
    def together(self, work: list[threading.Thread]) -> None:
        for thread in work:
            thread.start()
        for thread in work:
            thread.join()

    def test_reading_and_writing_back_loses_no_update(self) -> None:
        owner = load()
        failed: list[Exception] = []

        def write() -> None:
            try:
                for _ in range(TIMES):
                    with transaction.atomic():
                        kept = Owner.objects.select_for_update().get(pk=owner.pk)
                        Owner.objects.filter(pk=owner.pk).update(pace_mm=kept.pace_mm + 1)
                        Owner.objects.filter(pk=owner.pk).update(arm_mm=F("arm_mm") + 1)
            except Exception as error:
                failed.append(error)
            finally:
                connection.close()

        before = owner.pace_mm
        self.together([threading.Thread(target=write) for _ in range(WRITERS)])
        self.assertEqual(failed, [])
        owner.refresh_from_db()
        self.assertEqual(owner.pace_mm, before + WRITERS * TIMES)

    def test_guests_putting_lenses_in_at_the_same_time_all_keep_theirs(self) -> None:
        load()
        answers: list[int] = []

        def guest(number: int) -> None:
            try:
                client = Client()
                for at in range(5):
                    fields = {
                        "name": f"Lens {number}-{at}", "shortest_mm": "35", "widest": "2",
                        "ring_kind": "stops", "to_infinity": "1",
                    }  # fmt: skip
                    answers.append(client.post("/bag/lens/new/", fields).status_code)
            finally:
                connection.close()

        self.together([threading.Thread(target=guest, args=(n,)) for n in range(WRITERS)])
        self.assertEqual(answers, [302] * WRITERS * 5)
        self.assertEqual(Lens.objects.filter(name__startswith="Lens ").count(), WRITERS * 5)
        self.assertEqual(Owner.objects.filter(is_sample=False).count(), WRITERS)
