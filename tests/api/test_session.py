"""Signing in, and what nobody may see."""

from django.test import Client

from tests.api.shop import ShopCase, open_job


class Session(ShopCase):
    def sign_in(self, password: str, token: bool = True):
        client = Client(enforce_csrf_checks=True)
        client.get("/")
        headers = {"HTTP_X_CSRFTOKEN": client.cookies["csrftoken"].value} if token else {}
        body = {"username": "bram", "password": password}
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

        self.assertEqual(base.PASSWORD_HASHERS, ["django.contrib.auth.hashers.Argon2PasswordHasher"])

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
