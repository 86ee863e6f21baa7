"""The client that holds answers against the API's description must see what is wrong."""

from __future__ import annotations

from typing import Any
from unittest import mock

from django.http import JsonResponse
from jsonschema import ValidationError

from tests.api import described
from tests.api.shop import BenchCase


class Described(BenchCase):
    def test_every_call_of_the_tests_client_is_held_against_the_description(self) -> None:
        with mock.patch.object(described, "check") as check:
            self.get(f"jobs/{self.job.pk}")
            self.post(f"reading-sets/{self.set}/readings", {"kind": "tension", "spoke": "R1", "value": 900, "unit": "N"})
        self.assertEqual([call.args[0] for call in check.call_args_list], ["get", "post"])

    def test_a_field_that_is_missing_or_of_another_kind_is_seen(self) -> None:
        good = self.get("trade").json()
        self.said(good)
        wide = {**good["tiers"][0], "lateral_mm": "wide"}
        for change in ({"stages": None}, {"tiers": [wide]}, {"tiers": [{"name": "sound"}]}):
            with self.subTest(change), self.assertRaises(AssertionError):
                self.said({**good, **change})

    def test_a_status_that_is_not_described_is_seen(self) -> None:
        with self.assertRaises(AssertionError):
            self.said({}, 202)

    def test_a_refusal_that_is_no_problem_document_is_seen(self) -> None:
        with self.assertRaises(ValidationError):
            self.said({"error": "no"}, 409)

    def said(self, body: Any, status: int = 200) -> None:
        described.check("get", "/api/v1/trade", JsonResponse(body, status=status))
