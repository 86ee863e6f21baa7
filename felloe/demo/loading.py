"""Load the demo shop through the same services that the screens use, so that no row skips a rule."""

from __future__ import annotations

from datetime import datetime, time, timedelta
from uuid import UUID

import numpy as np
from django.utils import timezone

from felloe.accounts.models import Shop, User
from felloe.accounts.services import settings
from felloe.accounts.services import staff as people
from felloe.bench.models import Plan, PlanMove, ReadingSet
from felloe.bench.services import entering, plans, readings, states
from felloe.calendar import services as calendar
from felloe.cli.instrument import stand_in
from felloe.condition import services as condition
from felloe.condition.services import diagnosis
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.instruments import dial_mm, meter_readings, turned_by_hand
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.record import table_to_dict
from felloe.core.specification import wheel_to_dict
from felloe.core.stages import DONE, STAGE_KEYS
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.customers import services as customers
from felloe.demo.building import Built
from felloe.demo.clock import Clock, demo_clock
from felloe.demo.counter import load_counter
from felloe.demo.fleet import load_lot
from felloe.demo.live import DIALS, work_live
from felloe.demo.meters import BENCH_METER, CALIBRATION, CHARTS, HAND_METER, OTHERS, STAND
from felloe.demo.past import load_past
from felloe.demo.people import (
    BIKE_DETAILS,
    CUSTOMERS,
    HOOKS,
    OWN_WORDS,
    PASSWORD,
    PINS,
    PRICES,
    REACHED,
    SHIFTS,
    SHOP,
    SKILLS,
    STAFF,
    STANDS,
    TIME_ZONE,
    TOURING,
    WEEK,
)
from felloe.demo.pictures import dented_rim, pen_strokes
from felloe.demo.practice import load_practice
from felloe.demo.record import load_record
from felloe.demo.scenario import AGAIN, JOBS, Again, DemoJob
from felloe.demo.stock import load_stock
from felloe.instruments.services import instruments
from felloe.places.here import whole
from felloe.promises import services as promises
from felloe.queue import services as queue
from felloe.queue.models import Place
from felloe.queue.services import counter, photos, places, tiers
from felloe.queue.services.pace import relearn
from felloe.records import services as records
from felloe.records.services import ending
from felloe.repair.services import decisions, prices, refit


def is_loaded() -> bool:
    return Shop.objects.filter(name=SHOP).exists()


@whole()
def load(now: datetime | None = None) -> int:
    """Make the whole demo shop relative to `now`; returns the number of jobs."""
    now = now or timezone.now()
    shop = Shop.objects.create(name=SHOP, code="tern-quay")
    staff = {}
    for username, first, last, role, unit in STAFF:
        user = User(username=username, first_name=first, last_name=last, role=role, force_unit=unit, shop=shop)
        user.set_password(PASSWORD)
        user.save()
        staff[username] = user
    desk = staff["pip"]
    meter_ids = {}
    with demo_clock(now - timedelta(days=400)):
        for name, tables in CHARTS.items():
            values = {"name": name, "serial": "", "tables": [table_to_dict(table) for table in tables]}
            meter_ids[name] = instruments.add_instrument(staff["odile"], values).pk
    bikes = {}
    for name, (phone, owned) in CUSTOMERS.items():
        customer = customers.add_customer(desk, {"name": name, "phone": phone, **_reached(name)})
        for label, brake, use in owned:
            details: dict[str, object] = BIKE_DETAILS.get(label, {})
            known: dict[str, object] = {"label": label, "brake": brake, "use": use}
            bikes[label] = customers.add_bike(desk, customer.pk, known | details).pk
    prices.set_prices(staff["odile"], 1, "EUR", PRICES, tax_basis_points=2200, tax_included=True)
    hooks = _furnish(staff, now)
    _check_instruments(staff, now, meter_ids)
    bins = load_stock(staff, now)
    left: dict[tuple[str, str], _Worked] = {}
    for job in JOBS:
        with demo_clock(now + timedelta(hours=job.opened_h)) as clock:
            worked = _Worked(job, now, clock, staff, bikes[job.bike], str(meter_ids[BENCH_METER]), bins)
            worked.play()
            if job.stage == DONE and job.as_left:
                left[job.bike, job.position] = worked
    for again in AGAIN:
        with demo_clock(now + timedelta(hours=again.opened_h)) as clock:
            left[again.bike, again.position].come_back(clock, again)
    load_past(staff, now)
    load_lot(staff, now)
    load_practice(staff["wyn"], staff["ines"], now)
    _hang(staff, hooks)
    _at_work(staff, now)
    relearn(shop.pk, now)
    load_counter(staff, now)
    load_record(staff, now)
    return len(JOBS) + len(AGAIN)


def _reached(name: str) -> dict[str, str]:
    prefers, language = REACHED.get(name, ("phone", "en"))
    email = f"{name.split()[0].lower()}@tern-quay.example" if prefers == "email" else ""
    return {"prefers": prefers, "language": language, "email": email}


def _furnish(staff: dict[str, User], now: datetime) -> list[Place]:
    """Hours, shifts, skills, digits, a tier of the shop's own, stands and hooks."""
    odile = staff["odile"]
    settings.set_shop(
        odile, 1, {"address": "4 Tern Quay", "phone": "0700 900 100", "email": "bench@tern-quay.example", **OWN_WORDS}
    )
    fair = now.date() + timedelta(days=12)
    hours = {"time_zone": TIME_ZONE, "week": _week(WEEK), "closed_days": [{"day": fair, "name": "Boat fair"}]}
    calendar.set_hours(odile, 2, hours)
    odile.refresh_from_db()
    for username, skills in SKILLS.items():
        people.change_person(odile, staff[username].pk, 1, {"skills": skills})
        staff[username].refresh_from_db()
    for username, week in SHIFTS.items():
        calendar.set_shifts(odile, staff[username].pk, 2, _week(week))
    for username, pin in PINS.items():
        staff[username].refresh_from_db()
        people.set_pin(staff[username], pin)
    with demo_clock(now - timedelta(days=200)):
        tiers.set_tier(odile, TOURING)
    for name in STANDS:
        places.add_place(odile, "stand", name)
    return [places.add_place(odile, "hook", name) for name in HOOKS]


def _week(spans: tuple[tuple[int, str, str], ...]) -> list[dict[str, object]]:
    return [{"weekday": d, "starts": time.fromisoformat(a), "ends": time.fromisoformat(b)} for d, a, b in spans]


def _hang(staff: dict[str, User], hooks: list[Place]) -> None:
    """Every wheel in the shop on a hook; a customer's lot on one."""
    of: dict[object, Place] = {}
    for job in queue.open_jobs(staff["odile"].shop_id):
        hook = of.setdefault(job.wheel.bike.customer_id, hooks[len(of) % len(hooks)])
        queue.change_job(staff["pip"], job.pk, job.version, {"hook": hook.pk})


def _at_work(staff: dict[str, User], now: datetime) -> None:
    """Who has what in hand just now, at which stand."""
    stands = {place.name: place for place in places.places_of(staff["odile"])}
    jobs = {job.number: job for job in queue.open_jobs(staff["odile"].shop_id)}
    for number, who, stand, minutes in ((106, "bram", STANDS[0], 22), (107, "ines", STANDS[1], 9)):
        with demo_clock(now - timedelta(minutes=minutes)):
            queue.take_up(staff[who], jobs[number].pk, stands[stand].pk)


def _check_instruments(staff: dict[str, User], now: datetime, meter_ids: dict[str, UUID]) -> None:
    """The other instruments with their checks, a calibration of the hand meter, and a stand checked by flipping."""
    odile, bram = staff["odile"], staff["bram"]
    for name, kind, owner, serial, days_ago, passed, note in OTHERS:
        made = instruments.add_instrument(odile, {"name": name, "kind": kind, "owner": owner, "serial": serial})
        if days_ago is not None:
            with demo_clock(now - timedelta(days=days_ago)):
                instruments.add_check(bram, made.pk, passed, note)
    with demo_clock(now - timedelta(days=21)):
        stand = instruments.add_instrument(odile, {"name": STAND, "kind": "stand"})
        flip = {"first_mm": 0.9, "first_side": "R", "flipped_mm": 0.1, "flipped_side": "L"}
        instruments.check_stand(bram, stand.pk, flip)
        values = {
            "spoke_kind": "round 2.0",
            "readings": [reading for _, reading in CALIBRATION],
            "loads_n": [load for load, _ in CALIBRATION],
            "resolution": 0.5,
            "note": "Hanging weights on the long spoke",
            "keep": True,
        }
        instruments.calibration(bram, meter_ids[HAND_METER], values)
    with demo_clock(now - timedelta(days=40)):
        instruments.add_check(bram, meter_ids[BENCH_METER], True, "Check block: shows its figure")
    streamed = {"name": "Bench stream", "kind": "tension_meter", "address": "127.0.0.1:8470"}
    instruments.add_instrument(odile, {"name": DIALS, "kind": "dial", "address": streamed["address"]})
    instruments.add_instrument(odile, {**streamed, "tables": [table_to_dict(table) for table in CHARTS[BENCH_METER]]})


class _Worked:
    """One demo job, played through the services on a virtual wheel."""

    def __init__(
        self,
        demo: DemoJob,
        now: datetime,
        clock: Clock,
        staff: dict[str, User],
        bike_id: object,
        meter_id: str,
        bins: dict[str, UUID],
    ) -> None:
        self.bins = bins
        self.demo, self.now, self.clock, self.staff = demo, now, clock, staff
        self.bike_id, self.meter_id = bike_id, meter_id
        self.rng = np.random.default_rng(demo.seed)
        self.who = staff[demo.person or "bram"]
        self.wheel = WHEEL_KINDS[demo.kind].wheel
        # The wheel that `bin/felloe instrument` has in its stand, so that its dials show what is turned.
        self.stand = stand_in(demo.kind, demo.seed) if demo.live else None

    def play(self) -> None:
        demo = self.demo
        self.job = queue.open_job(
            self.staff["pip"],
            {
                "bike_id": self.bike_id,
                "wheel": {"position": demo.position, "kind": demo.kind, "specification": wheel_to_dict(self.wheel)},
                "complaint": demo.complaint,
                "complaint_tags": list(demo.tags),
                "tier": demo.tier,
                "assigned_to": self.staff[demo.person].pk if demo.person else None,
                "load_kg": demo.load_kg,
                "with_bike": demo.with_bike,
            },
        )
        if demo.promised_h is not None:
            at = self._in_the_open(demo.promised_h)
            self.job = queue.promise(self.staff["pip"], self.job.pk, self.job.version, at, None, self.clock.now())
        self._at_the_counter()
        self._diagnose()
        self._note_condition()
        self.virtual = self._damaged()
        last = None
        if demo.found != "none":
            self._go("as_found")
            last = self._read("as_found", quick=demo.found == "quick")
        self._decide()
        if demo.build is not None:
            Built(self.who, self.job.pk, self.demo.kind, self.bins, demo.build, self.clock).play(self._go)
        for number in range(demo.passes):
            if number == 0:
                self._go("true")
            if last is not None:
                plan = plans.add_plan(self.who, last.pk, {})
                self._work(plan)
            is_last = number == demo.passes - 1
            last = self._read("as_left" if is_last and demo.as_left else "after_pass")
        # Nobody hands a wheel back with a spoke above the rim's limit: once more, as at the bench.
        for _ in range(3):
            if demo.stage != DONE or not demo.as_left or last is None or not self._over_limit(last):
                break
            self._work(plans.add_plan(self.who, last.pk, {}))
            last = self._read("as_left")
        if demo.open_plan and last is not None:
            self._go("true")
            self._begin(plans.add_plan(self.who, last.pk, {}))
        if self.stand is not None and last is not None:
            self._go("true")
            work_live(self.who, last, self.stand, demo.live, self.clock)
        self._finish()

    def come_back(self, clock: Clock, again: Again) -> None:
        """The wheel is here again: something happened to it since it left, and it was read as found."""
        self.clock = clock
        values = {"wheel_id": self.job.wheel_id, "complaint": again.complaint, "complaint_tags": list(again.tags)}
        self.job = queue.open_job(self.staff["pip"], {**values, "tier": self.demo.tier, "assigned_to": self.who.pk})
        at = self._in_the_open(again.promised_h)
        self.job = queue.promise(self.staff["pip"], self.job.pk, self.job.version, at, None, clock.now())
        settled = -np.abs(self.rng.normal(again.slack_turns, 0.05, self.wheel.spoke_count)) if again.slack_turns else 0.0
        self.virtual = self.virtual.turned(settled + self.rng.normal(0, 0.02, self.wheel.spoke_count))
        if again.dent:
            dent = again.dent
            self.virtual = self.virtual.dented(dent.angle_deg, dent.width_deg, dent.inward_mm, dent.sideways_mm)
        self._go("as_found")
        self._read("as_found")

    def _diagnose(self) -> None:
        """The checks that were answered at the stage of checking, and what was concluded from them."""
        if not self.demo.answers:
            return
        self._go("check_on_bike")
        for check, answer in self.demo.answers:
            self.clock.tick(seconds=40)
            diagnosis.answer_check(self.who, self.job.pk, check, answer)
        if self.demo.finding:
            diagnosis.conclude(self.who, self.job.pk, self.demo.finding, "Seen and felt on the stand.")

    def _over_limit(self, made: ReadingSet) -> bool:
        state, _ = states.kept_estimate(readings.find_set(self.who, made.pk))
        return bool(state.tension_n.max() > self.wheel.rim.tension_cap_n)

    def _at_the_counter(self) -> None:
        desk = self.staff["pip"]
        if self.demo.photo:
            photos.add_photo(desk, self.job.pk, dented_rim(), "Where it hit the quay's edge")
        if self.demo.load_kg:
            counter.sign(desk, self.job.pk, "brought", self.demo.customer, pen_strokes(self.rng))

    def _note_condition(self) -> None:
        """What was found on the wheel, placed by spoke."""
        demo = self.demo
        if demo.marks or demo.frame_gap_left_mm is not None:
            self._go("check_off_bike")
        for found in demo.marks:
            self.clock.tick(seconds=50)
            values = {"kind": found.kind, "spoke": found.spoke, "measure_mm": found.measure_mm, "note": found.note}
            condition.add_mark(self.who, self.job.pk, values)
        for broke in demo.breaks:
            on = (self.now - timedelta(days=broke.days_ago)).date()
            condition.add_break(self.who, self.job.pk, {"spoke": broke.spoke, "place": broke.place, "noticed_on": on})
        if demo.frame_gap_left_mm is not None:
            gaps = {"gap_right_mm": 0.0, "gap_left_mm": demo.frame_gap_left_mm}
            condition.add_frame_check(self.who, self.job.pk, {"material": "steel", **gaps})

    def _decide(self) -> None:
        said = self.demo.decision
        if said is None:
            return
        self._go("decide")
        values = {"outcome": said.outcome, "chosen": list(said.chosen), "by_whom": self.demo.customer, "how": said.how}
        desk = self.staff["pip"]
        asked = decisions.quote_now(desk, self.job.pk, list(said.chosen), said.warning)
        # On the telephone the words are read out, and the customer repeats the digits at their end.
        digits = "".join(ch for ch in asked.words[-1] if ch.isdigit()) if asked.words else ""
        decisions.decide(desk, self.job.pk, {**values, "warning": said.warning, "digits": digits})

    def _in_the_open(self, hours: float) -> datetime:
        """The first hour from then on at which the shop is open: nobody promises a wheel for closed doors."""
        opening = calendar.shop_calendar(self.who.shop, self.clock.time)
        at, first = self.now + timedelta(hours=hours), self.clock.time + timedelta(hours=1)
        if hours < 0:
            past = [slot for slot in opening.slots(first, 7) if slot <= at]
            if past:
                return past[-1]
        return next(opening.slots(max(at, first)))

    def _damaged(self) -> VirtualWheel:
        if self.stand is not None:
            return self.stand.virtual
        fault = self.demo.fault
        virtual = used_wheel(self.wheel, self.rng, fault.nipple_sd_turns, fault.slack_turns, fault.dish_turns)
        if fault.dent:
            virtual = virtual.dented(fault.dent.angle_deg, fault.dent.width_deg, fault.dent.inward_mm, fault.dent.sideways_mm)
        single = np.zeros(self.wheel.spoke_count)
        for name, turns in fault.single.items():
            single[self.wheel.index_of[name]] = turns
        return virtual.turned(single)

    def _read(self, stage: str, quick: bool = False) -> ReadingSet:
        """Take a full set, or a quick look: every fourth spoke's tension and lateral at every other hole."""
        made = readings.open_set(self.who, self.job.pk, stage)
        angles = np.array(self.wheel.angles_deg)
        shown = meter_readings(self.virtual, {t.spoke_kind: t for t in CHARTS[BENCH_METER]}, self.rng)
        lateral = dial_mm(self.virtual.lateral_mm(angles), self.rng, float(self.virtual.lateral_mm(angles[:1])[0]))
        radial = dial_mm(self.virtual.radial_mm(angles), self.rng, float(self.virtual.radial_mm(angles[:1])[0]))
        entries: list[dict[str, object]] = []
        for i, name in enumerate(self.wheel.names):
            if not quick or i % 8 < 2:
                entries.append(self._tension(str(name), shown[i], float(self.virtual.tension_n[i])))
            if not quick or i % 2 == 0:
                entries.append({"kind": "lateral", "spoke": str(name), "value": float(lateral[i]), "unit": "mm"})
            if not quick:
                entries.append({"kind": "radial", "spoke": str(name), "value": float(radial[i]), "unit": "mm"})
        if not quick:
            gap = round(2 * (self.virtual.dish_mm + self.wheel.dish_target_mm) + self.rng.normal(0, 0.1), 1)
            side = "R" if gap >= 0 else "L"
            entries.append({"kind": "dish", "method": "gauge", "gap_mm": abs(gap), "gap_side": side})
        self._save(made, entries)
        return made

    def _save(self, made: ReadingSet, entries: list[dict[str, object]]) -> None:
        """As a tablet sends what waited on it, four seconds apart."""
        with self.clock.paced(seconds=4):
            entering.save_readings(self.who, made.pk, entries)

    def _tension(self, spoke: str, shown: float | None, true_n: float) -> dict[str, object]:
        values: dict[str, object] = {"kind": "tension", "spoke": spoke}
        if shown is not None:
            return {**values, "value": shown, "unit": "meter", "meter": self.meter_id}
        # The meter's chart does not reach so far: entered by hand as a force, to the nearest 20 N.
        return {**values, "value": float(round(true_n / 20) * 20), "unit": "N"}

    def _work(self, plan: Plan) -> None:
        turns = np.zeros(self.wheel.spoke_count)
        for move in plans.moves_of(plan):
            turns[self.wheel.index_of[move.spoke]] += move.turns
            plans.mark_move(self.who, plan.pk, move.key, PlanMove.State.DONE, None)
        self.virtual = self.virtual.turned(turned_by_hand(turns, self.rng))

    def _begin(self, plan: Plan) -> None:
        """A plan half worked: the first third ticked, one nipple done differently."""
        moves = plans.moves_of(plan)
        for i, move in enumerate(moves[: len(moves) // 3]):
            if i == 2 and abs(move.turns) > plan.step_turns:
                less = move.turns - plan.step_turns * float(np.sign(move.turns))
                plans.mark_move(self.who, plan.pk, move.key, PlanMove.State.CHANGED, less)
            else:
                plans.mark_move(self.who, plan.pk, move.key, PlanMove.State.DONE, None)

    def _go(self, stage: str) -> None:
        """Walk the stages one by one up to `stage`."""
        job = queue.find_job(self.who, self.job.pk)
        while STAGE_KEYS.index(job.stage) < STAGE_KEYS.index(stage):
            to_stage = STAGE_KEYS[STAGE_KEYS.index(job.stage) + 1]
            self.clock.tick(minutes=6)
            job = queue.move_job(self.who, job.pk, job.version, to_stage, "")
            promises.stage_left(self.who, job)

    def _finish(self) -> None:
        demo = self.demo
        if not demo.end:
            self._go("hand_back" if demo.stage == DONE else demo.stage)
        for step in refit.refit_of(self.who, self.job.pk).steps[: demo.refit]:
            refit.answer_step(self.who, self.job.pk, step.key, "right", "")
        if demo.stage == DONE and demo.promised_h is not None:
            self.clock.time = max(self.clock.time, self._in_the_open(demo.promised_h) - timedelta(hours=1))
        job = queue.find_job(self.who, self.job.pk)
        if demo.end:
            ending.end_job(self.who, job.pk, job.version, demo.end, demo.reason)
        elif demo.stage == DONE:
            records.sign_off(self.who, job.pk, job.version, demo.reason or "Customer agreed to this result.")
            queue_job = records.hand_back(self.who, job.pk, job.version, "Collected, explained, check again in a month.")
            job = queue_job
        elif job.assigned_to_id and demo.person is None:
            job = queue.change_job(self.who, job.pk, job.version, {"assigned_to": None})
        span = queue.open_span(self.who)
        if span is not None and span.job_id == job.pk:
            queue.put_down(self.who, job.pk, {"note": demo.note})
        if demo.waiting_on:
            job = queue.find_job(self.who, job.pk)
            queue.change_job(self.who, job.pk, job.version, {"waiting_on": demo.waiting_on})
