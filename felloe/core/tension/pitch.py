"""Tension by ear: where a recording was plucked, at which pitch, and which tension that is.

Pitch by the normalised difference of the signal with itself (McLeod & Wyvill, *A Smarter Way to Find Pitch*, ICMC 2005),
refined on the spectrum's partials of a stiff string, f_n = n·f0·sqrt(1 + B n²) (Fletcher, J. Acoust. Soc. Am. 36, 1964).
Tension by Mersenne's law with the stiffness of pinned ends taken off: T = μ (2ℓf)² − π² EI/ℓ² for the first partial.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.errors import BadReading
from felloe.core.lacing.pattern import lace
from felloe.core.naming import Side, SpokeName
from felloe.core.said import say
from felloe.core.tension.meter import Tension
from felloe.core.tension.three_point import bending_stiffness_n_mm2

Array = NDArray[np.float64]

#: Pitches that a spoke can have [Hz].
LOWEST_HZ, HIGHEST_HZ = 90.0, 1400.0
#: A pluck is looked at for so long [s], after its knock has died away.
WINDOW_S, KNOCK_S = 0.35, 0.03
#: Two plucks lie at least so far apart [s].
APART_S = 0.25
#: A tone with so much of the strongest's power stands out of noise and knocks.
STRONG_SHARE = 0.03
#: Below this the signal is no tone (1 is a perfect one).
CLEAR_ENOUGH = 0.6
#: A pitch is heard so well; set by one meter reading, only so much of its error stays. Common practice, no source.
PITCH_SD_SHARE = 0.005
PITCH_SET_SHARE = 0.4
#: How well a free length is known [mm]; a crossing is a soft end.
WHOLE_SD_MM, CROSSING_SD_MM = 3.0, 8.0
WHOLE, CROSSING = "whole", "crossing"


@dataclass(frozen=True)
class Tone:
    """One pluck: when [s], its first partial [Hz] with standard deviation, and how clear it is, 0 to 1."""

    at_s: float
    hz: float
    sd_hz: float
    clarity: float


def plucks(samples: Array, rate_hz: float) -> list[Tone]:
    """Every pluck of a recording (mono, any scale) that has a clear pitch, in order.

    Raises BadReading for a recording that is empty, too long, or sampled too slowly.
    """
    signal = np.asarray(samples, dtype=float).ravel()
    if rate_hz < 4 * HIGHEST_HZ:
        raise BadReading(
            say(
                "sample at {at_least_hz:.0f} Hz or faster; this is {rate_hz:g} Hz", at_least_hz=4 * HIGHEST_HZ, rate_hz=rate_hz
            ),
            "recording",
        )
    if not 0.1 <= len(signal) / rate_hz <= 240:
        raise BadReading(say("a recording lasts between a tenth of a second and four minutes"), "recording")
    if not np.all(np.isfinite(signal)) or np.ptp(signal) == 0:
        raise BadReading(say("nothing can be heard on this recording"), "recording")
    signal = signal - signal.mean()
    found = []
    for start, end in _onsets(signal, rate_hz):
        tone = _tone(signal[start:end], rate_hz, start / rate_hz)
        if tone is not None:
            found.append(tone)
    return found


def _onsets(signal: Array, rate_hz: float) -> list[tuple[int, int]]:
    """Where the loudness leaps up: starts and ends of plucks, in samples."""
    hop = max(1, int(rate_hz * 0.01))
    frames = len(signal) // hop
    loud = np.sqrt(np.mean(signal[: frames * hop].reshape(frames, hop) ** 2, axis=1))
    floor = max(float(np.percentile(loud, 10)) * 4, float(loud.max()) * 0.06)
    apart = int(APART_S / 0.01)
    starts: list[int] = []
    for i in range(frames):
        before = float(loud[max(0, i - 4) : i].min(initial=np.inf)) if i else 0.0
        rises = loud[i] > floor and (i == 0 or loud[i] > 2.0 * min(before, float(loud[i - 1]) * 1.2))
        if rises and (not starts or i - starts[-1] >= apart):
            starts.append(i)
    ends = [*starts[1:], frames][: len(starts)]
    return [(s * hop, e * hop) for s, e in zip(starts, ends, strict=True)]


def _tone(part: Array, rate_hz: float, at_s: float) -> Tone | None:
    window = part[int(KNOCK_S * rate_hz) : int((KNOCK_S + WINDOW_S) * rate_hz)]
    if len(window) < rate_hz * 0.08:
        return None
    period, clarity = _period(window, rate_hz)
    if period is None or clarity < CLEAR_ENOUGH:
        return None
    return _refined(window, rate_hz, rate_hz / period, clarity, at_s)


def _period(window: Array, rate_hz: float) -> tuple[float | None, float]:
    """Period in samples, and how clear it is, by the normalised square difference function."""
    count = len(window)
    size = 1 << (2 * count - 1).bit_length()
    spectrum = np.fft.rfft(window, size)
    product = np.fft.irfft(np.abs(spectrum) ** 2)[:count]
    squares = np.concatenate([[0.0], np.cumsum(window**2)])
    lags = np.arange(count)
    energy = squares[count - lags] + (squares[count] - squares[lags])
    nsdf = 2 * product / np.maximum(energy, 1e-30)
    low, high = int(rate_hz / HIGHEST_HZ), min(int(rate_hz / LOWEST_HZ) + 1, count // 2)
    if high <= low + 2:
        return None, 0.0
    # The first dip below zero ends the main lobe; only peaks after it are periods.
    below = np.flatnonzero(nsdf[:high] < 0)
    start = max(low, int(below[0])) if len(below) else low
    peaks = [k for k in range(start + 1, high) if nsdf[k] > nsdf[k - 1] and nsdf[k] >= nsdf[k + 1] and nsdf[k] > 0]
    if not peaks:
        return None, 0.0
    best = max(float(nsdf[k]) for k in peaks)
    chosen = next(k for k in peaks if nsdf[k] >= 0.85 * best)
    left, mid, right = nsdf[chosen - 1 : chosen + 2]
    shift = 0.5 * (left - right) / (left - 2 * mid + right)
    return chosen + float(shift), float(mid)


def _partials(power: Array, width: float, about_hz: float, highest_hz: float) -> list[tuple[int, float, float]]:
    """Number, pitch [Hz] and strength of the spectrum's peaks near the multiples of `about_hz`."""
    found: list[tuple[int, float, float]] = []
    for n in range(1, 7):
        expected = n * about_hz
        if expected > highest_hz:
            break
        low, high = int((expected - 0.25 * about_hz) / width), int((expected + 0.3 * about_hz) / width)
        k = low + int(np.argmax(power[low:high]))
        if not low < k < high - 1:
            continue
        a, b, c = np.log(power[k - 1 : k + 2] + 1e-30)
        found.append((n, (k + 0.5 * (a - c) / (a - 2 * b + c)) * width, float(power[k])))
    return found


def _lowest_hz(power: Array, width: float, about_hz: float, highest_hz: float) -> float | None:
    """The lowest strong tone of a spectrum, where the next one stands as a second partial does: an octave above it or more.

    Closer ones are the second and third partial of a tone whose first is weak; of them nothing is concluded.
    """
    below = power[: int(highest_hz / width)]
    # Loaded by whoever listens: it takes a second, and a program that hears nothing need not wait for it.
    from scipy.signal import find_peaks

    found, _ = find_peaks(below, height=STRONG_SHARE * float(below.max()), distance=max(1, int(0.4 * about_hz / width)))
    tones = found * width
    if len(tones) == 0 or (len(tones) > 1 and tones[1] < 1.9 * tones[0]):
        return None
    return float(tones[0])


def _refined(window: Array, rate_hz: float, about_hz: float, clarity: float, at_s: float) -> Tone:
    """The first partial from the spectrum's peaks near its multiples, fitted with f_n² = n²·(a + b·n²)."""
    shaped = window * np.hanning(len(window))
    size = 1 << (len(window) * 8 - 1).bit_length()
    power = np.abs(np.fft.rfft(shaped, size))
    width, most = rate_hz / size, min(rate_hz / 2.2, 6000)
    found = _partials(power, width, about_hz, most)
    loudest = max((p for *_, p in found), default=0.0)
    lowest = _lowest_hz(power, width, about_hz, most)
    # Stiffness stretches the partials, so a period may be taken for several: then the lowest tone stands well above.
    if lowest is not None and 1.5 * about_hz < lowest <= HIGHEST_HZ:
        return _refined(window, rate_hz, lowest, clarity, at_s)
    used = [(n, f, p) for n, f, p in found if p > 0.02 * loudest]
    if len(used) < 2:
        hz = used[0][1] / used[0][0] if used else about_hz
        return Tone(at_s, hz, 0.01 * hz, clarity)
    n = np.array([u[0] for u in used], dtype=float)
    f = np.array([u[1] for u in used])
    weight = np.sqrt(np.array([u[2] for u in used])) / n
    (a, b), *_ = np.linalg.lstsq(np.column_stack([weight, weight * n**2]), weight * (f / n) ** 2, rcond=None)
    if b < 0 or a <= 0:
        a, b = float(np.average((f / n) ** 2, weights=weight**2)), 0.0
    hz = float(np.sqrt(a + b))
    spread = float(np.sqrt(np.average((f / n - np.sqrt(a + b * n**2)) ** 2, weights=weight**2)))
    return Tone(at_s, hz, max(spread, 0.2 * width, 0.001 * hz), clarity)


@dataclass(frozen=True)
class FreeLength:
    """The part of a spoke that sounds: length [mm] with its standard deviation, its mass per length [kg/m], its EI [N·mm²]."""

    length_mm: float
    sd_mm: float
    mass_kg_m: float
    ei_n_mm2: float


def free_length(wheel: Wheel, spoke: str, ends_at: str = CROSSING) -> FreeLength:
    """From the nipple to the last crossing where spokes touch, or the whole spoke; from the lacing itself.

    Radial spokes and `ends_at` "whole" give the whole length.
    """
    laced = lace(wheel)
    i = wheel.index_of[spoke]
    side = SpokeName.parse(spoke).side
    whole = float(laced.span_mm[i])
    length = whole
    if ends_at == CROSSING:
        length = min(whole, _to_last_crossing(laced.seat_mm, laced.hub_hole_mm, i, wheel, side))
    kind = wheel.side(side).spoke
    end = min(kind.end_length_mm, length)
    area = (end * kind.end_area_mm2 + (length - end) * kind.middle_area_mm2) / length if length < whole - 1 else None
    if area is None:
        ends = min(2 * kind.end_length_mm, whole)
        area = (ends * kind.end_area_mm2 + (whole - ends) * kind.middle_area_mm2) / whole
    sd = WHOLE_SD_MM if length >= whole - 1e-6 else CROSSING_SD_MM
    return FreeLength(float(length), sd, float(area) * 1e-6 * kind.elastic.density_kg_m3, bending_stiffness_n_mm2(kind))


def _to_last_crossing(seat: Array, hole: Array, i: int, wheel: Wheel, side: Side) -> float:
    """Distance from the nipple to the outermost crossing with a spoke of the same side, seen along the axle [mm]."""
    best = float("inf")
    p, d = seat[i, :2], hole[i, :2] - seat[i, :2]
    span = float(np.linalg.norm(hole[i] - seat[i]))
    for j, name in enumerate(wheel.names):
        if j == i or name.side is not side:
            continue
        q, e = seat[j, :2], hole[j, :2] - seat[j, :2]
        cross = d[0] * e[1] - d[1] * e[0]
        if abs(cross) < 1e-9:
            continue
        r = q - p
        t, u = (r[0] * e[1] - r[1] * e[0]) / cross, (r[0] * d[1] - r[1] * d[0]) / cross
        if 0.02 < t < 0.98 and 0.02 < u < 0.98:
            best = min(best, float(t) * span)
    return best


def tension_from_pitch(hz: float, free: FreeLength, sd_hz: float = 0.0) -> Tension:
    """The tension at which the free length sounds at `hz`; joins the errors of pitch, length and end stiffness.

    Raises BadReading where a spoke has no such pitch.
    """
    if not LOWEST_HZ / 2 <= hz <= 2 * HIGHEST_HZ:
        raise BadReading(
            say(
                "no spoke sounds at {hz:g} Hz; expected {lowest_hz:.0f} to {at_least_hz:.0f}",
                hz=hz,
                lowest_hz=LOWEST_HZ,
                at_least_hz=HIGHEST_HZ,
            ),
            "value",
        )
    length_m = free.length_mm / 1000
    string = free.mass_kg_m * (2 * length_m * hz) ** 2
    stiff = np.pi**2 * free.ei_n_mm2 / free.length_mm**2
    tension = string - stiff
    if tension < 0:
        raise BadReading(say("at {hz:g} Hz this spoke is slack: its own stiffness sounds higher", hz=hz), "value")
    relative = np.hypot(2 * sd_hz / hz, 2 * free.sd_mm / free.length_mm)
    # Ends are held somewhere between pinned and clamped: half of the next term stands as an error.
    clamped = string * 2 * np.sqrt(free.ei_n_mm2 / max(tension, 1.0)) / free.length_mm
    return Tension(float(tension), float(np.hypot(relative * string, clamped)))


def pitch_of_tension(tension_n: float, free: FreeLength) -> float:
    """The pitch at which a free length under `tension_n` sounds [Hz]: the other way round."""
    stiff = np.pi**2 * free.ei_n_mm2 / free.length_mm**2
    return float(np.sqrt((tension_n + stiff) / free.mass_kg_m) / (2 * free.length_mm / 1000))


def evenness_percent(tones: Sequence[float]) -> list[float]:
    """Tensions of spokes of one length from their pitches alone, in percent off their mean: they go with its square."""
    squares = np.square(np.asarray(tones, dtype=float))
    return [float(p) for p in 100 * (squares / squares.mean() - 1)]
