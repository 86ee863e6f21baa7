"""One person in several shops: joined by proof, gone to without a password, customers sent on purpose; nobody else's."""

from __future__ import annotations

from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.utils import timezone

from felloe.accounts import fence
from felloe.accounts.models import SecondFactor, User
from felloe.accounts.services import branches, second_factor, sessions
from felloe.customers.models import Customer
from felloe.portable.models import Sent
from felloe.queue.models import Job
from tests.api.described import DescribedClient
from tests.api.shop import ShopCase, open_job, person

PASSWORD, THEIRS = "a long password", "a password there"


class BranchCase(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.there = person(self.elsewhere, "bram.there", "owner")
        self.there.set_password(THEIRS)
        self.there.save()

    def join(self, **change: Any) -> Any:
        body = {"shop": self.elsewhere.code, "username": "bram.there", "password": THEIRS, **change}
        return self.post("account/branches", body)

    def joined(self) -> str:
        answer = self.join()
        self.assertEqual(answer.status_code, 200, answer.content)
        return str(answer.json()["branches"][0]["id"])


class Joined(BranchCase):
    def test_by_proof_only_and_seen_from_both(self) -> None:
        self.assertProblem(self.join(password="guessed there"), 422, "sign_in_failed", "password")
        self.assertProblem(self.join(shop="nowhere"), 422, "sign_in_failed", "password")
        self.assertProblem(self.join(shop=self.shop.code, username="ines", password=PASSWORD), 422, "same_shop", "shop")
        self.assertEqual(self.get("account").json()["branches"], [])
        found = self.join().json()["branches"]
        self.assertEqual([(b["shop"], b["username"], b["role"]) for b in found], [("Elsewhere", "bram.there", "owner")])
        back = self.get("account", client=self.speak_for(self.there)).json()["branches"]
        self.assertEqual([(b["shop"], b["username"]) for b in back], [("Here", "bram")])
        self.assertEqual(self.get("account", client=self.speak_for(self.ines)).json()["branches"], [])

    def test_guessing_is_stopped_as_at_the_sign_in(self) -> None:
        for n in range(6):
            self.assertProblem(self.join(password=f"guess {n}"), 422, "sign_in_failed", "password")
        self.assertProblem(self.join(), 429, "too_many_tries")

    def test_guessing_the_others_code_is_stopped_too(self) -> None:
        second_factor.begin(self.there)
        SecondFactor.objects.update(confirmed_at=timezone.now())
        self.assertProblem(self.join(), 422, "code_needed", "code")
        for n in range(6):
            self.assertProblem(self.join(code=f"guess {n}"), 422, "code_wrong", "code")
        self.assertProblem(self.join(code="guess"), 429, "too_many_tries")

    def test_going_to_and_fro_makes_a_password_no_younger(self) -> None:
        branch = self.joined()
        given = self.client.session[sessions.FULL_AT]
        with patch.object(sessions.timezone, "now", return_value=timezone.now() + timedelta(hours=11)):
            self.assertEqual(self.post("session/branch", {"branch": branch}).status_code, 200)
        self.assertEqual(self.client.session[sessions.FULL_AT], given)
        with patch.object(sessions.timezone, "now", return_value=timezone.now() + timedelta(hours=13)):
            self.assertProblem(self.post("session/branch", {"branch": str(self.bram.pk)}), 403, "full_sign_in")

    def test_gone_to_and_back_as_the_same_person(self) -> None:
        branch = self.joined()
        self.assertProblem(self.post("session/branch", {"branch": str(self.stranger.pk)}), 404, "not_found")
        self.assertProblem(self.post("session/branch", {"branch": branch}, client=self.speak_for(self.ines)), 404, "not_found")
        answer = self.post("session/branch", {"branch": branch}).json()
        self.assertEqual((answer["shop"], answer["username"]), ("Elsewhere", "bram.there"))
        self.assertEqual(self.get("session").json()["shop"], "Elsewhere")
        self.assertEqual(self.post("session/branch", {"branch": str(self.bram.pk)}).json()["shop"], "Here")

    def test_parted_left_or_suspended_there_is_no_way_any_more(self) -> None:
        branch = self.joined()
        User.objects.filter(pk=self.there.pk).update(is_active=False)
        self.assertProblem(self.post("session/branch", {"branch": branch}), 404, "not_found")
        User.objects.filter(pk=self.there.pk).update(is_active=True)
        self.assertEqual(self.client.delete("/api/v1/account/branches").json()["branches"], [])
        self.assertProblem(self.post("session/branch", {"branch": branch}), 404, "not_found")

    def test_three_shops_of_one_person_become_one_however_they_are_joined(self) -> None:
        from felloe.accounts.models import Shop

        third = person(Shop.objects.create(name="Third"), "bram.third")
        self.joined()
        answer = self.join(shop=third.shop.code, username="bram.third", password=PASSWORD)
        self.assertEqual({b["shop"] for b in answer.json()["branches"]}, {"Elsewhere", "Third"})
        self.assertEqual({b.shop for b in branches.branches_of(User.objects.get(pk=third.pk))}, {"Here", "Elsewhere"})

    def test_a_new_password_parts_the_names(self) -> None:
        """Whoever had learned the old one, and had joined it with his own name, is out."""
        branch = self.joined()
        there = self.speak_for(self.there)
        self.assertEqual(
            self.post("account/password", {"old": THEIRS, "new": "quite another one"}, client=there).status_code, 200
        )
        self.assertProblem(self.post("session/branch", {"branch": branch}), 404, "not_found")
        self.assertEqual(self.get("account").json()["branches"], [])

    def test_digits_go_nowhere(self) -> None:
        self.put("session/pin", {"pin": "2718"})
        branch = self.joined()
        tablet = self.speak_for(self.ines)
        self.post("session/pin", {"person": str(self.bram.pk), "pin": "2718"}, client=tablet)
        self.assertProblem(self.post("session/branch", {"branch": branch}, client=tablet), 403, "full_sign_in")

    def test_beyond_the_fence_ends_where_it_began(self) -> None:
        with fence.within(self.shop.pk):
            with fence.beyond():
                self.assertEqual(User.objects.filter(pk__in=[self.bram.pk, self.there.pk]).count(), 2)
            self.assertEqual(User.objects.filter(pk__in=[self.bram.pk, self.there.pk]).count(), 1)


class Sending(BranchCase):
    def setUp(self) -> None:
        super().setUp()
        self.job = open_job(self.bram, customer={"name": "Maud Penhale", "phone": "0700 900 101"})
        self.customer = self.job.wheel.bike.customer_id
        self.branch = self.joined()

    def send(self, keep: bool = True, client: DescribedClient | None = None, **change: Any) -> Any:
        body = {"branch": self.branch, "keep": keep, **change}
        return self.post(f"customers/{self.customer}/sent", body, client=client)

    def done(self) -> None:
        self.post(f"jobs/{self.job.pk}/ends", {"version": 1, "end": "cancelled", "reason": "Customer telephoned."})
        self.assertEqual(Job.objects.get(pk=self.job.pk).stage, "done")

    def test_not_while_a_wheel_is_at_work_here(self) -> None:
        self.assertProblem(self.send(), 409, "at_work_here")
        self.assertEqual(Customer.objects.filter(shop=self.elsewhere).count(), 0)

    def test_looked_at_then_sent_once_with_all_that_hangs_on_it(self) -> None:
        self.done()
        looked = self.send(keep=False).json()
        self.assertEqual((looked["kept"], looked["customer"], looked["wheels"], looked["jobs"]), (False, "Maud Penhale", 1, 1))
        self.assertEqual((Customer.objects.filter(shop=self.elsewhere).count(), Sent.objects.count()), (0, 0))
        self.assertTrue(self.send().json()["kept"])
        there = Customer.objects.get(shop=self.elsewhere)
        self.assertEqual((there.name, there.created_by), ("Maud Penhale", self.there))
        self.assertEqual(Job.objects.filter(shop=self.elsewhere).count(), 1)
        (told,) = self.get(f"customers/{self.customer}/sent").json()
        self.assertEqual((told["shop"], told["by"]), ("Elsewhere", "Bram"))
        # Again: what is there already does not come twice.
        self.assertEqual(self.send().json()["new_customers"], 0)
        self.assertEqual(Customer.objects.filter(shop=self.elsewhere).count(), 1)
        self.assertTrue(Customer.objects.filter(shop=self.shop, pk=self.customer).exists())

    def test_only_to_ones_own_shops_and_where_one_may(self) -> None:
        self.done()
        self.assertProblem(self.send(branch=str(self.stranger.pk)), 404, "not_found")
        self.assertProblem(self.send(client=self.speak_for(self.ines)), 404, "not_found")
        self.assertProblem(self.send(client=self.speak_for(self.stranger)), 404, "not_found")
        User.objects.filter(pk=self.there.pk).update(role="apprentice")
        self.assertProblem(self.send(), 403, "not_permitted")
        self.assertEqual(Customer.objects.filter(shop=self.elsewhere).count(), 0)
