"""What the shop did in the weeks before: wheels that came, were repaired and left. Their readings are not made up."""

from __future__ import annotations

from datetime import datetime, timedelta
from uuid import UUID

import numpy as np

from felloe.accounts.models import User
from felloe.core.specification import wheel_to_dict
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.customers import services as customers
from felloe.demo.clock import demo_clock
from felloe.queue import services as queue
from felloe.queue.models import Job, StageTime

OWNER = ("Harbour Office", "0700 900 160")
#: Kinds of bikes: brake, use, kind of wheel, end.
KINDS = (
    ("rim", "everyday", "rim-brake-rear-36", "rear"),
    ("rim", "everyday", "rim-brake-rear-36", "rear"),
    ("disc", "sport", "disc-rear-32", "rear"),
    ("disc", "everyday", "disc-front-28", "front"),
    ("disc", "cargo", "disc-front-28", "front"),
)
BIKES = 27
#: Crew bikes by number, each with one of KINDS.
CAME = tuple((f"Crew bike {i + 1}", *KINDS[i % len(KINDS)]) for i in range(BIKES))
FIRST_NUMBER = 60
WEEKS = 8
#: Stages of a repair with the minutes that they usually take.
TOOK = (("as_found", 10), ("true", 25), ("as_left", 10))
TIERS = ("sound", "sound", "fine", "roadworthy")


def load_past(staff: dict[str, User], now: datetime) -> None:
    """Some four wheels a week, most of them ready by their promise; one in ten came back."""
    rng = np.random.default_rng(11)
    desk = staff["pip"]
    with demo_clock(now - timedelta(weeks=WEEKS + 1)):
        owner = customers.add_customer(desk, {"name": OWNER[0], "phone": OWNER[1]})
        bikes = {
            label: customers.add_bike(desk, owner.pk, {"label": label, "brake": brake, "use": use}).pk
            for label, brake, use, _, _ in CAME
        }
    wheels: dict[str, UUID] = {}
    number = FIRST_NUMBER
    for week in range(WEEKS, 0, -1):
        for i in range(4):
            # Nearly each time another bike; now and then one that was here before.
            nth = number - FIRST_NUMBER
            label, _, _, kind, position = CAME[nth if nth < BIKES else int(rng.integers(BIKES))]
            came = now - timedelta(days=7 * week - i, hours=float(rng.uniform(0, 6)))
            tier = TIERS[int(rng.integers(len(TIERS)))]
            with demo_clock(came):
                known = (
                    {"wheel_id": wheels[label]}
                    if label in wheels
                    else {"bike_id": bikes[label], "wheel": _wheel(kind, position)}
                )
                job = queue.open_job(desk, {**known, "complaint": "rubs", "tier": tier, "second": True})
                wheels[label] = job.wheel_id
            # Older jobs have lower numbers than those that are told of one by one.
            Job.objects.filter(pk=job.pk).update(number=number)
            number += 1
            _left(staff["bram" if rng.random() < 0.6 else "ines"], job, came, rng)


def _wheel(kind: str, position: str) -> dict[str, object]:
    return {"position": position, "kind": kind, "specification": wheel_to_dict(WHEEL_KINDS[kind].wheel)}


def _left(who: User, job: Job, came: datetime, rng: np.random.Generator) -> None:
    """The job as it stands when it has left: its times and its end."""
    ready = came + timedelta(days=float(rng.gamma(4, 0.6)))
    promised = ready + timedelta(hours=float(rng.normal(9, 11)))
    Job.objects.filter(pk=job.pk).update(
        stage="done",
        ended_as="repaired",
        ready_at=ready,
        handed_back_at=ready + timedelta(hours=20),
        promised_at=promised,
        promise_chance=0.8,
        assigned_to=who,
    )
    for stage, usual in TOOK:
        made = StageTime.objects.create(
            shop_id=job.shop_id,
            job=job,
            stage=stage,
            tier=job.tier,
            taken_min=round(usual * float(rng.lognormal(0.05, 0.3)), 1),
            usual_min=usual,
            estimated_min=usual,
            created_by=who,
        )
        StageTime.objects.filter(pk=made.pk).update(created_at=ready)
    queue.log(Job.objects.get(pk=job.pk), who, "handed_back")
