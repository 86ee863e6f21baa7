"""The nurses' fleet: a lot of wheels from their list of numbers, a few of them measured."""

from __future__ import annotations

from datetime import datetime, timedelta

import numpy as np

from felloe.accounts.models import User
from felloe.bench.services import entering, readings
from felloe.core.specification import wheel_to_dict
from felloe.core.tension.statics import side_targets_n
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.customers.models import Customer
from felloe.demo.clock import demo_clock
from felloe.fleet import services as fleet
from felloe.fleet.services.lots import lot_of

OWNER = "District Nurses, Tern Quay"
KIND = "small-front-20"
NUMBERS = 24
#: How tight the wheels are that were measured, as a share of their target: one of them was never tensioned.
MEASURED = (0.98, 1.04, 0.66, 0.95, 1.01, 0.93)


def load_lot(staff: dict[str, User], now: datetime) -> None:
    """Taken in yesterday by the desk, sampled this morning by the apprentice."""
    owner = Customer.objects.get(shop_id=staff["pip"].shop_id, name=OWNER)
    wheel = WHEEL_KINDS[KIND].wheel
    with demo_clock(now - timedelta(hours=26)):
        lot = fleet.open_lot(
            staff["pip"],
            {
                "name": "Folding bikes, front",
                "customer_id": owner.pk,
                "text": "asset\n" + "\n".join(f"N{i}" for i in range(20, 20 + NUMBERS)),
                "brake": "rim",
                "use": "everyday",
                "wheel": {"position": "front", "kind": KIND, "specification": wheel_to_dict(wheel)},
                "complaint": "yearly check of the fleet",
                "tier": "roadworthy",
            },
        )
    rng = np.random.default_rng(7)
    for i, share in enumerate(MEASURED):
        with demo_clock(now - timedelta(hours=5) + timedelta(minutes=9 * i)):
            job = lot_of(staff["pip"], lot.pk).next_to_measure[0]
            made = readings.open_set(staff["wyn"], job, "as_found")
            entries = []
            for side, target in side_targets_n(wheel).items():
                for spoke in range(1, 5):
                    read = round(target * share * float(rng.normal(1, 0.05)))
                    entries.append({"kind": "tension", "spoke": f"{side.value}{spoke}", "value": read, "unit": "N"})
            entering.save_readings(staff["wyn"], made.pk, entries)
    set_apart = lot_of(staff["pip"], lot.pk).items[11]
    with demo_clock(now - timedelta(hours=2)):
        fleet.set_exception(staff["pip"], lot.pk, set_apart.job, "rim bent, owner is asked")
