"""Cut the typefaces to what a first load needs: `.venv/bin/python web/typefaces.py`, after a new version of their packages.

Weights 400 to 700 alone take two fifths off the face of the words, since nothing lighter is drawn. The words' face comes in the
letters of English and German, the figures' in ASCII and a few signs; others are loaded where one is shown. The SIL Open Font License allows it: these typefaces reserve no name.
"""

from pathlib import Path
from tempfile import TemporaryDirectory

from fontTools import subset
from fontTools.ttLib import TTFont
from fontTools.varLib import instancer

HERE = Path(__file__).parent
#: What English and German are written with; letters of other names are loaded where one is shown.
WORDS = [
    *range(0x20, 0x7F), 0xA0, 0xB0, 0xB1, 0xB2, 0xB7, 0xBC, 0xBD, 0xBE, 0xC4, 0xD6, 0xD7, 0xDC, 0xDF, 0xE4, 0xE9, 0xF6, 0xFC,
    0x2013, 0x2014, 0x2018, 0x2019, 0x201C, 0x201D, 0x201E, 0x2022, 0x2026, 0x20AC, 0x2212,
]  # fmt: skip
FIGURES = [
    *range(0x20, 0x7F), 0xA0, 0xB0, 0xB1, 0xB7, 0xBC, 0xBD, 0xBE, 0xD7, 0x2013, 0x2019, 0x2026, 0x2212,
]  # fmt: skip
WEIGHTS = (400, 700)


def cut(face: str, letters: list[int], name: str) -> None:
    source = HERE / f"node_modules/@fontsource-variable/atkinson-hyperlegible-{face}/files"
    font = instancer.instantiateVariableFont(
        TTFont(source / f"atkinson-hyperlegible-{face}-latin-wght-normal.woff2"), {"wght": WEIGHTS}
    )
    font.flavor = None
    # Letters that are the same at every weight have no entry any more; the subsetter wants one.
    for glyph in font.getGlyphOrder():
        font["gvar"].variations.setdefault(glyph, [])
    with TemporaryDirectory() as scratch:
        font.save(Path(scratch, "whole.ttf"))
        font = TTFont(Path(scratch, "whole.ttf"))
        options = subset.Options(layout_features=["*"], hinting=False, notdef_outline=True, name_IDs=["*"])
        cutter = subset.Subsetter(options)
        cutter.populate(unicodes=letters)
        cutter.subset(font)
        font.flavor = "woff2"
        font.save(HERE / f"src/typefaces/{name}.woff2")


cut("next", WORDS, "words")
cut("mono", FIGURES, "figures")
