"""Every operation of the API × every role × the own and another shop. What each role may not is written out here by hand."""

from __future__ import annotations

import uuid

from django.test import RequestFactory, SimpleTestCase
from rest_framework.request import Request
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation
from felloe.accounts.api.permissions import MayDoIt
from felloe.accounts.models import Shop, User
from felloe.accounts.rights import RIGHTS, WITHIN, Role, may, rights_of
from tests.api.shop import person
from tests.api.test_every_path import OPEN_TO_ALL, MadeCase, description, operations, rows

#: How the owner keeps the shop.
KEEPING = {
    "shop_set", "hours_set", "shifts_set", "place_add", "place_change", "tier_set",
    "staff_all", "staff_add", "staff_change", "numbers",
    "numbers_csv", "signing_key_change", "backups", "erase", "bundle_shop", "feed_renew",
}  # fmt: skip
SHUT: dict[str, set[str]] = {
    "owner": set(),
    "mechanic": {"prices_set", "shop_rules_set", "stock_machine", *KEEPING},
    "desk": {
        "prices_set", "shop_rules_set", "stock_machine", *KEEPING, "take_up", "put_down",
        "wheel_change", "record_in", "reading_set_open", "reading_save", "readings_enter", "reading_withdraw",
        "readings_csv_in", "lump_add", "turn_record", "trace_withdraw", "hear", "plan_make", "move_mark", "spokes_choose",
        "live_begin", "live_turned", "live_take_back", "live_mend", "live_turn", "live_tell", "live_read", "live_end",
        "old_spoke_log", "kit_lay_out", "lacing_inside", "lacing_place", "lacing_despite", "lacing_look",
        "strip_facts", "strip_step",
        "small_parts_count", "replace_step", "refit_answer", "resume_prove",
        "pattern_keep", "pattern_change", "patterns_in",
        "conclude", "finding_mended", "mark_end", "break_end", "sign_off",
        "instrument_add", "instrument_change", "instrument_check", "stand_check", "calibrate", "derive_table", "chart_in",
        "practice", "practice_lesson", "practice_begin", "practice_run", "practice_act", "practice_state", "practice_pluck",
        "practice_learners", "practice_set", "practice_take_back",
    },
    "apprentice": {
        "prices_set", "shop_rules_set", "stock_machine", "job_end", "job_reopen", *KEEPING, "quote_extras", "payment_add",
        "money_lines",
        "lot_open", "lot_preview", "lot_agree", "lot_return", "lot_exception",
        "links", "letter", "letters", "link_make", "link_revoke", "letter_send", "letter_again",
        "promise_give", "absence_add", "absence_end", "customer_change", "customer_merge",
        "pattern_keep", "pattern_change", "patterns_in",
        "conclude", "finding_mended", "mark_end", "break_end", "sign_off", "hand_back",
        "instrument_add", "instrument_change", "instrument_check", "stand_check", "calibrate", "derive_table", "chart_in",
        "job_open", "job_change", "customers_add", "bikes_add", "sign", "decide", "recheck_set",
        "part_add", "part_change", "order_send", "order_receive", "order_cancel", "stock_import",
        "consent_set", "own_copy", "erasure_look", "bundle_wheel", "bundle_customer", "bundle_in", "bundle_underway",
        "customer_sent", "customer_send", "practice_learners", "practice_set", "practice_take_back",
    },
}  # fmt: skip


def named() -> dict[tuple[str, str], str]:
    paths = description()["paths"]
    return {
        (m, path): said["operationId"] for path, methods in paths.items() for m, said in methods.items() if m != "parameters"
    }


class Table(SimpleTestCase):
    def test_holds_every_operation_of_the_description_and_no_other(self) -> None:
        self.assertEqual(set(RIGHTS) - WITHIN, set(named().values()))
        self.assertLessEqual(WITHIN, set(RIGHTS))

    def test_an_unknown_role_may_nothing_but_sign_in_and_out(self) -> None:
        for role in ("", "janitor", "Owner", "anybody else"):
            self.assertEqual(rights_of(role), ["session_end", "session_letter", "session_reset", "session_start"])

    def test_nobody_may_what_stands_nowhere(self) -> None:
        self.assertFalse(any(may(role, "burn_down") for role in Role))
        with self.assertRaises(TypeError):
            operation("burn_down")

    def test_a_method_without_a_name_is_refused(self) -> None:
        class Nameless(APIView):
            def get(self, request: Request) -> None: ...

        request = Request(RequestFactory().get("/"))
        request.user = User(role="owner", shop=Shop(name="Here"))
        self.assertFalse(MayDoIt().has_permission(request, Nameless()))

    def test_only_the_owner_lets_an_unsafe_wheel_go(self) -> None:
        self.assertEqual([role.value for role in Role if may(role, "hand_back_unsafe")], ["owner"])


class EveryRole(MadeCase):
    def test_each_role_is_refused_exactly_what_it_may_not(self) -> None:
        names = named()
        self.assertEqual(set(SHUT), set(Role.values))
        for role in Role:
            client = self.speak_for(person(self.shop, f"the-{role}", role))
            before = rows()
            for op in operations():
                if (op.method, op.path) in OPEN_TO_ALL:
                    continue
                name = names[op.method, op.path]
                # An id that stands nowhere: whoever may ask is told so, nothing is carried out.
                nowhere = self.address(op, {key: uuid.uuid4() for key in self.ids} | {"spoke": "R1"})
                answer = self.send(client, op, nowhere, {})
                with self.subTest(f"{role} {name}"):
                    if name in SHUT[role]:
                        self.assertProblem(answer, 403, "not_permitted")
                    else:
                        self.assertNotEqual(answer.status_code, 403, answer.content[:200])
                        self.assertLess(answer.status_code, 500)
            self.assertEqual(rows(), before, role)

    def test_a_right_ends_at_the_fence(self) -> None:
        names = named()
        for role in Role:
            client = self.speak_for(person(self.elsewhere, f"other-{role}", role))
            before = rows()
            for op in operations():
                if "{" not in op.path:
                    continue
                answer = self.send(client, op, self.address(op), {})
                with self.subTest(f"{role} {names[op.method, op.path]}"):
                    shut = names[op.method, op.path] in SHUT[role]
                    allowed = (403,) if shut else (404,) if op.method == "get" else (400, 404, 422)
                    self.assertIn(answer.status_code, allowed, answer.content[:200])
            self.assertEqual(rows(), before, role)

    def test_the_page_is_told_what_its_person_may(self) -> None:
        for role in Role:
            told = self.get("session", self.speak_for(person(self.shop, f"asks-{role}", role))).json()["rights"]
            self.assertFalse(set(told) & SHUT[role])
            self.assertEqual("sign_off" in told, role in ("owner", "mechanic"))
