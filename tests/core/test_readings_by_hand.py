"""What is entered, read from files and instruments, repeated and asked for next: by hand, at its borders."""

from __future__ import annotations

import unittest
from datetime import date, timedelta

import numpy as np

from felloe.core.errors import BadReading, UnknownSpoke
from felloe.core.measuring.coarse import felt_tension, lump_readings
from felloe.core.measuring.csv_readings import BadCsv, number, read_chart, read_csv, write_csv
from felloe.core.measuring.entry import deviation_entered, dish_entered, spoke_on, tension_entered
from felloe.core.measuring.instruments import INSTRUMENT_KINDS, stand_by_flipping, standing
from felloe.core.measuring.material import by_magnet
from felloe.core.measuring.repeats import REPEAT_STEP, joined, mean_and_sd, repeated_sd
from felloe.core.measuring.sampling import next_readings, quick_look
from felloe.core.measuring.stream import BadLine, Sample, one_turn, parse_line, steady
from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.runout.dish import (
    dish_from_flipping,
    dish_from_gauge,
    dish_from_stand,
    dish_target_from_edge,
    dish_target_from_face,
)
from felloe.core.runout.traces import turn_trace
from felloe.core.tension.meter import MeterTable
from felloe.core.tension.pitch import free_length, tension_from_pitch
from felloe.core.tension.statics import side_targets_n
from felloe.core.truing.objective import objective_rows
from felloe.core.truing.tiers import SOUND
from tests.core.wheels import ALL, REAR, influence, read_fully

SMALL = ALL["small-front-20"]


class ByFeel(unittest.TestCase):
    def test_words(self) -> None:
        """Shares of the side's target and how sure; common practice, no source."""
        for spoke, side in (("R3", Side.RIGHT), ("L3", Side.LEFT)):
            target = side_targets_n(REAR)[side]
            for word, share, sd in (("slack", 0.1, 0.15), ("loose", 0.55, 0.25), ("right", 1.0, 0.25), ("tight", 1.4, 0.3)):
                found = felt_tension(REAR, spoke, word)
                self.assertAlmostEqual(found.tension_n, share * target)
                self.assertAlmostEqual(found.sd_n, sd * target)
        with self.assertRaises(BadReading):
            felt_tension(REAR, "R3", "firm")

    def test_a_lump(self) -> None:
        """From R3 (25°... by its place) to R8: its height in the middle, the line at both ends and past them."""
        names = [str(n) for n in REAR.names]
        found = lump_readings(REAR, names[4], names[12], 1.5, Side.LEFT)
        start, end = REAR.angles_deg[4], REAR.angles_deg[12]
        self.assertEqual((found[0].angle_deg, found[0].deviation_mm, found[0].sd_mm), ((start + end) / 2, -1.5, 0.15))
        self.assertEqual([(r.angle_deg, r.deviation_mm, r.sd_mm) for r in found[1:3]], [(start, 0, 0.15), (end, 0, 0.15)])
        away = found[3:]
        self.assertEqual(len(away), 14)
        self.assertEqual({(r.deviation_mm, r.sd_mm) for r in away}, {(0, 0.3)})
        gaps = np.diff([r.angle_deg for r in away]) % 360
        np.testing.assert_allclose(gaps, 280 / 15)
        self.assertAlmostEqual((away[0].angle_deg - end) % 360, 280 / 15)
        self.assertEqual(lump_readings(REAR, names[4], names[12], -0.8, None)[0].deviation_mm, -0.8)
        self.assertEqual(lump_readings(REAR, names[34], names[2], 1, None)[0].angle_deg, 5.0)
        lump_readings(REAR, names[0], names[24], 30, None)
        for field, first, last, height in (
            ("last", names[0], names[25], 1), ("first", "R99", names[2], 1), ("last", names[0], "L99", 1),
            ("height_mm", names[0], names[2], 0),
            ("height_mm", names[0], names[2], 30.1), ("height_mm", names[0], names[2], -30.1),
        ):  # fmt: skip
            with self.subTest(first=first, last=last, height=height), self.assertRaises(BadReading) as caught:
                lump_readings(REAR, first, last, height, None)
            self.assertEqual(caught.exception.field, field)


class Entered(unittest.TestCase):
    TABLE = MeterTable("x", (10.0, 20.0, 30.0), (400.0, 800.0, 1200.0), 0.5, 20.0)

    def test_each_way(self) -> None:
        self.assertEqual(tension_entered(REAR, "R1", {"value": 100, "unit": "kgf"}, None), (980.665, 25.0))
        self.assertAlmostEqual(tension_entered(REAR, "R1", {"value": 20.0, "unit": "meter"}, self.TABLE)[0], 800)
        felt = tension_entered(REAR, "R1", {"feel": "loose", "value": 20.0}, self.TABLE)
        self.assertAlmostEqual(felt[0], 0.55 * side_targets_n(REAR)[Side.RIGHT])
        hz = 420.0
        plain = tension_from_pitch(hz, free_length(REAR, "R1"), 0.005 * hz)
        self.assertEqual(tension_entered(REAR, "R1", {"value": hz, "unit": "Hz"}, None), (plain.tension_n, plain.sd_n))
        scaled = tension_entered(REAR, "R1", {"value": hz, "unit": "Hz", "pitch_factor": 1.2}, None)
        np.testing.assert_allclose(scaled, (plain.tension_n * 1.2, plain.sd_n * 0.4))
        whole = tension_from_pitch(hz, free_length(REAR, "R1", "whole"), 0.005 * hz)
        self.assertAlmostEqual(
            tension_entered(REAR, "R1", {"value": hz, "unit": "Hz", "ends_at": "whole"}, None)[0], whole.tension_n
        )
        self.assertEqual(deviation_entered({"value": 0.02, "unit": "in"}), (0.508, 0.03))
        self.assertEqual(deviation_entered({"value": -0.4}), (-0.4, 0.03))
        for missing in ({}, {"value": None, "unit": "N"}):
            with self.assertRaises(BadReading):
                tension_entered(REAR, "R1", missing, None)
        self.assertEqual(spoke_on(REAR, " r3 "), "R3")
        with self.assertRaises(UnknownSpoke):
            spoke_on(REAR, "R19")

    def test_dish(self) -> None:
        """Half the gap, toward the side with the gap; half the difference of two clearances; the stand's own error added."""
        gauge = dish_entered({"gap_mm": 1.0, "gap_side": "L"}, 9.0)
        self.assertEqual((gauge.dish_mm, gauge.sd_mm), (-0.5, 0.05))
        flip = dish_entered({"method": "flip", "clearance_right_way_mm": 3.0, "clearance_flipped_mm": 5.0}, 9.0)
        self.assertAlmostEqual(flip.dish_mm, 1.0)
        self.assertAlmostEqual(flip.sd_mm, 0.15 / np.sqrt(2))
        stand = dish_entered({"method": "stand", "offset_mm": 1.2, "side": "L"}, 0.5)
        self.assertAlmostEqual(stand.dish_mm, -0.7)
        self.assertEqual(stand.sd_mm, 0.5)
        for entered, field in (
            ({"gap_mm": 1.0}, "gap_side"), ({"gap_side": "L"}, "gap_mm"),
            ({"method": "flip", "clearance_right_way_mm": 3.0}, "clearance_flipped_mm"),
            ({"method": "stand", "offset_mm": 1.0}, "side"), ({"method": "stand", "side": "R"}, "offset_mm"),
        ):  # fmt: skip
            with self.subTest(entered), self.assertRaises(BadReading) as caught:
                dish_entered(entered, 0.0)
            self.assertEqual(caught.exception.field, field)
        self.assertEqual(
            (
                dish_from_gauge(40, Side.RIGHT).dish_mm,
                dish_from_flipping(60, -60).dish_mm,
                dish_from_stand(-30, Side.RIGHT).dish_mm,
            ),
            (20, -60, -30),
        )
        for bad in (
            lambda: dish_from_gauge(40.1, Side.RIGHT),
            lambda: dish_from_flipping(60.1, 0),
            lambda: dish_from_flipping(0, -60.1),
            lambda: dish_from_stand(30.1, Side.LEFT),
        ):
            with self.assertRaises(BadReading):
                bad()
        self.assertEqual(
            (dish_target_from_face(130, Side.RIGHT, 61.5), dish_target_from_face(130, Side.LEFT, 61.5)), (3.5, -3.5)
        )
        dish_target_from_face(130, Side.LEFT, 130)
        with self.assertRaises(BadReading):
            dish_target_from_face(130, Side.LEFT, 130.1)

    def test_where_the_rim_belongs_as_a_drawing_says(self) -> None:
        """A scale laid from the right locknut's face at 0 to the left one's at 135: the middle is at 67.5."""
        # Rotor's edge 15.3 inside the left face is at 119.7; the rim's near edge 41.2 further at 78.5, its middle 12 on.
        self.assertAlmostEqual(dish_target_from_edge(135, Side.LEFT, 15.3, 41.2, 24), 67.5 - 66.5)
        # A gear's edge 4 outside the right face is at -4; the rim's middle is 70 from it, at 66.
        self.assertAlmostEqual(dish_target_from_edge(135, Side.RIGHT, -4, 70), 67.5 - 66)
        self.assertEqual(dish_target_from_edge(135, Side.RIGHT, 0, 61.5), dish_target_from_face(135, Side.RIGHT, 61.5))
        for bad in ((135, Side.RIGHT, 136, 0, 0), (135, Side.RIGHT, 0, 136, 0), (135, Side.RIGHT, 0, 60, -1)):
            with self.assertRaises(BadReading):
                dish_target_from_edge(*bad)


class Files(unittest.TestCase):
    def test_numbers(self) -> None:
        for text, value in (
            ("1.5", 1.5),
            ("1,5", 1.5),
            (" -0,25 ", -0.25),
            ("\u22123", -3.0),
            ("+4", 4.0),
            (".5", 0.5),
            ("2e3", 2000.0),
            ("3.", 3.0),
        ):
            self.assertEqual(number(text), value)
        for text in ("", "a", "1.2.3", "1,2,3", "--1", "inf", "nan", "1e", "0x1"):
            self.assertIsNone(number(text))

    def test_units_places_and_doubts(self) -> None:
        text = "spoke;tension [kgf];lateral (in);note\nR1;100;0,02;x\nL1;80;-0,01;\n"
        found = read_csv(text.encode(), REAR)
        self.assertEqual([(r.line, r.kind, r.spoke, r.value, r.unit) for r in found.rows], [
            (2, "tension", "R1", 100, "kgf"), (2, "lateral", "R1", 0.02, "in"), (3, "tension", "L1", 80, "kgf"),
            (3, "lateral", "L1", -0.01, "in"),
        ])  # fmt: skip
        self.assertTrue(found.sound)
        self.assertFalse(found.dense)
        said = " ".join(found.said)
        for word in ("semicolon", "decimal comma", "“note” is not read"):
            self.assertIn(word, said)
        placed = read_csv(b"spoke,angle_deg,lateral_mm\n,-360,0.1\n", REAR)
        self.assertEqual(
            [(c.what, c.unit, c.said) for c in placed.columns],
            [("spoke", "", True), ("angle", "deg", True), ("lateral", "mm", True)],
        )
        self.assertEqual((placed.rows[0].wrong, placed.rows[0].angle_deg), ("", 0))
        plain = read_csv(b"spoke,tension\nR1,900\n", REAR)
        self.assertIn("taken as N", " ".join(plain.said))
        self.assertNotIn("decimal comma", " ".join(plain.said))

    def test_wrong_rows_are_told_each(self) -> None:
        rows = ["R99,,900,", "X1,,900,", ",400,900,0.1", ",abc,,0.1", ",,,0.2", "R1,,x,", "R2,,6000,", "R3,,900,31"]
        rows += [",721,,0.1", ",-361,,0.1", ",720,,0.1"]
        text = "\n".join(["spoke,angle_deg,tension_n,lateral_mm", *rows])
        found = read_csv(text.encode(), REAR)
        wrong = {(r.line, r.kind): bool(r.wrong) for r in found.rows}
        self.assertEqual(wrong, {
            (2, "tension"): True, (3, "tension"): True, (4, "tension"): True, (4, "lateral"): False, (5,
            "lateral"): True, (6, "lateral"): True,
            (7, "tension"): True, (8, "tension"): True, (9, "tension"): False, (9, "lateral"): True, (10,
            "lateral"): True, (11, "lateral"): True,
            (12, "lateral"): False,
        })  # fmt: skip
        self.assertFalse(found.sound)
        by_line = {r.line: r for r in found.rows if r.kind == "lateral"}
        self.assertEqual((by_line[4].angle_deg, by_line[12].angle_deg), (40, 0))
        more = read_csv(b"spoke,tension_n\nR1,900,5\n", REAR)
        self.assertIn("3 cells under 2 headers", more.rows[0].wrong)
        for line in (",900,5", "X1,900,5", "R99,900,5"):
            self.assertIn("3 cells under 2 headers", read_csv(f"spoke,tension_n\n{line}\n".encode(), REAR).rows[0].wrong)

    def test_a_place_twice_and_a_value_far_off(self) -> None:
        rows = "".join(f"R{i},{900 + i}\n" for i in range(1, 8))
        found = read_csv(f"spoke,tension_n\n{rows}R3,910\nL1,95\n".encode(), REAR)
        doubts = [(r.line, r.doubt) for r in found.rows if r.doubt]
        self.assertEqual([line for line, _ in doubts], [9, 10])
        self.assertIn("line 4", doubts[0][1])
        # Sixty per cent of the middle off is still of its like; below five values nothing is said.
        for last, doubted in ((905 * 0.41, False), (905 * 0.39, True), (905 * 1.59, False), (905 * 1.61, True)):
            rows = "".join(f"R{i},905\n" for i in range(1, 8))
            found = read_csv(f"spoke,tension_n\n{rows}L1,{last}\n".encode(), REAR)
            self.assertEqual(bool(found.rows[-1].doubt), doubted, last)
        few = read_csv(b"spoke,tension_n\nR1,905\nR2,905\nR3,905\nL1,9\n", REAR)
        self.assertFalse(any(r.doubt for r in few.rows))
        five = read_csv(b"spoke,tension_n\nR1,905\nR2,905\nR3,905\nR4,905\nL1,9\n", REAR)
        self.assertTrue(five.rows[-1].doubt)

    def test_a_trace_is_dense_from_one_and_a_half_rows_a_spoke_on(self) -> None:
        for rows, dense in ((29, False), (30, True)):
            text = "angle_deg,lateral_mm\n" + "".join(f"{i * 360 / rows:.2f},0.1\n" for i in range(rows))
            self.assertEqual(read_csv(text.encode(), SMALL).dense, dense)
        both = "angle_deg,lateral_mm,radial_mm\n" + "".join(f"{i * 12},0.1,0.2\n" for i in range(30))
        self.assertTrue(read_csv(both.encode(), SMALL).dense)
        named = "spoke,angle_deg,lateral_mm\n" + "".join(f",{i * 9},0.1\n" for i in range(40))
        self.assertFalse(read_csv(named.encode(), SMALL).dense)

    def test_what_is_no_table(self) -> None:
        for data in (
            b"", b"spoke,tension_n\n", b"a,b\n1,2\n", b"spoke,x\nR1,2\n", b"tension_n,x\n9,2\n",
            b"spoke,tension_n,tension_n\nR1,1,2\n",
            b"spoke,tension_mm\nR1,1\n", b"spoke,lateral_kgf\nR1,1\n", b"\0\0\0", b'spoke,tension_n\n"R1,900\n',
            b"x" * 1_000_001,
            b"spoke,tension_n\n" + b"R1,900\n" * 20_000,
        ):  # fmt: skip
            with self.subTest(data=data[:30]), self.assertRaises(BadCsv):
                read_csv(data, REAR)
        read_csv(b"spoke,tension_n\n" + b"R1,900\n" * 19_999, REAR)
        read_csv("spoke,tension_n\nR1,900\n".encode("utf-16"), REAR)
        read_csv("spoke,tension_n,größe\nR1,900,1\n".encode("cp1252"), REAR)

    def test_out_and_in_again(self) -> None:
        values = {"R1": {"tension": 912.34, "lateral": -0.1234}, "L2": {"radial": 0.05}}
        text = write_csv(REAR, values)
        self.assertEqual(len(text.split("\r\n")), 38)
        found = read_csv(text.encode(), REAR)
        self.assertEqual(
            {(r.spoke, r.kind, r.value) for r in found.rows},
            {("R1", "tension", 912.3), ("R1", "lateral", -0.123), ("L2", "radial", 0.05)},
        )

    def test_charts(self) -> None:
        long = read_chart(b"reading,spoke_kind,force_n\n20,round 2.0,800\n10,round 2.0,400\n12,round 1.8,500\n")
        self.assertEqual(long, {"round 2.0": ([10, 20], [400, 800]), "round 1.8": ([12], [500])})
        wide = read_chart(b"round 2.0;Reading;round 1.8\n400;10;\n800;20;700\n")
        self.assertEqual(wide, {"round 2.0": ([10, 20], [400, 800]), "round 1.8": ([20], [700])})
        self.assertEqual(read_chart(b"reading,x\n10,400\n"), {"x": ([10], [400])})
        self.assertEqual(read_chart(b"reading,force_n\n10,400\n"), {"force_n": ([10], [400])})
        for data in (b"reading,a\n", b"a,b\n1,2\n", b"reading,a\n10,x\n", b"reading,a\nx,10\n", b"reading,a\n10,\n"):
            with self.subTest(data), self.assertRaises(BadCsv):
                read_chart(data)


class Lines(unittest.TestCase):
    def test_both_forms(self) -> None:
        self.assertEqual(
            parse_line('{"kind": "tension", "value": 26.5, "unit": "meter", "spoke": "R3"}'),
            Sample("tension", 26.5, "meter", "R3"),
        )
        self.assertEqual(parse_line("lateral, 0.12 ,mm, 401.5"), Sample("lateral", 0.12, "mm", "", 41.5))
        self.assertEqual(parse_line("radial,-0.2,mm"), Sample("radial", -0.2, "mm"))
        self.assertEqual(parse_line("tension,1,N," + "0" * 488).angle_deg, 0)
        for bad in (
            "", "tension,1,N," + "0" * 489, "x" * 501, "{", '{"kind": "tension"}', "tension,1", "tension,1,N,2,3",
            "tension,x,N", "tension,1,mm",
            "lateral,1,N",
            "weight,1,N", '{"kind":"tension","value":true,"unit":"N"}',
            '{"kind":"lateral","value":1,"unit":"mm","angle_deg":true}',
            '{"kind":"lateral","value":1e999,"unit":"mm"}', '{"kind":"lateral","value":1,"unit":"mm","angle_deg":1e999}',
            '{"kind":"lateral","value":1,"unit":"mm","angle_deg":"5"}',
        ):  # fmt: skip
            with self.subTest(bad[:40]), self.assertRaises(BadLine):
                parse_line(bad)
        spaced = "tension,1,N" + " " * 600
        self.assertEqual(parse_line(spaced).value, 1)

    def test_steady_from_four_within_a_step(self) -> None:
        for kind, step in (("tension", 1.0), ("lateral", 0.03), ("radial", 0.03)):
            self.assertTrue(steady([99, 10, 10 + step, 10, 10], kind))
            self.assertFalse(steady([10, 10 + step * 1.01, 10, 10], kind))
            self.assertFalse(steady([10, 10, 10], kind))

    def test_a_whole_turn_either_way_round(self) -> None:
        def samples(*angles: float | None) -> list[Sample]:
            return [Sample("lateral", 0.0, "mm", "", angle) for angle in angles]

        for way in (1, -1):
            angles = [(way * 50.0 * i + 10) % 360 for i in range(9)]
            found = one_turn(samples(*angles))
            assert found is not None
            self.assertEqual([s.angle_deg for s in found], angles[:8])
            self.assertIsNone(one_turn(samples(*angles[:8])))
        self.assertIsNone(one_turn(samples(*(10.0, 100.0, 10.0, 100.0) * 4)))
        self.assertIsNone(one_turn(samples(None, None)))
        exact = one_turn(samples(0.0, 90.0, 180.0, 270.0, 0.0))
        assert exact is not None
        self.assertEqual(len(exact), 4)


class Traces(unittest.TestCase):
    def test_thinned_to_bins_with_their_means(self) -> None:
        angles = np.arange(0, 360, 0.5)
        values = 0.3 * np.cos(np.radians(angles - 70)) + 0.1
        found = turn_trace(list(angles), list(values))
        self.assertEqual(len(found.points), 144)
        self.assertAlmostEqual(found.first_harmonic_mm, 0.3, 3)
        self.assertAlmostEqual(found.first_harmonic_deg, 70, 1)
        angle, value, sd = found.points[3]
        np.testing.assert_allclose(angle, np.mean([7.5, 8.0, 8.5, 9.0, 9.5]))
        np.testing.assert_allclose(value, np.mean(values[15:20]), atol=1e-4)
        self.assertAlmostEqual(sd, 0.03 / np.sqrt(5), 3)
        many = turn_trace(list(np.linspace(0, 360, 14400, endpoint=False)), [0.0] * 14400)
        self.assertEqual(many.points[0][2], 0.01)
        self.assertIn("144 places round the rim", many.said("lateral"))
        self.assertIn("askew", found.said("lateral"))
        self.assertIn("out of centre", found.said("radial"))
        weak = turn_trace(list(angles), list(values / 6.1))
        self.assertNotIn("askew", weak.said("lateral"))
        self.assertIn("askew", turn_trace(list(angles), list(values / 5.9)).said("lateral"))

    def test_no_whole_turn_is_refused(self) -> None:
        """Twelve different angles at least, no stretch of more than sixty degrees left out, nor a runout of 60 mm."""
        twelve = [30.0 * i for i in range(12)]
        turn_trace(twelve, [0.0] * 12)
        sixty = [*(25.0 * i for i in range(13))]
        turn_trace(sixty, [0.0, 60.0] + [0.0] * 11)
        for angles, values in (
            (twelve[:11], [0.0] * 11), (twelve, [0.0] * 11), ([0.0] * 12, [0.0] * 12),
            ([24.9 * i for i in range(13)], [0.0] * 13),
            (sixty, [0.0, 60.1] + [0.0] * 11), (sixty, [float("nan")] + [0.0] * 12),
            ([360.0 * i for i in range(12)], [0.0] * 12),
        ):  # fmt: skip
            with self.subTest(angles=angles[:3], values=values[:2]), self.assertRaises(BadReading):
                turn_trace(angles, values)


class Instruments(unittest.TestCase):
    def test_standing_by_the_day(self) -> None:
        checked = date(2026, 3, 1)
        due = checked + timedelta(days=180)
        for today, passed, word in (
            (due - timedelta(days=15), True, "good"), (due - timedelta(days=14), True, "due_soon"), (due, True, "due_soon"),
            (due + timedelta(days=1), True, "overdue"), (checked, False, "drifted"),
            (due + timedelta(days=9), False, "drifted"),
        ):  # fmt: skip
            found = standing(checked, passed, 180, today)
            with self.subTest(today=today, passed=passed):
                self.assertEqual((found.word, found.due_on), (word, due))
                self.assertEqual(found.warns, word in ("overdue", "drifted"))
        never = standing(None, True, 180, checked)
        self.assertEqual((never.word, never.due_on, never.warns), ("never", None, True))

    def test_how_long_a_check_holds(self) -> None:
        """Days; common practice, no source."""
        days = {key: kind.days for key, kind in INSTRUMENT_KINDS.items()}
        self.assertEqual(
            days, {"tension_meter": 180, "dial": 365, "caliper": 365, "ruler": 730, "dishing_gauge": 365, "stand": 90}
        )

    def test_a_stand_by_flipping(self) -> None:
        for first, side, flipped, other, error, dish, passed in (
            (1.0, Side.RIGHT, 1.0, Side.RIGHT, -1.0, 0.0, True), (1.1, Side.LEFT, 1.0, Side.LEFT, 1.05, -0.05, False),
            (0.5, Side.RIGHT, 0.5, Side.LEFT, 0.0, 0.5, True), (30.0, Side.LEFT, 0.0, Side.LEFT, 15.0, -15.0, False),
        ):  # fmt: skip
            found = stand_by_flipping(first, side, flipped, other)
            self.assertAlmostEqual(found.stand_error_mm, error)
            self.assertAlmostEqual(found.wheel_dish_mm, dish)
            self.assertEqual(found.passed, passed)
        self.assertIn("to the left", stand_by_flipping(0.5, Side.RIGHT, 0.5, Side.RIGHT).why)
        self.assertIn("to the right", stand_by_flipping(2.5, Side.LEFT, 0.5, Side.LEFT).why)
        self.assertIn("to the middle", stand_by_flipping(0.09, Side.LEFT, 0.0, Side.LEFT).why)
        self.assertIn("0.1 mm", stand_by_flipping(0.11, Side.LEFT, 0.0, Side.LEFT).why)
        self.assertIn("to the right", stand_by_flipping(0.1, Side.LEFT, 0.0, Side.LEFT).why)
        for bad in ((-0.1, 1.0), (30.1, 1.0), (1.0, -0.1), (1.0, 30.1), (float("nan"), 1.0)):
            with self.assertRaises(BadReading):
                stand_by_flipping(bad[0], Side.LEFT, bad[1], Side.LEFT)

    def test_magnets(self) -> None:
        found = {
            (pull, thick, tied): by_magnet(pull, thick, tied).materials
            for pull in ("strong", "weak", "none") for thick in (2.0, 2.6) for tied in (False, True)
        }  # fmt: skip
        self.assertEqual({m for (pull, *_), m in found.items() if pull == "strong"}, {("carbon steel",)})
        self.assertEqual({m for (pull, *_), m in found.items() if pull == "weak"}, {("stainless",)})
        self.assertEqual(found["none", 2.0, True], ("fibre",))
        self.assertEqual(found["none", 2.6, False], ("aluminium", "carbon"))
        self.assertEqual(by_magnet("none", 2.59).materials, ("titanium", "stainless"))
        for good in (0.5, 8):
            by_magnet("none", good)
        for pull, thick in (("some", 2.0), ("none", 0.49), ("none", 8.1)):
            with self.assertRaises(BadReading):
                by_magnet(pull, thick)


class Repeated(unittest.TestCase):
    def test_outliers_by_the_modified_z_score(self) -> None:
        """0.6745·|x − median|/MAD beyond 3.5 (Iglewicz & Hoaglin 1993): the handbook's own way, by hand."""
        values = [10.0, 10.1, 9.9, 10.2, 12.0]
        self.assertEqual(joined(values).outliers, (4,))
        mad = 0.1
        for edge, out in ((10.1 + 3.5 * mad / 0.6745 - 0.001, ()), (10.1 + 3.5 * mad / 0.6745 + 0.001, (4,))):
            self.assertEqual(joined([10.0, 10.1, 10.2, 10.1, edge, 10.0, 10.2]).outliers, out)
        self.assertEqual(joined([10.0, 10.1, 20.0]).outliers, ())
        self.assertEqual(joined([10.0, 10.0, 10.0, 10.02]).outliers, (3,))
        self.assertEqual(joined([10.0, 10.0, 10.0, 10.02], 0.01).outliers, ())
        kept = joined(values)
        self.assertEqual(kept.kept, 4)
        self.assertAlmostEqual(kept.mean, float(np.mean(values[:4])))
        self.assertAlmostEqual(kept.sd, float(np.std(values[:4], ddof=1)))
        self.assertEqual(mean_and_sd([3.0]), (3.0, 0.0))
        self.assertEqual(REPEAT_STEP, {"tension": 10.0, "lateral": 0.01, "radial": 0.01, "dish": 0.05})

    def test_what_is_common_to_repeats_stays(self) -> None:
        three = joined([10.0, 10.3, 9.8])
        self.assertAlmostEqual(repeated_sd(three, 0.5), np.hypot(0.35, three.sd / np.sqrt(3)))
        self.assertAlmostEqual(repeated_sd(joined([10.0]), 0.5), 0.5)
        two = joined([10.0, 11.0])
        self.assertAlmostEqual(repeated_sd(two, 0.5), np.hypot(0.35, two.sd / np.sqrt(2)))


class AskedNext(unittest.TestCase):
    def test_a_quick_look_is_spread_evenly_on_both_sides(self) -> None:
        chosen = quick_look(REAR)
        self.assertEqual(len(chosen), 10)
        right = [int(n[1:]) for n in chosen if n[0] == "R"]
        left = [int(n[1:]) for n in chosen if n[0] == "L"]
        self.assertEqual((right, left), ([1, 4, 8, 11, 15], [2, 6, 10, 13, 17]))
        self.assertEqual(list(chosen), [str(n) for n in REAR.names if str(n) in chosen])
        self.assertEqual(len(quick_look(SMALL, 30)), 20)

    def test_each_takes_most_off_what_a_plan_weighs(self) -> None:
        """The gain by conditioning the covariance on each candidate, one after another."""
        rng = np.random.default_rng(4)
        full = read_fully(used_wheel(SMALL, rng, 0.3), rng)
        readings = Readings(full.tension[::4], full.lateral[::5], [], [])
        state = estimate_state(influence(SMALL), readings)
        found = next_readings(state, readings, SOUND, 2, 0.0)
        tension_map, shape_map, covariance = state.maps
        n = SMALL.spoke_count
        rows = objective_rows(state.influence, SOUND) @ np.vstack([tension_map, shape_map])

        def left(after: np.ndarray) -> float:
            return float(np.trace(rows @ after @ rows.T))

        names = [str(name) for name in SMALL.names]
        centred = {k: shape_map[s : s + n] - shape_map[s : s + n].mean(axis=0) for k, s in (("lateral", 0), ("radial", n))}
        everything = {("tension", name): (tension_map[i], 25.0) for i, name in enumerate(names)}
        everything |= {(kind, name): (centred[kind][i], 0.03) for kind in centred for i, name in enumerate(names)}
        everything["dish", ""] = (shape_map[:n].mean(axis=0), 0.05)
        for r in readings.tension:
            del everything["tension", r.spoke]
        for i in range(0, n, 5):
            del everything["lateral", names[i]]
        for step in found:
            gains = {}
            for key, (vector, sd) in everything.items():
                seen = covariance @ vector
                gains[key] = 1 - left(covariance - np.outer(seen, seen) / (vector @ seen + sd**2)) / left(covariance)
            best = max(gains, key=lambda key: gains[key])
            self.assertEqual((step.kind, step.spoke), best)
            self.assertAlmostEqual(step.gain, gains[best], 6)
            vector, sd = everything.pop(best)
            seen = covariance @ vector
            covariance = covariance - np.outer(seen, seen) / (vector @ seen + sd**2)
        enough = float(np.sqrt(left(state.maps[2]) / len(rows)))
        self.assertEqual(next_readings(state, readings, SOUND, 2, enough * 1.01), ())
        self.assertEqual(len(next_readings(state, readings, SOUND, 1, enough * 0.99)), 1)


if __name__ == "__main__":
    unittest.main()
