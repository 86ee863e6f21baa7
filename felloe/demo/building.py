"""A demo job's sizing, parts, stripping and lacing, played through the services."""

from __future__ import annotations

from collections.abc import Callable
from uuid import UUID

from felloe.accounts.models import User
from felloe.building.services import lacing, sizing, strip
from felloe.core.naming import Side
from felloe.core.stock.substitutes import name_of_spoke
from felloe.demo.clock import Clock
from felloe.demo.scenario import Build
from felloe.demo.stock import WIRE, spoke_for
from felloe.queue import services as queue
from felloe.stock import services as stock
from felloe.stock.services import orders
from felloe.wheels import services as wheels


class Built:
    """Plays a Build for a job."""

    def __init__(self, who: User, job_id: UUID, kind: str, bins: dict[str, UUID], build: Build, clock: Clock) -> None:
        self.who, self.job_id, self.build, self.clock = who, job_id, build, clock
        self.bins = {side: bins[name_of_spoke(spoke_for(kind, side))] for side in Side}
        self.nipples = bins["Brass nipple 12 mm, 2.0"]

    def play(self, go: Callable[[str], None]) -> None:
        wheel = queue.find_job(self.who, self.job_id).wheel
        wheels.change_specification(
            self.who,
            wheel.pk,
            wheel.version,
            wheel.specification,
            wheel.kind,
            {"rim.erd_mm": 0.3, "rim.spoke_bed_offset_mm": 0.1},
        )
        go("parts")
        for spoke, length in self.build.old.items():
            self.clock.tick(seconds=15)
            sizing.log_old_spoke(self.who, self.job_id, spoke, length)
        for i, side in enumerate(Side):
            self._side(side, self.build.reserve[i], self.build.take[i])
        kit = {"nipple_part": str(self.nipples), "whole_wheel": self.build.whole_wheel, "measured_one": self.build.placed > 0}
        sizing.lay_out_kit(self.who, self.job_id, kit)
        if self.build.counted_out:
            go("strip_lace")
            self._strip_and_lace()

    def _side(self, side: Side, reserve: int, take: int) -> None:
        part = stock.find_part(self.who, self.bins[side])
        if reserve and self.build.short:
            stock.count_bin(self.who, part.pk, 1, "the drawer was all but empty")
        if reserve or take:
            length = float(part.attributes["length_mm"])
            sizing.choose_length(self.who, self.job_id, side, length, part.pk)
        if reserve:
            stock.reserve(self.who, part.pk, self.job_id, reserve)
        if reserve and self.build.short:
            orders.send_order(self.who, WIRE, [{"part": part.pk, "count": 36}])
        if take:
            stock.take(self.who, part.pk, self.job_id, take)

    def _strip_and_lace(self) -> None:
        strip.say_facts(self.who, self.job_id, "strip", {"cut": True})
        for step in strip.strip_of(self.who, self.job_id).steps:
            self.clock.tick(minutes=2)
            strip.mark_strip_step(self.who, self.job_id, step.key, True)
        for kind in ("nipple", "spoke"):
            strip.count_parts(self.who, self.job_id, kind, "out", self.build.counted_out)
            strip.count_parts(self.who, self.job_id, kind, "in", self.build.placed)
        stock.take(self.who, self.nipples, self.job_id, self.build.counted_out)
        if lacing.lacing_of(self.who, self.job_id).in_vain:
            lacing.lace_despite(self.who, self.job_id, "The new rim lies on the bench, the cracked one goes to scrap.")
        for placed in range(1, self.build.placed + 1):
            self.clock.tick(seconds=25)
            lacing.place(self.who, self.job_id, placed)
