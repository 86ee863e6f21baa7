"""Keep the server's sentences translatable: gather them into felloe/locale, and find prose that is no message.

python -m felloe.cli.sentences           write felloe/locale/felloe.pot and bring every catalogue up to it
python -m felloe.cli.sentences --check   say what is out of date or was written as plain text; exit 1 if anything is
"""

from __future__ import annotations

import argparse
import ast
import io
import re
import sys
from collections.abc import Iterator
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract_python
from babel.messages.pofile import read_po, write_po

PACKAGE = Path(__file__).resolve().parent.parent
LOCALE = PACKAGE / "locale"
TEMPLATE = LOCALE / "felloe.pot"
KEYWORDS = {"say": (1,), "say_count": (1, 2), "Said": (1,), "joined": (1,)}
#: Two words in a row: a sentence or part of one.
PROSE = re.compile(r"[A-Za-z’']{2,}[,;:.]? +[\w(“±{«]")
#: Rooms that speak to people, and modules in them that do not: tables of keys, formats, what only programmers read.
SPEAKING = ("core/**/*.py", "*/services/*.py")
#: Calls whose text is not for people's eyes, or that take messages apart.
QUIET = {
    "say", "say_count", "joined", "Said", "compile", "sub", "search", "match", "fullmatch", "split", "strptime", "replace",
    "ValueError", "KeyError", "RuntimeError", "AssertionError", "TypeError", "NotImplementedError", "only", "values_list",
    # To the database, and to who keeps the server.
    "execute", "SQL", "Damaged", "NotEmpty", "CannotMove", "PermissionError", "LinAlgError", "warning",
}  # fmt: skip


def sources() -> list[Path]:
    return sorted(p for p in PACKAGE.rglob("*.py") if not {"migrations", "demo", "cli"} & set(p.relative_to(PACKAGE).parts))


def gathered() -> Catalog:
    """Every template of the package, with the files it stands in. Line numbers are left out: they change with every edit."""
    catalogue = Catalog(project="Felloe", version="1", charset="utf-8", fuzzy=False)
    for path in sources():
        found = extract_python(io.BytesIO(path.read_bytes()), dict.fromkeys(KEYWORDS), [], {"encoding": "utf-8"})
        for _, function, messages, _ in found:
            taken = tuple(messages) if isinstance(messages, tuple | list) else (messages,)
            parts = tuple(taken[i - 1] for i in KEYWORDS[str(function)] if i <= len(taken))
            if all(isinstance(part, str) and re.search("[A-Za-z]", part) for part in parts) and parts:
                at = str(path.relative_to(PACKAGE.parent))
                catalogue.add(parts if len(parts) > 1 else parts[0], locations=[(at, None)])  # type: ignore[list-item]
    return catalogue


def as_po(catalogue: Catalog) -> str:
    out = io.BytesIO()
    write_po(out, catalogue, width=120, omit_header=True, sort_output=True)
    return HEADER + out.getvalue().decode()


HEADER = """# What the server says, in English: the template of its catalogues. Made by python -m felloe.cli.sentences.
msgid ""
msgstr ""
"Content-Type: text/plain; charset=utf-8\\n"

"""


def translated_po(catalogue: Catalog) -> str:
    """A language's catalogue without dates, addresses and places, so that it changes only with its words."""
    out = io.BytesIO()
    write_po(out, catalogue, width=120, omit_header=True, sort_output=True, no_location=True, ignore_obsolete=True)
    forms = f'"Plural-Forms: nplurals={catalogue.num_plurals}; plural={catalogue.plural_expr};\\n"\n\n'
    return (
        f"# What the server says, in “{catalogue.locale}”. Brought up to felloe.pot by python -m felloe.cli.sentences.\n"
        f'msgid ""\nmsgstr ""\n"Content-Type: text/plain; charset=utf-8\\n"\n{forms}{out.getvalue().decode()}'
    )


def placeholders(text: str) -> list[str]:
    """What a message puts in, with how it is written; text that is data keeps its braces doubled."""
    return sorted(re.findall(r"(?<!\{)\{[^{}]+\}", text))


def amiss(catalogue: Catalog, template: Catalog) -> Iterator[str]:
    """What a language lacks, has too much of, or says with other figures than the English."""
    known = {message.id for message in template}
    for message in catalogue:
        if message.id and message.id not in known:
            yield f"says what nobody says any more: {message.id}"
    for message in template:
        there = catalogue.get(message.id)
        texts = _forms(there.string or "") if there else ()
        if message.id and not (texts and all(texts)):
            yield f"not translated: {message.id}"
        for text, english in zip(texts, _forms(message.id), strict=False):
            if message.id and text and placeholders(text) != placeholders(english):
                yield f"other figures than in English: {text}"


def _forms(text: str | tuple[str, ...] | list[str]) -> tuple[str, ...]:
    return (text,) if isinstance(text, str) else tuple(text)


def plain_prose() -> Iterator[str]:
    """Where a room that speaks to people holds a sentence outside of `say`."""
    for pattern in SPEAKING:
        for path in sorted(PACKAGE.glob(pattern)):
            tree = ast.parse(path.read_text(encoding="utf-8"))
            parents = {child: node for node in ast.walk(tree) for child in ast.iter_child_nodes(node)}
            for node in ast.walk(tree):
                text = _text(node)
                if text and PROSE.search(text) and not _is_quiet(node, parents):
                    yield f"{path.relative_to(PACKAGE.parent)}:{node.lineno}: {text[:70]}"  # type: ignore[attr-defined]


def _text(node: ast.AST) -> str:
    if isinstance(node, ast.JoinedStr):
        return "".join(str(part.value) if isinstance(part, ast.Constant) else "{x}" for part in node.values)
    return node.value if isinstance(node, ast.Constant) and isinstance(node.value, str) else ""


def _is_quiet(node: ast.AST, parents: dict[ast.AST, ast.AST]) -> bool:
    parent = parents.get(node)
    if isinstance(parent, ast.Expr | ast.Subscript | ast.Compare | ast.JoinedStr):
        return True
    while parent is not None and not isinstance(parent, ast.stmt):
        if isinstance(parent, ast.Call):
            called = parent.func.attr if isinstance(parent.func, ast.Attribute) else getattr(parent.func, "id", "")
            if called in QUIET:
                return True
        if isinstance(parent, ast.keyword) and parent.arg == "help_text":
            return True
        node, parent = parent, parents.get(parent)
    # An annotation written as text, or a note for programmers below a constant.
    return isinstance(parent, ast.AnnAssign) and node is parent.annotation


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--check", action="store_true")
    checking = parser.parse_args().check
    template = gathered()
    wrong = list(plain_prose()) if checking else []
    if checking:
        if not TEMPLATE.exists() or TEMPLATE.read_text(encoding="utf-8") != as_po(template):
            wrong.append(f"{TEMPLATE.name} is out of date: python -m felloe.cli.sentences")
    else:
        LOCALE.mkdir(exist_ok=True)
        TEMPLATE.write_text(as_po(template), encoding="utf-8")
    for path in sorted(LOCALE.glob("*.po")):
        catalogue = read_po(io.BytesIO(path.read_bytes()), locale=path.stem)
        if not checking:
            catalogue.update(template, no_fuzzy_matching=True)
            path.write_text(translated_po(catalogue), encoding="utf-8")
        wrong += [f"{path.name}: {problem}" for problem in amiss(catalogue, template)]
    print("\n".join(wrong) if wrong else f"{len(template)} messages")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
