"""Elastic constants and densities of spoke and rim materials."""

from __future__ import annotations

from dataclasses import dataclass

from felloe.core.said import say


@dataclass(frozen=True)
class Material:
    """Young's modulus [MPa = N/mm²], Poisson's ratio, density [kg/m³], and where the figures come from."""

    name: str
    youngs_modulus_mpa: float
    poisson: float
    density_kg_m3: float
    source: str


MATERIALS: dict[str, Material] = {
    m.name: m
    for m in (
        Material("stainless", 200_000, 0.30, 7900, say("EN 1993-1-4, from memory")),
        Material("carbon_steel", 210_000, 0.30, 7850, say("EN 1993-1-1")),
        Material("titanium", 110_000, 0.34, 4430, say("handbook range 105-116 GPa")),
        Material("aluminium", 70_000, 0.33, 2700, say("handbook range 69-72 GPa")),
    )
}
