"""What is kept of the ledger beside it: always what the ledger leaves, written by nobody else, asked for at one price."""

from __future__ import annotations

import logging
import random
from io import StringIO
from unittest import mock

from django.core.management import CommandError, call_command
from django.db import DatabaseError, connection, transaction
from django.test.utils import CaptureQueriesContext

from felloe.core.errors import TradeError
from felloe.core.stock.claims import Claim
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.stock import services
from felloe.stock.models import Balance, Claimed, Movement, Part
from felloe.stock.services import ledger, orders
from felloe.stock.services.ledger import differences
from felloe.stock.tasks import go_through_the_ledger
from tests.api.shop import ShopCase, open_job

SPOKES = ("Spoke 288", "Spoke 290")


class Kept(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.parts = [self._part(name) for name in SPOKES]
        self.jobs = [open_job(self.bram), open_job(self.ines)]

    def _part(self, name: str) -> Part:
        attributes = {"length_mm": 290.0, "end_diameter_mm": 2.0}
        return services.add_part(self.bram, {"kind": "spoke", "name": name, "supplier": "Quay", "attributes": attributes})

    def test_whatever_is_done_in_whatever_order_the_bin_is_what_the_ledger_leaves(self) -> None:
        """Drawn by chance: also what is refused leaves nothing behind."""
        draw = random.Random(18)
        refused = 0
        for _ in range(300):
            part, job, count = draw.choice(self.parts), draw.choice(self.jobs), draw.randint(0, 9)
            deed = draw.choice(["count", "reserve", "release", "take", "give_back", "order", "receive"])
            try:
                if deed == "count":
                    services.count_bin(self.bram, part.pk, count)
                elif deed == "order":
                    orders.send_order(self.bram, "Quay", [{"part": part.pk, "count": count}, {"part": part.pk, "count": 1}])
                elif deed == "receive":
                    for order in orders.orders_of(self.bram)[:1]:
                        lines = [{"line": line.pk, "count": min(count, line.count)} for line in order.lines.all()]
                        orders.receive(self.bram, order.pk, lines)
                else:
                    getattr(services, deed)(self.bram, part.pk, job.pk, count)
            except Exception as error:
                if not isinstance(error, TradeError) and getattr(error, "status_code", 0) not in (409, 422):
                    raise
                refused += 1
        self.assertTrue(30 < refused < 250, refused)
        self.assertEqual(differences(), [])
        for part in self.parts:
            told = sum(Movement.objects.filter(part=part).values_list("delta", flat=True))
            self.assertEqual(services.figures_of(part).on_hand, told)

    def test_nobody_else_writes_there(self) -> None:
        services.count_bin(self.bram, self.parts[0].pk, 9)
        services.reserve(self.bram, self.parts[0].pk, self.jobs[0].pk, 4)
        for wrong in (
            lambda: Balance.objects.update(on_hand=400),
            lambda: Balance.objects.filter(part=self.parts[0]).delete(),
            lambda: Balance.objects.create(part=self.parts[1], shop=self.shop, on_hand=4),
            lambda: Claimed.objects.update(count=1),
            lambda: Claimed.objects.all().delete(),
        ):
            with self.assertRaisesMessage(DatabaseError, "written by the ledger"), transaction.atomic():
                wrong()

    def test_a_bin_below_nothing_cannot_be(self) -> None:
        part = self.parts[0]
        services.count_bin(self.bram, part.pk, 3)
        with self.assertRaisesMessage(DatabaseError, "bin_never_below_nothing"), transaction.atomic():
            Movement.objects.create(shop=self.shop, part=part, kind="take", delta=-4, job=self.jobs[0])
        with self.assertRaisesMessage(DatabaseError, "claim_never_below_nothing"), transaction.atomic():
            Movement.objects.create(shop=self.shop, part=part, kind="release", claim_delta=-1, job=self.jobs[0])
        self.assertEqual(services.figures_of(part).on_hand, 3)

    def test_many_entries_in_one_statement_count_like_one_after_another(self) -> None:
        part, job = self.parts[0], self.jobs[0]
        services.count_bin(self.bram, part.pk, 5)
        Movement.objects.bulk_create(
            Movement(shop=self.shop, part=part, kind=kind, delta=delta, claim_delta=claim, job=job)
            for kind, delta, claim in (("reserve", 0, 4), ("take", -3, -3), ("return", 1, 0), ("reserve", 0, 2))
        )
        found = services.figures_of(part)
        self.assertEqual((found.on_hand, found.claims), (3, (Claim(str(job.pk), 3),)))

    def test_a_claim_let_go_and_made_anew_stands_behind_those_made_meanwhile(self) -> None:
        part, (first, second) = self.parts[0], self.jobs
        services.count_bin(self.bram, part.pk, 4)
        services.reserve(self.bram, part.pk, first.pk, 4)
        services.reserve(self.ines, part.pk, second.pk, 2)
        services.release(self.bram, part.pk, first.pk, 4)
        services.reserve(self.bram, part.pk, first.pk, 4)
        found = services.figures_of(part)
        self.assertEqual([claim.job for claim in found.claims], [str(second.pk), str(first.pk)])
        self.assertEqual((found.covered_of(str(second.pk)), found.covered_of(str(first.pk))), (2, 2))
        self.assertEqual(differences(), [])

    def test_a_job_that_lets_go_all_that_it_waited_for_waits_no_longer(self) -> None:
        part, job = self.parts[0], self.jobs[0]
        services.reserve(self.bram, part.pk, job.pk, 4)
        self.assertEqual(queue.find_job(self.bram, job.pk).waiting_on, Job.WaitingOn.PARTS)
        services.release(self.bram, part.pk, job.pk, 1)
        self.assertEqual(queue.find_job(self.bram, job.pk).waiting_on, Job.WaitingOn.PARTS)
        services.release(self.bram, part.pk, job.pk, 3)
        self.assertEqual(queue.find_job(self.bram, job.pk).waiting_on, "")

    def test_orders_that_came_or_were_given_up_are_not_still_to_come(self) -> None:
        part = self.parts[0]
        for count in (5, 7, 9):
            orders.send_order(self.bram, "Quay", [{"part": part.pk, "count": count}])
        first, second, third = orders.orders_of(self.bram)
        self.assertEqual(services.figures_of(part).on_order, 21)
        orders.receive(self.bram, first.pk, [{"line": first.lines.get().pk, "count": 5}])
        orders.cancel(self.bram, second.pk)
        orders.receive(self.bram, third.pk, [{"line": third.lines.get().pk, "count": 4}])
        self.assertEqual(services.figures_of(part).on_order, 5)

    def test_the_ledger_is_not_asked_for_what_is_kept(self) -> None:
        """However long it is: no question about bins and claims reads it but for what of an open order has come."""
        services.count_bin(self.bram, self.parts[0].pk, 9)
        with CaptureQueriesContext(
            connection,
        ) as asked:
            services.figures(self.parts)
        of_ledger = [one["sql"] for one in asked.captured_queries if "stock_movement" in one["sql"]]
        self.assertTrue(all("order_line_id" in one for one in of_ledger), of_ledger)
        self.assertLessEqual(len(asked.captured_queries), 4)


class GoneThrough(ShopCase):
    def _spoil(self) -> None:
        """As nothing in Felloe can: by the database's administrator, with the triggers off."""
        with connection.cursor() as cursor:
            cursor.execute("SET session_replication_role = replica")
            cursor.execute("UPDATE stock_balance SET on_hand = on_hand + 1")
            cursor.execute("SET session_replication_role = origin")

    def test_what_only_seemed_to_differ_while_somebody_worked_is_not_told(self) -> None:
        part = services.add_part(self.bram, {"kind": "tape", "name": "Tape", "attributes": {"width_mm": 20}})
        services.count_bin(self.bram, part.pk, 9)
        with mock.patch.object(ledger, "_doubtful", return_value={part.pk}):
            self.assertEqual(ledger.differences(), [])

    def test_what_differs_is_told_by_the_command_and_in_the_log(self) -> None:
        part = services.add_part(self.bram, {"kind": "tape", "name": "Tape", "attributes": {"width_mm": 20}})
        services.count_bin(self.bram, part.pk, 9)
        said = StringIO()
        call_command("ledger", stdout=said)
        self.assertIn("1 parts", said.getvalue())
        self._spoil()
        with self.assertRaisesMessage(CommandError, "on_hand=10"):
            call_command("ledger")
        with self.assertLogs(logging.getLogger("felloe.stock"), "ERROR") as told:
            go_through_the_ledger.func(0)
        self.assertIn("on_hand=9", told.output[0])
