"""What a wheel's visit takes in the database: two full sets of readings, a plan worked in between, all that is kept beside."""

from __future__ import annotations

import uuid
from collections import Counter
from datetime import timedelta

import numpy as np
from django.db import connection
from django.utils import timezone

from felloe.core.practice.damage import used_wheel
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.live.models import LiveEvent
from felloe.privacy.services.retention import retain
from tests.api.shop import REAR, BenchCase, open_job
from tests.core.wheels import read_fully

WHEEL = WHEEL_KINDS[REAR].wheel
#: An index keeps a pointer and a header beside each key, its pages are some three quarters full; one whose keys come again
#: and again keeps each once and a pointer for every row [bytes]. As the large shop of `bin/felloe bench shop` has them.
POINTER, FILL, AGAIN = 12, 1.3, 7


def kept_bytes() -> Counter[str]:
    """Bytes of all rows, and of their keys in every index, by table."""
    found: Counter[str] = Counter()
    with connection.cursor() as cursor:
        cursor.execute(
            """
            SELECT c.relname, array_agg(k.keys) FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
            JOIN LATERAL (
              SELECT CASE WHEN i.indisunique THEN
                       (SELECT string_agg(format('coalesce(pg_column_size(t.%I), 0)', a.attname), ' + ')
                          FROM pg_attribute a WHERE a.attrelid = c.oid AND a.attnum = ANY (i.indkey)) END AS keys
                FROM pg_index i WHERE i.indrelid = c.oid) k ON true
             WHERE c.relkind = 'r' AND n.nspname = 'public' GROUP BY 1
            """
        )
        for table, indexes in cursor.fetchall():
            keys = " + ".join(f"{FILL} * ({POINTER} + {keys})" if keys else str(AGAIN) for keys in indexes)
            cursor.execute(f'SELECT coalesce(sum(4 + pg_column_size(t.*) + {keys}), 0) FROM "{table}" t')
            found[table] = int(cursor.fetchone()[0])
    return found


class Storage(BenchCase):
    def enter(self, virtual: VirtualWheel, rng: np.random.Generator) -> None:
        """Every place of the open set, each reading with the key of its press."""
        read = read_fully(virtual, rng)
        at = {round(angle, 2): str(name) for angle, name in zip(WHEEL.angles_deg, WHEEL.names, strict=True)}
        entries = [
            {"kind": "tension", "spoke": r.spoke, "value": round(max(0, r.tension_n)), "unit": "N"} for r in read.tension
        ]
        for kind in ("lateral", "radial"):
            for r in getattr(read, kind):
                entries.append(
                    {"kind": kind, "spoke": at[round(r.angle_deg, 2)], "value": round(r.deviation_mm, 2), "unit": "mm"}
                )
        pressed = [{"key": uuid.uuid4().hex, "entry": entry} for entry in entries]
        for first in range(0, len(pressed), 6):
            answer = self.post(f"reading-sets/{self.set}/entries", {"entries": pressed[first : first + 6]})
            self.assertEqual([r["refusal"] for r in answer.json()["results"]], [None] * len(answer.json()["results"]))

    def test_a_visit_keeps_within_its_kilobytes(self) -> None:
        """Read in full, a plan worked, read in full again, a fortnight later: 216 readings, the moves, what is kept beside."""
        rng = np.random.default_rng(6)
        virtual = used_wheel(WHEEL, rng, 0.3)
        before = kept_bytes()
        self.job = open_job(self.bram)
        self.set = self.open_set()
        self.enter(virtual, rng)
        plan = self.post(f"reading-sets/{self.set}/plans", {}).json()
        turns = np.zeros(WHEEL.spoke_count)
        for move in plan["moves"]:
            self.client.put(f"/api/v1/plans/{plan['id']}/moves/{move['key']}", {"state": "done"}, format="json")
            turns[WHEEL.index_of[move["spoke"]]] += move["turns"]
        self.set = self.open_set("after_pass")
        self.enter(virtual.turned(turns), rng)
        # What only machines need is gone a fortnight later.
        retain(timezone.now() + timedelta(days=15))
        LiveEvent.objects.all().delete()
        grown = kept_bytes() - before
        said = {table: round(size / 1000, 1) for table, size in grown.most_common(8)}
        self.assertGreater(len(plan["moves"]), 8)
        self.assertLessEqual(sum(grown.values()), 90_000, said)
