"""Signing in, and what nobody may see."""

from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from unittest.mock import patch

from axes.models import AccessAttempt, AccessFailureLog
from django.contrib.auth.hashers import Argon2PasswordHasher
from django.test import Client
from django.utils import timezone

from felloe.accounts.hashing import BoundedArgon2
from felloe.accounts.services.sign_in_tries import forget_old
from tests.api.shop import ShopCase, open_job


class Session(ShopCase):
    def sign_in(self, password: str, token: bool = True):
        client = Client(enforce_csrf_checks=True)
        client.get("/")
        headers = {"HTTP_X_CSRFTOKEN": client.cookies["csrftoken"].value} if token else {}
        body = {"username": "bram", "password": password, "shop": self.shop.code}
        return client.post("/api/v1/session", body, content_type="application/json", **headers), client

    def test_sign_in_and_out(self) -> None:
        response, client = self.sign_in("a long password")
        self.assertEqual(response.status_code, 200)
        self.assertEqual(response.json()["shop"], "Here")
        self.assertEqual(client.get("/api/v1/session").json()["username"], "bram")
        token = client.cookies["csrftoken"].value
        self.assertEqual(client.delete("/api/v1/session", HTTP_X_CSRFTOKEN=token).status_code, 204)
        self.assertEqual(client.get("/api/v1/session").status_code, 403)

    def test_wrong_password(self) -> None:
        response, _ = self.sign_in("not this one")
        self.assertProblem(response, 400, "sign_in_failed")

    def test_sign_in_needs_the_pages_token(self) -> None:
        response, _ = self.sign_in("a long password", token=False)
        self.assertEqual(response.status_code, 403)

    def test_passwords_are_hashed_with_argon2_in_use(self) -> None:
        from felloe.config.settings import base

        self.assertEqual(base.PASSWORD_HASHERS, ["felloe.accounts.hashing.BoundedArgon2"])

    def try_from(self, address: str, username: str, password: str, through_proxy: bool = True):
        where = (
            {"HTTP_X_FORWARDED_FOR": address}
            if through_proxy
            else {"REMOTE_ADDR": address, "HTTP_X_FORWARDED_FOR": "192.0.2.1"}
        )
        body = {"username": username, "password": password, "shop": self.shop.code}
        return Client().post("/api/v1/session", body, content_type="application/json", **where)

    def test_whoever_guesses_a_name_is_stopped_and_nobody_beside_them(self) -> None:
        for n in range(6):
            name = "Bram" if n % 2 else "bram"
            self.assertProblem(self.try_from("192.0.2.7", name, f"guess {n}"), 400, "sign_in_failed")
        self.assertProblem(self.try_from("192.0.2.7", "bram", "a long password"), 429, "too_many_tries")
        # A colleague behind the same address, the same person from elsewhere, and from an address that nobody may claim.
        self.assertEqual(self.try_from("192.0.2.7", "ines", "a long password").status_code, 200)
        self.assertEqual(self.try_from("192.0.2.8", "bram", "a long password").status_code, 200)
        for n in range(6):
            self.try_from("203.0.113.5", "ines", f"guess {n}", through_proxy=False)
        self.assertProblem(self.try_from("203.0.113.5", "ines", "a long password", through_proxy=False), 429, "too_many_tries")
        self.assertEqual(self.try_from("192.0.2.1", "ines", "a long password").status_code, 200)
        known = AccessFailureLog.objects.filter(username=f"{self.shop.code}/bram", ip_address="192.0.2.7")
        self.assertEqual(known.count(), 6)
        self.assertNotIn("guess", str(list(AccessFailureLog.objects.values()) + list(AccessAttempt.objects.values())))
        AccessAttempt.objects.update(attempt_time=timezone.now() - timedelta(minutes=16))
        self.assertEqual(self.try_from("192.0.2.7", "bram", "a long password").status_code, 200)
        forget_old(timezone.now() + timedelta(days=31))
        self.assertEqual(AccessFailureLog.objects.count(), 0)

    def test_wrong_passwords_at_once_are_hashed_one_after_another(self) -> None:
        hasher, at_once, most = BoundedArgon2(), [], []
        encoded = hasher.encode("right password", hasher.salt())
        self.assertIn("$m=19456,t=2,p=1$", encoded)
        plain = Argon2PasswordHasher.verify

        def counted(self: Argon2PasswordHasher, password: str, encoded: str) -> bool:
            at_once.append(1)
            most.append(len(at_once))
            try:
                return plain(self, password, encoded)
            finally:
                at_once.pop()

        with patch.object(Argon2PasswordHasher, "verify", counted), ThreadPoolExecutor(16) as pool:
            found = list(pool.map(lambda n: hasher.verify("right password" if n == 3 else "wrong", encoded), range(16)))
        self.assertEqual(found, [n == 3 for n in range(16)])
        self.assertEqual(max(most), 1)

    def test_the_page_is_given_without_asking_the_database(self) -> None:
        """Also while that is away: the page itself says then what is amiss."""
        self.client.get("/")
        with self.assertNumQueries(0):
            self.assertEqual(self.client.get("/").status_code, 200)

    def test_force_unit_is_kept(self) -> None:
        self.assertEqual(self.patch("session", {"force_unit": "kgf"}).json()["force_unit"], "kgf")
        self.assertProblem(self.patch("session", {"force_unit": "lbf"}), 400, "invalid_input", "force_unit")


class Fence(ShopCase):
    def paths(self) -> list[str]:
        job = open_job(self.bram)
        wheel, bike = job.wheel_id, job.wheel.bike_id
        made = self.post(f"jobs/{job.pk}/reading-sets", {"stage": "as_found"}).json()["id"]
        for spoke in ("R1", "R2", "L1", "L2"):
            body = {"kind": "tension", "spoke": spoke, "value": 900, "unit": "N"}
            self.post(f"reading-sets/{made}/readings", body)
        plan = self.post(f"reading-sets/{made}/plans", {}).json()["id"]
        return [
            f"jobs/{job.pk}", f"jobs/{job.pk}/reading-sets", f"jobs/{job.pk}/plans", f"jobs/{job.pk}/comparison",
            f"jobs/{job.pk}/record", f"wheels/{wheel}", f"bikes/{bike}/wheels", f"reading-sets/{made}",
            f"reading-sets/{made}/state", f"reading-sets/{made}/history?kind=tension&spoke=R1", f"plans/{plan}",
        ]  # fmt: skip

    def test_another_shops_rows_do_not_exist(self) -> None:
        over = self.speak_for(self.stranger)
        for path in self.paths():
            with self.subTest(path):
                self.assertEqual(self.get(path).status_code, 200)
                self.assertProblem(self.get(path, client=over), 404, "not_found")

    def test_nobody_reads_without_signing_in(self) -> None:
        from rest_framework.test import APIClient

        lists = ["rail", "trade", "staff", "meters", "wheel-kinds", "customers", "session"]
        for path in [*self.paths(), *lists]:
            with self.subTest(path):
                self.assertProblem(self.get(path, client=APIClient()), 403, "not_signed_in")

    def test_lists_hold_only_ones_own(self) -> None:
        open_job(self.bram)
        over = self.speak_for(self.stranger)
        self.assertEqual(self.get("rail", client=over).json()["hanging"], [])
        self.assertEqual(self.get("customers", client=over).json(), [])
        self.assertEqual(len(self.get("rail").json()["hanging"]), 1)

    def test_writes_over_the_fence(self) -> None:
        job = open_job(self.bram)
        over = self.speak_for(self.stranger)
        self.assertProblem(self.patch(f"jobs/{job.pk}", {"version": 1, "tier": "fine"}, client=over), 404, "not_found")
        self.assertProblem(self.post(f"jobs/{job.pk}/reading-sets", {"stage": "as_found"}, client=over), 404, "not_found")
        moved = self.post(f"jobs/{job.pk}/stage", {"version": 1, "to_stage": "check_on_bike"}, client=over)
        self.assertProblem(moved, 404, "not_found")
        self.assertProblem(
            self.patch(f"jobs/{job.pk}", {"version": 1, "assigned_to": str(self.stranger.pk)}), 422, "unknown_person"
        )
