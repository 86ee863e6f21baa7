"""Invented pictures for the demo: drawn by the machine, of nothing that exists."""

from __future__ import annotations

import io
import math

from numpy.random import Generator
from PIL import Image, ImageDraw, ImageFilter


def dented_rim() -> bytes:
    """A PNG of a rim with a dent, as a photograph at the counter might show it."""
    width, height = 960, 640
    picture = Image.new("RGB", (width, height), (196, 190, 176))
    draw = ImageDraw.Draw(picture)
    for y in range(0, height, 4):
        shade = 176 + round(20 * math.sin(y / 37))
        draw.line((0, y, width, y), fill=(shade, shade - 6, shade - 18))
    radius, centre_x, centre_y = 1100, width / 2, height + 700
    for depth, colour in ((0, (38, 40, 42)), (46, (120, 126, 130)), (92, (168, 174, 178)), (120, (52, 54, 58))):
        points = []
        for step in range(-60, 61):
            angle = step / 120
            dent = 34 * math.exp(-((step - 6) ** 2) / 60)
            r = radius - depth - dent
            points.append((centre_x + r * math.sin(angle), centre_y - r * math.cos(angle)))
        draw.line(points, fill=colour, width=40, joint="curve")
    for step in (-44, -16, 12, 40):
        angle = step / 120
        x, foot = centre_x + (radius - 120) * math.sin(angle), centre_y - (radius - 120) * math.cos(angle)
        draw.line((x, foot, centre_x + 300 * math.sin(angle), height + 60), fill=(210, 212, 214), width=7)
    out = io.BytesIO()
    picture.filter(ImageFilter.GaussianBlur(1.2)).save(out, "PNG")
    return out.getvalue()


def pen_strokes(rng: Generator) -> list[list[list[float]]]:
    """A pen's scrawl on the pad."""
    phase = float(rng.uniform(0, 6))
    stroke = [
        [round(0.1 + 0.7 * t / 60, 4), round(0.55 + 0.22 * math.sin(t / 3 + phase) * math.exp(-t / 70), 4)] for t in range(61)
    ]
    return [stroke, [[0.12, 0.82], [0.8, 0.78]]]
