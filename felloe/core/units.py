"""Units that people say, and the ones that Felloe stores (N, mm, turns)."""

from __future__ import annotations

#: Standard gravity, exact [m/s²]: ISO 80000-4; so 1 kgf = 9.80665 N.
KGF_N = 9.80665
#: Avoirdupois pound, exact [kg]: international yard and pound agreement, 1959; so 1 lbf = 4.4482216152605 N.
POUND_KG = 0.45359237
#: An inch, exact [mm]: the same agreement.
INCH_MM = 25.4


def newton_from_kgf(force_kgf: float) -> float:
    """Force [N] from kilogram-force."""
    return force_kgf * KGF_N


def kgf_from_newton(force_n: float) -> float:
    """Force [kgf] from newton."""
    return force_n / KGF_N


_FRACTIONS = {1: "1/16", 2: "1/8", 3: "3/16", 4: "1/4", 5: "5/16", 6: "3/8", 7: "7/16", 8: "1/2"}
_FRACTIONS |= {9: "9/16", 10: "5/8", 11: "11/16", 12: "3/4", 13: "13/16", 14: "7/8", 15: "15/16"}


def turns_as_fraction(turns: float) -> str:
    """Nipple turns as a mechanic says them, in sixteenths, without the sign: 0.625 → "5/8", 1.25 → "1 1/4".

    Raises ValueError where the turns are not a multiple of a sixteenth.
    """
    sixteenths = round(abs(turns) * 16)
    if abs(abs(turns) * 16 - sixteenths) > 1e-6:
        raise ValueError(f"expected a multiple of 1/16 turn, found {turns}")
    whole, rest = divmod(sixteenths, 16)
    if rest == 0:
        return str(whole)
    return f"{whole} {_FRACTIONS[rest]}" if whole else _FRACTIONS[rest]
