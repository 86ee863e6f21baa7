"""The wheel record: reads what it writes, refuses what it does not understand, with the place."""

import copy
import json
import unittest
from pathlib import Path

from felloe.core.errors import BadReading, BadRecord, ImpossibleGeometry, OutsideCalibration, TradeError, UnknownSpoke
from felloe.core.record import MAX_BYTES, read_record, record_from_dict, record_to_dict
from felloe.core.specification import wheel_from_dict, wheel_to_dict
from tests.core.wheels import ALL

EXAMPLES = Path(__file__).resolve().parents[2] / "docs" / "formats" / "examples"
FULL = json.loads((EXAMPLES / "rear-32-full.json").read_text())
QUICK = json.loads((EXAMPLES / "disc-front-28-quick.json").read_text())


class RoundTrip(unittest.TestCase):
    def test_every_kind_of_wheel(self) -> None:
        for key, wheel in ALL.items():
            with self.subTest(key):
                self.assertEqual(wheel_from_dict(json.loads(json.dumps(wheel_to_dict(wheel)))), wheel)

    def test_examples(self) -> None:
        for example in (FULL, QUICK):
            record = record_from_dict(example)
            again = record_from_dict(json.loads(json.dumps(record_to_dict(record))))
            self.assertEqual(again.wheel, record.wheel)
            self.assertEqual([s.readings for s in again.sets], [s.readings for s in record.sets])

    def test_version_1_is_read_as_one_without_traces(self) -> None:
        old = copy.deepcopy(FULL)
        for recorded in old["reading_sets"]:
            recorded.pop("traces", None)
        old["version"] = 1
        record, now = record_from_dict(old), record_from_dict(FULL)
        self.assertEqual(record.wheel, now.wheel)
        self.assertEqual([s.readings.tension for s in record.sets], [s.readings.tension for s in now.sets])
        self.assertEqual([s.traces for s in record.sets], [()] * len(record.sets))
        written = record_to_dict(record)
        self.assertEqual(written["version"], 2)
        self.assertEqual([s.readings for s in record_from_dict(written).sets], [s.readings for s in record.sets])

    def test_a_trace_has_a_zero_of_its_own(self) -> None:
        recorded = record_from_dict(FULL).sets[0]
        [trace] = recorded.traces
        points = [r for r in recorded.readings.radial if r.group == 1]
        self.assertEqual(len(points), len(trace.points))
        self.assertEqual({r.group for r in recorded.readings.radial}, {0, 1})

    def test_locknut_school(self) -> None:
        value = copy.deepcopy(FULL)
        right = value["wheel"]["hub"]["right"]
        right["locknut_to_flange_mm"] = value["wheel"]["hub"]["old_mm"] / 2 - right.pop("center_to_flange_mm")
        self.assertEqual(record_from_dict(value).wheel, record_from_dict(FULL).wheel)

    def test_meter_readings_become_forces(self) -> None:
        first = record_from_dict(QUICK).sets[0].readings.tension[0]
        self.assertTrue(400 < first.tension_n < 1300)
        self.assertGreater(first.sd_n, 15)


class Refusals(unittest.TestCase):
    def refused(self, error: type[TradeError], field: str, base: dict, *path_and_value) -> None:
        value = copy.deepcopy(base)
        *path, last, new = path_and_value
        node = value
        for key in path:
            node = node[key]
        if new is None and isinstance(node, dict):
            del node[last]
        else:
            node[last] = new
        with self.assertRaises(error) as caught:
            record_from_dict(value)
        self.assertEqual(caught.exception.field, field, caught.exception.message)

    def test_each_with_its_place(self) -> None:
        sets = ("reading_sets", 0)
        cases = [
            (BadRecord, "format", FULL, "format", "something-else"),
            (BadRecord, "version", FULL, "version", 3),
            (BadRecord, "version", FULL, "version", 0),
            (BadRecord, "reading_sets.0.traces", FULL, "version", 1),
            (BadReading, "reading_sets.0.traces.0.points.3[0]", FULL, *sets, "traces", 0, "points", 3, 0, 360.0),
            (BadReading, "reading_sets.0.traces.0.points.3[2]", FULL, *sets, "traces", 0, "points", 3, 2, 0.0),
            (BadRecord, "reading_sets.0.traces.0.points.3", FULL, *sets, "traces", 0, "points", 3, [1.0, 2.0]),
            (BadRecord, "reading_sets.0.traces.0.kind", FULL, *sets, "traces", 0, "kind", "tension"),
            (BadRecord, "wheel", FULL, "wheel", None),
            (BadRecord, "wheel.rim.erd_mm", FULL, "wheel", "rim", "erd_mm", "605"),
            (BadRecord, "wheel.rim.erd_mm", FULL, "wheel", "rim", "erd_mm", True),
            (BadRecord, "wheel.rim.colour", FULL, "wheel", "rim", "colour", "blue"),
            (BadRecord, "wheel.right.count", FULL, "wheel", "right", "count", 16.5),
            (ImpossibleGeometry, "wheel.rim.erd_mm", FULL, "wheel", "rim", "erd_mm", 90),
            (ImpossibleGeometry, "wheel.hub.right.pitch_circle_mm", FULL, "wheel", "hub", "right", "pitch_circle_mm", 1),
            (ImpossibleGeometry, "wheel.left.crossings", FULL, "wheel", "left", "crossings", 4.0 + 5),
            (BadRecord, "targets.tier", FULL, "targets", "tier", "perfect"),
            (UnknownSpoke, "reading_sets.0.tension.0.spoke", FULL, *sets, "tension", 0, "spoke", "Q1"),
            (TradeError, "reading_sets.0.tension.0.spoke", FULL, *sets, "tension", 0, "spoke", "R17"),
            (OutsideCalibration, "reading_sets.0.tension.0.reading", QUICK, *sets, "tension", 0, "reading", 99),
            (BadRecord, "reading_sets.0.tension.0.meter", QUICK, *sets, "tension", 0, "meter", "nobody's"),
            (BadRecord, "reading_sets.0.stage", FULL, *sets, "stage", "someday"),
            (BadRecord, "reading_sets.0.taken_at", FULL, *sets, "taken_at", "yesterday"),
            (BadRecord, "reading_sets.0.taken_at", FULL, *sets, "taken_at", "2026-11-20T09:30:00"),
            (BadRecord, "plans.0.reading_set", FULL, "plans", [{"id": "p", "reading_set": "x"}]),
        ]
        for error, field, base, *change in cases:
            with self.subTest(field=field, change=change[-1]):
                self.refused(error, field, base, *change)

    def test_no_json_at_all(self) -> None:
        for data in (b"", b"{", b"\xff\xfe", b"[" * 100_000, b'"text"', b"null"):
            with self.subTest(data[:10]), self.assertRaises(BadRecord):
                read_record(data)

    def test_too_large(self) -> None:
        with self.assertRaisesRegex(BadRecord, "at most"):
            read_record(b" " * (MAX_BYTES + 1))

    def test_numbers_that_are_none(self) -> None:
        text = json.dumps(FULL).replace('"erd_mm": 605', '"erd_mm": NaN')
        self.assertNotEqual(text, json.dumps(FULL))
        with self.assertRaises(BadRecord):
            read_record(text.encode())
