"""Who may do what: every operation and the roles that may, an allow-list. What stands nowhere here, nobody may.

The API asks this table before every operation (`accounts.api.operations`), the page is told its own person's part of it with
the session. An operation that is missing here is refused to all, an unknown role may nothing.
"""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from django.core.exceptions import PermissionDenied
from django.db import models

from felloe.core.said import joined, say


class Role(models.TextChoices):
    OWNER = "owner", say("Owner")
    MECHANIC = "mechanic", say("Bench mechanic")
    DESK = "desk", say("Front desk")
    APPRENTICE = "apprentice", say("Apprentice")


ANYBODY = frozenset({"anybody"})
"""Also who is not signed in."""
ALL = frozenset(Role)
BENCH = frozenset({Role.OWNER, Role.MECHANIC, Role.APPRENTICE})
SKILLED = frozenset({Role.OWNER, Role.MECHANIC})
COUNTER = frozenset({Role.OWNER, Role.MECHANIC, Role.DESK})
OWNER = frozenset({Role.OWNER})
#: Whose job it becomes when they move a wheel that is nobody's.
WORKS_AT_THE_BENCH = frozenset({Role.MECHANIC, Role.APPRENTICE})

_BY_ROLES: dict[frozenset[str], str] = {
    ANYBODY: "session_start session_end session_letter session_reset",
    # Looking is for everybody of the shop, and so is working out what nobody keeps.
    ALL: """
        session_get session_settings staff_list
        own_account account_address account_password sessions_close session_close factor_begin factor_confirm factor_end
        branch_join branch_part branch_go
        trade rail job_get job_events photos photo_pixels tag
        customers_search bike_wheels wheel_get wheel_kinds geometry_check rim_section rim_hang_test material
        measure_bed measure_erd_by_rods measure_erd_inside measure_flange measure_locknut measure_rim_place thread_in_nipple
        diagnosis likely_causes condition repair_options refit road_advice prices comparison requirements record_out
        ways_to_end shop_rules unsafe_jobs quote account lots lot lot_labels
        patterns patterns_out wheel_history comeback resume_get changes consents feed
        report report_pdf signing_keys checking_page
        find places tiers offers job_offers promise_look job_work hours work_times shop session_pin pin_set customer
        customer_told
        meters instruments instrument instrument_live
        reading_sets reading_set_get reading_history reading_advice readings_csv_out
        state_get dish_options job_plans plan_get plan_modes verdict pass_before laps_ahead what_if trade_off left_alone
        live_get
        stock part_movements orders stock_library stock_preview
        sizing lacing strip replacing spare_card swap
        job_move photo_add bike_change check_answer mark_add break_add frame_check part_move
    """,
    # The apprentice measures and works plans.
    BENCH: """
        wheel_change record_in reading_set_open reading_save readings_enter reading_withdraw readings_csv_in lump_add
        turn_record trace_withdraw hear plan_make move_mark live_begin live_turned live_take_back live_mend live_turn
        live_tell live_read live_end
        resume_prove
        spokes_choose old_spoke_log kit_lay_out lacing_inside lacing_place lacing_despite lacing_look strip_facts strip_step
        small_parts_count replace_step refit_answer
        take_up put_down
        practice practice_lesson practice_begin practice_run practice_act practice_state practice_pluck
    """,
    # What somebody answers for with a name.
    SKILLED: """
        pattern_keep pattern_change patterns_in
        conclude finding_mended mark_end break_end sign_off
        practice_learners practice_set practice_take_back
        instrument_add instrument_change instrument_check stand_check calibrate derive_table chart_in
    """,
    # What is agreed with customers and suppliers.
    COUNTER: """
        job_open job_change promise_give absence_add absence_end
        customers_add customer_change customer_merge consent_set own_copy erasure_look
        bundle_wheel bundle_customer bundle_in bundle_underway customer_sent customer_send
        bikes_add sign decide recheck_set hand_back
        job_end job_reopen
        quote_extras payment_add money_lines
        lot_open lot_preview lot_agree lot_return lot_exception
        links letter letters link_make link_revoke letter_send letter_again
        part_add part_change order_send order_receive order_cancel stock_import
    """,
    OWNER: """
        prices_set shop_rules_set stock_machine hand_back_unsafe
        numbers numbers_csv
        shop_set hours_set shifts_set place_add place_change tier_set staff_all staff_add staff_change
        signing_key_change backups erase bundle_shop feed_renew
    """,
}

RIGHTS: Mapping[str, frozenset[str]] = MappingProxyType(
    {operation: roles for roles, said in _BY_ROLES.items() for operation in said.split()}
)

#: What nobody does who only typed the digits of a shared tablet: it takes the full sign-in.
FULL = frozenset(
    {
        *("shop_set", "hours_set", "shifts_set", "staff_add", "staff_change", "prices_set", "pin_set", "signing_key_change"),
        *("own_account", "account_address", "account_password", "sessions_close", "session_close"),
        *("factor_begin", "factor_confirm", "factor_end"),
        *("branch_join", "branch_part", "branch_go"),
    }
)

#: Rights within an operation that not everybody has who may carry it out.
WITHIN = frozenset({"hand_back_unsafe"})


def may(role: str, operation: str) -> bool:
    """Whether a role may; False for a role or an operation that this table does not know."""
    roles = RIGHTS.get(operation, frozenset())
    return roles is ANYBODY or role in roles


def rights_of(role: str) -> list[str]:
    """Everything that a role may, by name."""
    return sorted(operation for operation in RIGHTS if may(role, operation))


def require(role: str, operation: str) -> None:
    """PermissionDenied, saying who may, unless the role does."""
    if may(role, operation):
        return
    those = [choice.label.lower() for choice in Role if choice in RIGHTS.get(operation, frozenset())]
    who = say("This is for the {those}.", those=joined(" or the ", those)) if those else say("Nobody may do this.")
    raise PermissionDenied(say("{who} Ask one of them, or let them sign in here.", who=who))
