"""Readings as files and as lines of an instrument."""

from __future__ import annotations

import unittest

import numpy as np

from felloe.core.errors import BadReading
from felloe.core.measuring.csv_readings import BadCsv, read_chart, read_csv, write_csv
from felloe.core.measuring.stream import BadLine, Sample, gone_deg, one_turn, parse_line, steady
from felloe.core.runout.traces import turn_trace
from tests.core.wheels import REAR


class Files(unittest.TestCase):
    def test_rfc_4180_and_what_spreadsheets_write(self) -> None:
        """RFC 4180 §2: quoted cells, doubled quotes, CRLF, a comma inside quotes; semicolons, tabs, decimal commas, BOM."""
        same = (
            "spoke,tension_n\r\nR1,1000.5\r\nL1,480\r\n",
            '"spoke","tension_n"\r\n"R1","1000,5"\r\n"L1",480',
            "\ufeffSpoke;Tension [N]\nR1;1000,5\nL1;480\n",
            "spoke\ttension (N)\nR1\t1000,5\nL1\t480,0\n",
            '\n\nspoke,tension_n,remark\nR1,1000.5,"good, I think"\n\nL1,480,"""old"""\n',
        )
        for text in same:
            with self.subTest(text=text):
                found = read_csv(text.encode(), REAR)
                values = [(r.spoke, r.value, r.unit, r.wrong) for r in found.rows]
                self.assertEqual(values, [("R1", 1000.5, "N", ""), ("L1", 480.0, "N", "")])
                self.assertTrue(found.sound)
        self.assertTrue(read_csv("spoke;lateral_mm\nR1;0,12\n".encode("utf-16"), REAR).sound)

    def test_units_in_the_header(self) -> None:
        found = read_csv(b"spoke,tension [kgf],lateral (in),radial\nR1,100,0.01,0.2\n", REAR)
        self.assertEqual([(r.kind, r.unit) for r in found.rows], [("tension", "kgf"), ("lateral", "in"), ("radial", "mm")])
        self.assertIn("“radial” names no unit: taken as mm", found.said)

    def test_every_fault_stands_at_its_line(self) -> None:
        text = "spoke,tension_n\nR1,abc\nR99,500\nX3,500\nR2,99999\nR3,1,5\n,300\nR4,900\nR4,910\n"
        found = read_csv(text.encode(), REAR)
        wrong = {row.line: row.wrong for row in found.rows if row.wrong}
        self.assertEqual(sorted(wrong), [2, 3, 4, 5, 6, 7])
        self.assertIn("no number", wrong[2])
        self.assertIn("no spoke R99", wrong[3])
        self.assertIn("decimal comma", wrong[6])
        self.assertFalse(found.sound)
        self.assertIn("line 8", next(r.doubt for r in found.rows if r.line == 9))

    def test_a_slip_of_the_decimal_sign_is_doubted(self) -> None:
        rows = "".join(f"R{i},{950 + i}\n" for i in range(1, 18))
        found = read_csv(f"spoke,tension_n\n{rows}R18,96\n".encode(), REAR)
        self.assertEqual([r.spoke for r in found.rows if r.doubt], ["R18"])

    def test_what_is_no_table(self) -> None:
        files = (
            b"",
            b"spoke,tension_n\n",
            b"a,b\n1,2\n",
            b"spoke,tension_mm\nR1,2\n",
            b"\x00\x01\x02",
            b'spoke,tension_n\nR1,"2\n',
            b"spoke,tension_n,tension_kgf\nR1,2,3\n",
            b"spoke,tension_n\n" + b"R1,1\n" * 300_000,
        )
        for data in files:
            with self.subTest(data=data[:30]), self.assertRaises(BadCsv):
                read_csv(data, REAR)

    def test_out_and_in_again(self) -> None:
        values = {"R1": {"tension": 1000.5, "lateral": -0.123}, "L18": {"radial": 0.25}}
        found = read_csv(write_csv(REAR, values).encode(), REAR)
        back: dict[str, dict[str, float]] = {}
        for row in found.rows:
            back.setdefault(row.spoke, {})[row.kind] = row.value or 0.0
        self.assertEqual(back, values)
        self.assertTrue(found.sound)

    def test_a_dense_trace(self) -> None:
        rows = "".join(f"{a},{0.5 * np.cos(np.radians(2 * a)):.3f}\n" for a in range(0, 360, 3))
        self.assertTrue(read_csv(f"angle_deg,lateral_mm\n{rows}".encode(), REAR).dense)

    def test_a_makers_chart_in_either_shape(self) -> None:
        wide = read_chart(b"reading;round 2.0;round 1.8\n10;300;350\n20;700;800\n30;1200;\n")
        self.assertEqual(wide["round 2.0"], ([10, 20, 30], [300, 700, 1200]))
        self.assertEqual(wide["round 1.8"], ([10, 20], [350, 800]))
        long = read_chart(b"spoke_kind,reading,force_n\nround 2.0,20,700\nround 2.0,10,300\n")
        self.assertEqual(long["round 2.0"], ([10, 20], [300, 700]))
        for data in (b"x\n", b"force,kind\n1,2\n", b"reading,round 2.0\n10,abc\n"):
            with self.subTest(data=data), self.assertRaises(BadCsv):
                read_chart(data)


class Streams(unittest.TestCase):
    def test_lines(self) -> None:
        line = '{"kind": "tension", "value": 26.5, "unit": "meter", "spoke": "R3"}'
        self.assertEqual(parse_line(line), Sample("tension", 26.5, "meter", "R3"))
        self.assertEqual(parse_line("lateral,0.12,mm,371"), Sample("lateral", 0.12, "mm", "", 11.0))
        bad = ["", "hello", "tension,abc,N", "tension,1,mm", '{"kind": "tension"}', '{"value": 1', "x" * 600]
        bad.append('{"kind":"lateral","value":true,"unit":"mm"}')
        bad.append('{"kind":"lateral","value":1,"unit":"mm","angle_deg":"x"}')
        for text in bad:
            with self.subTest(line=text[:20]), self.assertRaises(BadLine):
                parse_line(text)

    def test_steady_when_the_last_values_agree(self) -> None:
        self.assertFalse(steady([20, 24, 26, 26.5], "tension"))
        self.assertTrue(steady([20, 26, 26.5, 26.5, 26], "tension"))
        self.assertFalse(steady([26, 26, 26], "tension"))

    def test_how_far_the_wheel_has_gone_either_way_and_past_the_valve(self) -> None:
        def at(*angles: float) -> list[Sample]:
            return [Sample("lateral", 0.0, "mm", "", angle) for angle in angles]

        self.assertEqual(gone_deg([]), 0.0)
        self.assertAlmostEqual(gone_deg(at(350.0, 5.0, 20.0)), 30.0)
        self.assertAlmostEqual(gone_deg(at(20.0, 5.0, 350.0)), 30.0)
        # To and fro is no way, and more than once round is once.
        self.assertAlmostEqual(gone_deg(at(10.0, 40.0, 10.0)), 0.0)
        self.assertAlmostEqual(gone_deg(at(*[(30.0 * k) % 360 for k in range(15)])), 360.0)
        self.assertEqual(gone_deg([Sample("lateral", 0.0, "mm"), *at(4.0)]), 0.0)

    def test_one_whole_turn_either_way(self) -> None:
        for way in (1, -1):
            samples = [Sample("lateral", 0.0, "mm", "", (300 + way * 4 * i) % 360) for i in range(100)]
            found = one_turn(samples)
            assert found is not None
            self.assertEqual(len(found), 90)
            self.assertIsNone(one_turn(samples[:80]))

    def test_a_trace_says_how_the_wheel_sits(self) -> None:
        angles = np.arange(0, 360, 1.5)
        shape = 2 + 0.3 * np.cos(np.radians(angles - 40)) + 0.1 * np.cos(np.radians(2 * angles))
        trace = turn_trace(angles.tolist(), shape.tolist())
        self.assertAlmostEqual(trace.first_harmonic_mm, 0.3, delta=0.005)
        self.assertAlmostEqual(trace.first_harmonic_deg, 40, delta=1)
        self.assertIn("out of centre by 0.30 mm", trace.said("radial"))
        with self.assertRaises(BadReading):
            turn_trace([0, 1, 2], [0, 0, 0])
