"""Parts, claims, substitutes, orders, the library as CSV, the touring card."""

import csv
import io
import unittest
from datetime import UTC, datetime

from hypothesis import given, settings
from hypothesis import strategies as st

from felloe.core.components import Spoke
from felloe.core.naming import Side
from felloe.core.refit.spare_card import spare_card
from felloe.core.stock.claims import Claim, NotEnough, check_take, covered, for_job, free
from felloe.core.stock.csv_parts import BadPartsFile, read_parts, write_parts
from felloe.core.stock.ledger import Entry, Standing, standing
from felloe.core.stock.ordering import Bin, minimum_by_use, to_order
from felloe.core.stock.parts import ATTRIBUTES, BadPart, checked_attributes, hub_of, rim_of
from felloe.core.stock.substitutes import Stocked, Wanted, check_stocked_length, name_of_spoke, offers, why_not_cut
from tests.core.wheels import ALL, REAR

HUB = {
    "old_mm": 130, "right_pitch_circle_mm": 45, "left_pitch_circle_mm": 45,
    "right_center_to_flange_mm": 17.5, "left_center_to_flange_mm": 36.5, "right_holes": 18, "left_holes": 18,
}  # fmt: skip


class Parts(unittest.TestCase):
    def test_each_kind_refuses_what_cannot_be_at_its_place(self) -> None:
        bad = [
            ("spoke", {"end_diameter_mm": 2.0}, "attributes.length_mm"),
            ("spoke", {"length_mm": 2900, "end_diameter_mm": 2}, "attributes.length_mm"),
            ("spoke", {"length_mm": 290, "end_diameter_mm": 2, "middle_diameter_mm": 2.3}, "attributes.middle_diameter_mm"),
            ("nipple", {"for_thread_mm": 2, "material": "cheese"}, "attributes.material"),
            ("spoke", {"length_mm": 290, "end_diameter_mm": 2, "elbow": "yes"}, "attributes.elbow"),
            ("rim", {"erd_mm": 598, "holes": 36, "bead_seat_mm": 600}, "attributes.bead_seat_mm"),
            ("hub", {**HUB, "right_center_to_flange_mm": 70}, "attributes"),
            ("tape", {"taste": 1}, "attributes.taste"),
            ("bell", {}, "kind"),
        ]
        for kind, attributes, field in bad:
            with self.subTest(field), self.assertRaises(BadPart) as refused:
                checked_attributes(kind, attributes)
            self.assertEqual(refused.exception.field, field)

    def test_rims_and_hubs_become_the_cores_own(self) -> None:
        self.assertEqual(hub_of(checked_attributes("hub", HUB)), REAR.hub)
        rim = rim_of(checked_attributes("rim", {"erd_mm": 605, "holes": 36, "bead_seat_mm": 622.0}))
        self.assertEqual((rim.erd_mm, rim.bead_seat_mm), (605, 622))


class Claims(unittest.TestCase):
    def test_the_earlier_claim_comes_first(self) -> None:
        claims = [Claim("a", 18), Claim("b", 10)]
        self.assertEqual(covered(20, claims), {"a": 18, "b": 2})
        self.assertEqual(free(20, claims), -8)
        self.assertEqual([for_job(20, claims, job) for job in ("a", "b", "c")], [18, 2, 0])

    def test_a_ledger_gone_through_by_hand(self) -> None:
        """Twenty counted; a reserves 6, b 4; a takes 6; a reserves again, behind b; b lets go and is gone."""
        hours = iter(datetime(2026, 3, 3, hour, tzinfo=UTC) for hour in range(8, 18))
        entries = [
            Entry(delta, claim, job, next(hours))
            for delta, claim, job in ((20, 0, ""), (0, 6, "a"), (0, 4, "b"), (-6, -6, "a"), (1, 0, "a"), (0, 2, "a"))
        ]
        self.assertEqual(standing(entries), Standing(15, (Claim("b", 4), Claim("a", 2))))
        self.assertEqual(standing([*entries, Entry(0, -4, "b", next(hours))]), Standing(15, (Claim("a", 2),)))
        self.assertEqual(standing([]), Standing())

    def test_the_last_eighteen_go_to_one(self) -> None:
        check_take(18, [], "a", 18, "Spoke")
        with self.assertRaises(NotEnough) as refused:
            check_take(0, [], "b", 18, "Spoke")
        self.assertIn("0 to be had, 18 wanted", refused.exception.message)
        with self.assertRaises(NotEnough) as refused:
            check_take(18, [Claim("a", 18)], "b", 1, "Spoke")
        self.assertIn("18 of the 18 are reserved", refused.exception.message)
        with self.assertRaises(NotEnough):
            check_take(18, [], "a", 0, "Spoke")

    @settings(max_examples=200, derandomize=True, deadline=None)
    @given(st.integers(0, 60), st.lists(st.tuples(st.sampled_from("abcd"), st.integers(1, 30)), max_size=6))
    def test_never_more_is_promised_than_there_is(self, on_hand: int, made: list[tuple[str, int]]) -> None:
        claims = [Claim(job, count) for job, count in made]
        shares = covered(on_hand, claims)
        self.assertLessEqual(sum(shares.values()), on_hand)
        for job in "abcde":
            self.assertGreaterEqual(for_job(on_hand, claims, job), shares.get(job, 0))
            others = sum(covered(on_hand, [c for c in claims if c.job != job]).values())
            self.assertLessEqual(for_job(on_hand, claims, job), max(on_hand - others, shares.get(job, 0)))


def stocked(length: float, count: int = 40, **more: object) -> Stocked:
    attributes = {"length_mm": length, "end_diameter_mm": 2.0, **more}
    return Stocked(f"{length:g}", name_of_spoke(attributes), attributes, count)


class Substitutes(unittest.TestCase):
    wanted = Wanted(291.13, 0.6, Spoke(2.0), 18)

    def test_the_right_one_first_then_within_the_window_then_cut(self) -> None:
        bins = [stocked(291), stocked(296), stocked(290), stocked(289), stocked(287), stocked(290, end_diameter_mm=1.8)]
        found = offers(self.wanted, bins, can_cut=True)
        self.assertEqual(
            [(o.key, o.how) for o in found], [("290", "as_it_is"), ("291", "as_it_is"), ("289", "as_it_is"), ("296", "cut")]
        )
        self.assertEqual(found[-1].cut_to_mm, 290.0)
        self.assertIn("roll the thread", found[-1].cautions[0])
        self.assertNotIn("cut", [o.how for o in offers(self.wanted, bins, can_cut=False)])

    def test_too_few_come_last_and_none_not_at_all(self) -> None:
        found = offers(self.wanted, [stocked(290, 4), stocked(291, 30), stocked(289, 0)], can_cut=False)
        self.assertEqual([(o.key, o.enough) for o in found], [("291", True), ("290", False)])

    def test_what_differs_is_said_and_what_does_not_mate_is_left_out(self) -> None:
        thin = offers(self.wanted, [stocked(290, middle_diameter_mm=1.8)], can_cut=False)[0]
        self.assertIn("do not mix on one side", thin.cautions[0])
        self.assertEqual(offers(self.wanted, [stocked(290, elbow=False), stocked(290, pitch_mm=0.5)], can_cut=True), ())
        # A butted spoke has 25 mm of thick end: 20 mm off and a 9.5 mm thread do not go into it.
        self.assertEqual(offers(self.wanted, [stocked(310, middle_diameter_mm=1.8)], can_cut=True), ())

    def test_what_cannot_be_cut_says_why(self) -> None:
        plain, butted = stocked(300).attributes, stocked(300, middle_diameter_mm=1.8).attributes
        self.assertEqual([bool(why_not_cut(plain, mm)) for mm in (300, 290, 0, -5)], [True, False, True, True])
        self.assertEqual([bool(why_not_cut(butted, mm)) for mm in (290, 280)], [False, True])
        check_stocked_length(plain, 300, can_cut=False)
        check_stocked_length(plain, 290, can_cut=True)
        for can_cut, mm in ((False, 290), (True, 310)):
            with self.assertRaises(BadPart):
                check_stocked_length(plain, mm, can_cut)


class Orders(unittest.TestCase):
    def test_grouped_by_supplier_in_whole_packs(self) -> None:
        found = to_order(
            [
                Bin("a", "Quay Supply", 4, 18, 0, 10, 20),
                Bin("b", "Mole Works", 3, 0, 0, 12),
                Bin("c", "Quay Supply", 30, 4, 0, 10),
            ]
        )
        self.assertEqual(list(found), ["Mole Works", "Quay Supply"])
        self.assertEqual([(line.key, line.count) for line in found["Quay Supply"]], [("a", 40)])
        self.assertIn("14 wait", found["Quay Supply"][0].why)
        self.assertIn("minimum of 12", found["Mole Works"][0].why)
        self.assertEqual(to_order([Bin("a", "x", 4, 18, 24, 10)]), {})

    def test_minimum_by_use_from_the_poisson_table(self) -> None:
        """Cumulative Poisson table (statistics handbooks): mean 2.0: P(≤4) = 0.947, P(≤5) = 0.983; mean 1.0: P(≤3) = 0.981."""
        self.assertEqual(minimum_by_use([1] * 26, 91, 7), 5)
        self.assertEqual(minimum_by_use([1] * 13, 91, 7), 3)
        self.assertEqual(minimum_by_use([18] * 13, 91, 7), 54)
        self.assertEqual(minimum_by_use([], 90), 0)


class Library(unittest.TestCase):
    def test_out_and_in_again(self) -> None:
        parts = [
            {"kind": "spoke", "name": "Spoke, 290; plain", "bin": "A1", "minimum": 36, "pack": 18, "counted": 40,
             "attributes": {"length_mm": 290, "end_diameter_mm": 2.0, "elbow": True, "colour": "black"}},
            {"kind": "hub", "name": "Hub with \"quotes\"", "price_minor": 3900, "attributes": HUB},
        ]  # fmt: skip
        rows = read_parts(write_parts(parts))
        self.assertEqual([row.wrong for row in rows], ["", ""])
        self.assertEqual([row.counted for row in rows], [40, None])
        for row, part in zip(rows, parts, strict=True):
            for name, value in part.items():
                if name != "counted":
                    self.assertEqual(row.values[name], value, name)

    def test_semicolons_and_decimal_commas(self) -> None:
        row = read_parts("\ufeffkind;name;length_mm;end_diameter_mm\r\nspoke;S;290,5;2,0\r\n")[0]
        self.assertEqual(row.values["attributes"]["length_mm"], 290.5)

    def test_a_cell_that_cannot_be_kept_is_said_at_its_line(self) -> None:
        """ "²" is a digit to Python and no number; a pack holds one at least; every text has its length."""
        long = "x" * 81
        for column, cell in (
            ("pack", "0"), ("pack", "²"), ("counted", "100001"), ("minimum", "9" * 400), ("lead_days", "366"),
            ("price_minor", "10000001"), ("bin", long), ("supplier", long), ("supplier_code", long),
        ):  # fmt: skip
            (row,) = read_parts(f"kind,name,{column},length_mm,end_diameter_mm\nspoke,A,{cell},290,2\n")
            self.assertTrue(row.wrong.startswith(f"{column}: "), (column, cell, row.wrong))
        (row,) = read_parts(f"kind,name,length_mm,end_diameter_mm\nspoke,{long},290,2\n")
        self.assertIn("80 letters", row.wrong)
        with self.assertRaises(BadPartsFile):
            read_parts("kind,name\nspoke," + "x" * 200_000 + "\n")

    def test_no_cell_is_carried_out_as_a_formula_and_each_comes_back_as_it_was(self) -> None:
        """The beginnings are OWASP's, "CSV Injection"; a spreadsheet would carry such a cell out."""
        for name in ("=2+5", "+2", "-2", "@SUM(A1)", "'quoted", "'=quoted"):
            text = write_parts([{"kind": "tape", "name": name, "attributes": {"width_mm": 21}}])
            cell = list(csv.reader(io.StringIO(text)))[1][1]
            self.assertNotIn(cell[0], "=+-@")
            self.assertEqual(read_parts(text)[0].values["name"], name)

    def test_each_bad_row_says_what_is_wrong(self) -> None:
        good = "spoke,A,1,290,2"
        bad_rows = ("spoke,B,-1,290,2", "spoke,C,1,long,2", "bell,D,1,,", "spoke,,1,290,2", "spoke,E,1,2,2")
        text = "\n".join(("kind,name,counted,length_mm,end_diameter_mm", good, good, *bad_rows, ""))
        rows = read_parts(text)
        self.assertEqual([bool(row.wrong) for row in rows], [False] + [True] * 6)
        self.assertEqual([row.line for row in rows], list(range(2, 9)))
        for row, word in zip(rows[1:], ("twice", "counted", "length_mm", "kind", "name", "length_mm"), strict=True):
            self.assertIn(word, row.wrong)
        for bad in ("", "kind,name\n", "kind,taste\nspoke,salt\n", "name\nA\n", 'kind,name\n"spoke,A\n'):
            with self.assertRaises(BadPartsFile):
                read_parts(bad)
        self.assertEqual(set(ATTRIBUTES), {"spoke", "nipple", "washer", "rim", "hub", "tape", "other"})


class Card(unittest.TestCase):
    def test_front_and_rear_by_side(self) -> None:
        card = spare_card([("front", ALL["rim-brake-front-32"], True), ("rear", REAR, False)], {("rear", Side.RIGHT): 291})
        said = {(line.position, line.side.value): (line.length_mm, line.carry) for line in card.spokes}
        self.assertEqual(said[("rear", "R")], (291, 2))
        self.assertEqual(said[("rear", "L")][1], 1)
        self.assertTrue(any("sprockets" in line for line in card.carry))
        self.assertTrue(any("by kind" in line for line in card.mind))
        front = spare_card([("front", ALL["rim-brake-front-32"], True)], {})
        self.assertFalse(any("sprockets" in line for line in front.carry))
        self.assertFalse(any("by kind" in line for line in front.mind))
