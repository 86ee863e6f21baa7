"""A stand-in instrument: a tension meter and two dials on a virtual wheel, streaming lines of JSON over TCP on loopback.

Told {"spoke": "R5"} it measures the tension there; told {"trace": "lateral"} or {"trace": "radial"} the wheel is turned once
past the dial; told {"turned": {"R5": 0.25}} the nipples of its wheel are turned so far from how it was found, by a hand that
misses a little. Told nothing it walks from spoke to spoke by itself. A real instrument ignores what it is told.
"""

from __future__ import annotations

import argparse
import asyncio
import json
import sys
import wave

import numpy as np
from numpy.random import Generator

from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.sounds import plucked_side
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.tension.meter import MeterTable
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.demo.meters import BENCH_METER, CHARTS

#: Lines a second while a value settles, and while the wheel turns.
SETTLE_HZ, TURN_HZ = 20.0, 200.0
#: A meter settles like this [s], and is moved on by itself after so long [s].
SETTLE_S, STAY_S = 0.12, 3.0
DEGREES_A_LINE = 1.0
#: A hand misses a turn by so much of it; no nipple is turned further than this [turns].
HAND_MISS, MOST_TURNS = 0.04, 4.0


class StandIn:
    """Measures a virtual wheel; every connection has a hand of its own."""

    def __init__(self, virtual: VirtualWheel, tables: dict[str, MeterTable], rng: Generator) -> None:
        self.found, self.tables, self.rng = virtual, tables, rng
        self.misses = rng.normal(0, HAND_MISS, len(virtual.tension_n))
        self.angles = np.arange(0.0, 360.0, DEGREES_A_LINE)
        self.turned: dict[str, float] = {}
        self._show(virtual)

    def _show(self, virtual: VirtualWheel) -> None:
        self.virtual = virtual
        self.shapes = {"lateral": virtual.lateral_mm(self.angles), "radial": virtual.radial_mm(self.angles)}

    def turn_nipples(self, turned: dict[str, float]) -> None:
        """Turn the nipples of its wheel so far [turns] from how it was found; what is no spoke of it is left."""
        made = {name: turns for name, turns in turned.items() if name in self.found.wheel.index_of}
        if made == self.turned:
            return
        self.turned = made
        turns = np.zeros(len(self.misses))
        for name, turn in made.items():
            turns[self.found.wheel.index_of[name]] = np.clip(turn, -MOST_TURNS, MOST_TURNS)
        self._show(self.found.turned(turns * (1 + self.misses)))

    def tension_line(self, spoke: str, since_s: float) -> str:
        """What the meter shows on a spoke, so long after it was put there."""
        wheel = self.virtual.wheel
        tension = float(self.virtual.tension_n[wheel.index_of[spoke]])
        table = self.tables.get(wheel.side(wheel.names[wheel.index_of[spoke]].side).spoke.kind)
        reached = 1 - np.exp(-since_s / SETTLE_S)
        felt = max(0.0, tension * float(reached) + float(self.rng.normal(0, 3.0)))
        shown = table.reading(felt) if table else None
        if shown is None:
            return json.dumps({"kind": "tension", "value": round(felt, 0), "unit": "N", "spoke": spoke})
        return json.dumps({"kind": "tension", "value": shown, "unit": "meter", "spoke": spoke})

    def turn_line(self, kind: str, place: int) -> str:
        """The dial's value at one angle, its zero 2 mm off."""
        i = place % len(self.angles)
        value = round(float(self.shapes[kind][i]) + 2.0 + float(self.rng.normal(0, 0.008)), 3)
        return json.dumps({"kind": kind, "value": value, "unit": "mm", "angle_deg": float(self.angles[i])})

    async def serve(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        names = [str(name) for name in self.virtual.wheel.names]
        loop = asyncio.get_running_loop()
        spoke, since, told, place, kind = names[0], loop.time(), False, int(self.rng.integers(360)), ""
        heard = asyncio.create_task(reader.readline())
        try:
            while True:
                if heard.done():
                    line = heard.result()
                    if not line:
                        return
                    asked = _asked(line)
                    if asked.get("spoke") in self.virtual.wheel.index_of:
                        spoke, since, told, kind = str(asked["spoke"]), loop.time() - 10 * SETTLE_S, True, ""
                    told_turns = asked.get("turned")
                    if isinstance(told_turns, dict):
                        self.turn_nipples({str(k): float(v) for k, v in told_turns.items() if isinstance(v, int | float)})
                    kind = str(asked["trace"]) if asked.get("trace") in self.shapes else kind
                    heard = asyncio.create_task(reader.readline())
                if kind:
                    place += 1
                    writer.write(self.turn_line(kind, place).encode() + b"\n")
                else:
                    if not told and loop.time() - since > STAY_S:
                        spoke, since = names[(names.index(spoke) + 1) % len(names)], loop.time()
                    writer.write(self.tension_line(spoke, loop.time() - since).encode() + b"\n")
                await writer.drain()
                await asyncio.sleep(1 / (TURN_HZ if kind else SETTLE_HZ))
        except (ConnectionError, asyncio.CancelledError):
            return
        finally:
            heard.cancel()
            writer.close()


def _asked(line: bytes) -> dict[str, object]:
    try:
        value = json.loads(line)
    except (ValueError, RecursionError):
        return {}
    return value if isinstance(value, dict) else {}


def stand_in(kind: str, seed: int) -> StandIn:
    """A stand-in on a used wheel of a generic kind."""
    rng = np.random.default_rng(seed)
    virtual = used_wheel(WHEEL_KINDS[kind].wheel, rng, 0.3)
    tables = {table.spoke_kind: table for table in CHARTS[BENCH_METER]}
    return StandIn(virtual, tables, rng)


def pluck(kind: str, seed: int, side: Side, path: str) -> int:
    """Write a recording of one plucked side, for trying tension by ear without a wheel."""
    rate = 44_100
    instrument = stand_in(kind, seed)
    samples = plucked_side(instrument.virtual, side, instrument.rng, rate)
    try:
        with wave.open(path, "wb") as file:
            file.setnchannels(1)
            file.setsampwidth(2)
            file.setframerate(rate)
            file.writeframes((samples * 32_000).astype("<i2").tobytes())
    except OSError as error:
        print(f"felloe instrument: {path}: {error.strerror}", file=sys.stderr)
        return 2
    print(f"· {path}: the {side.word} side, plucked in order from the valve")
    return 0


async def run(instrument: StandIn, host: str, port: int) -> None:
    """Serve until it is stopped."""
    server = await asyncio.start_server(instrument.serve, host, port)
    bound = server.sockets[0].getsockname()
    print(f"· an instrument listens at {bound[0]}:{bound[1]}; Ctrl-C stops it", flush=True)
    async with server:
        await server.serve_forever()


def main(arguments: list[str] | None = None) -> int:
    parser = argparse.ArgumentParser(
        prog="bin/felloe instrument", description="A stand-in tension meter and dials on loopback."
    )
    parser.add_argument("--port", type=int, default=8470)
    parser.add_argument("--kind", choices=list(WHEEL_KINDS), default="rim-brake-rear-36", help="the wheel it measures")
    parser.add_argument("--seed", type=int, default=3)
    parser.add_argument("--pluck", choices=["R", "L"], help="pluck this side into a WAV file instead, then end")
    parser.add_argument("--out", default="plucked.wav", help="where that file goes")
    asked = parser.parse_args(arguments)
    if asked.pluck:
        return pluck(asked.kind, asked.seed, Side(asked.pluck), asked.out)
    try:
        asyncio.run(run(stand_in(asked.kind, asked.seed), "127.0.0.1", asked.port))
    except KeyboardInterrupt:
        return 130
    except OSError as error:
        print(f"felloe instrument: port {asked.port}: {error.strerror}", file=sys.stderr)
        return 2
    return 0


if __name__ == "__main__":
    sys.exit(main())
