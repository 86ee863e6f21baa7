"""What a spoke is made of, by magnet and caliper. Common practice, no source."""

from __future__ import annotations

from dataclasses import dataclass

from felloe.core.errors import BadReading
from felloe.core.said import joined, say


@dataclass(frozen=True)
class MaterialGuess:
    """Likely materials by name, most likely first, with the reason; and whether Felloe's tables know them."""

    materials: tuple[str, ...]
    why: str


#: How a magnet takes to it.
PULLS = ("strong", "weak", "none")


def by_magnet(pull: str, thickness_mm: float, tied: bool = False) -> MaterialGuess:
    """Steel is attracted, at least weakly; aluminium, titanium, carbon and fibre are not, and thickness tells them apart.

    `tied`: it is a cord that bends in the fingers. Raises BadReading.
    """
    if pull not in PULLS:
        raise BadReading(say("a magnet's pull is {words}", words=joined(", ", PULLS)), "pull")
    if not 0.5 <= thickness_mm <= 8:
        raise BadReading(
            say("a spoke {thickness_mm:g} mm thick cannot be; expected 0.5 to 8", thickness_mm=thickness_mm), "thickness_mm"
        )
    if pull == "strong":
        return MaterialGuess((say("carbon steel"),), say("A strong pull: carbon steel, plain or galvanised."))
    if pull == "weak":
        return MaterialGuess(("stainless",), say("A weak pull: stainless steel, drawn."))
    if tied:
        return MaterialGuess(("fibre",), say("No pull and bends like a cord: fibre. Its maker's limits only."))
    if thickness_mm >= 2.6:
        return MaterialGuess(("aluminium", "carbon"), say("No pull and thick: aluminium; black and light: carbon."))
    return MaterialGuess(("titanium", "stainless"), say("No pull and thin: titanium; some stainless hardly pulls."))
