"""The strip of a report: rim traces and tensions as SVG, in greys that print."""

from __future__ import annotations

from collections.abc import Sequence

W, H, PAD = 700, 84, 6
FOUND, LEFT, BAND, LINE = "#9a9a9a", "#111111", "#e6e6e6", "#777777"


def trace_svg(angles: Sequence[float], found_mm: Sequence[float] | None, left_mm: Sequence[float], limit_mm: float) -> str:
    """Runout round the rim, grey as found and black as left, over the band of the tolerance; the valve at both ends."""
    left, found = _centred(left_mm), _centred(found_mm) if found_mm is not None else None
    top = max([limit_mm * 0.75, *map(abs, left), *(map(abs, found) if found else ())]) * 1.08
    band = H / 2 * (limit_mm / 2) / top
    parts = [
        f'<rect x="0" y="{H / 2 - band:.1f}" width="{W}" height="{2 * band:.1f}" fill="{BAND}"/>',
        f'<line x1="0" y1="{H / 2}" x2="{W}" y2="{H / 2}" stroke="{LINE}" stroke-width="0.5"/>',
    ]
    if found:
        parts.append(_line(angles, found, top, FOUND, 1.2))
    parts.append(_line(angles, left, top, LEFT, 1.8))
    return _svg(parts)


def tension_svg(names: Sequence[str], tension_n: Sequence[float], mean_n: dict[str, float], band_percent: float) -> str:
    """Every spoke from the valve on as a bar, the right side dark and the left light, with its side's band."""
    top = max([*tension_n, *(mean * (1 + band_percent / 100) for mean in mean_n.values()), 1.0]) * 1.05
    step = W / len(names)
    parts = []
    for side, mean in mean_n.items():
        high, low = (H - H * mean * (1 + sign * band_percent / 100) / top for sign in (1, -1))
        fill = BAND if side == "R" else "#f3f3f3"
        parts.append(f'<rect x="0" y="{high:.1f}" width="{W}" height="{low - high:.1f}" fill="{fill}"/>')
    for i, (name, tension) in enumerate(zip(names, tension_n, strict=True)):
        fill, height = (LEFT if name.startswith("R") else FOUND), H * tension / top
        place = f'x="{i * step + step * 0.25:.1f}" y="{H - height:.1f}" width="{step / 2:.1f}" height="{height:.1f}"'
        parts.append(f'<rect {place} fill="{fill}"/>')
    return _svg(parts)


def _centred(values: Sequence[float]) -> list[float]:
    middle = (max(values) + min(values)) / 2
    return [value - middle for value in values]


def _line(angles: Sequence[float], values: Sequence[float], top: float, stroke: str, width: float) -> str:
    # Round to the valve again.
    round_trip = [*zip(angles, values, strict=True), (angles[0] + 360, values[0])]
    points = " ".join(f"{W * angle / 360:.1f},{H / 2 - (H / 2 - PAD) * value / top:.1f}" for angle, value in round_trip)
    return f'<polyline points="{points}" fill="none" stroke="{stroke}" stroke-width="{width}"/>'


def _svg(parts: Sequence[str]) -> str:
    return (
        f'<svg viewBox="0 0 {W} {H}" width="100%" aria-hidden="true" xmlns="http://www.w3.org/2000/svg">{"".join(parts)}</svg>'
    )
