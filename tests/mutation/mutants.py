"""Small changes to the core's source, one at a time, each of which some test ought to notice."""

from __future__ import annotations

import ast
import copy
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
CORE = ROOT / "felloe" / "core"
#: What is said is compared by other means; a changed figure in a sentence is no rule.
SPEAKING = {"say", "say_count", "joined", "term", "sentence"}
#: Wheels to start from and words: figures of the trade with no test but themselves.
TABLES = {"wheel_kinds.py", "terms.py", "said.py", "causes.py", "checks.py"}

#: A number so small only guards against rounding; a quarter more of it guards as well.
GUARD = 1e-5

_COMPARE: dict[type[ast.cmpop], type[ast.cmpop]] = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt,
    ast.Eq: ast.NotEq, ast.NotEq: ast.Eq, ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
}  # fmt: skip
_ARITHMETIC: dict[type[ast.operator], type[ast.operator]] = {
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.Pow: ast.Mult, ast.FloorDiv: ast.Div,
    ast.Mod: ast.FloorDiv,
}  # fmt: skip
_CALLS = {"min": "max", "max": "min", "any": "all", "all": "any", "sin": "cos", "cos": "sin", "floor": "ceil", "ceil": "floor"}


@dataclass(frozen=True)
class Mutant:
    """One change: the module, the function it is in (empty at the module's top), the line, and what became of what."""

    path: str
    function: str
    line: int
    change: str
    number: int

    @property
    def module(self) -> str:
        return self.path.removesuffix(".py").replace("/", ".")

    @property
    def package(self) -> str:
        """The core's package that it belongs to; modules beside the packages count as one."""
        inside = Path(self.path).relative_to("felloe/core")
        return inside.parts[0] if len(inside.parts) > 1 else "core"

    @property
    def name(self) -> str:
        """What it is called in the list of those that change nothing: without its line, which moves."""
        return f"{self.path}:{self.function}: {self.change}"


class _Walk(ast.NodeVisitor):
    """Every place that can be changed, in order, with the function that it stands in."""

    def __init__(self) -> None:
        self.found: list[tuple[ast.AST, str, str]] = []
        self.functions: list[str] = []

    def visit_FunctionDef(self, node: ast.FunctionDef) -> None:
        if isinstance(node.body[0], ast.Expr) and isinstance(node.body[0].value, ast.Constant):
            body = node.body[1:]
        else:
            body = node.body
        self.functions.append(node.name)
        for default in (*node.args.defaults, *(d for d in node.args.kw_defaults if d is not None)):
            self.visit(default)
        for statement in body:
            self.visit(statement)
        self.functions.pop()

    def visit_ClassDef(self, node: ast.ClassDef) -> None:
        self.functions.append(node.name)
        for statement in node.body:
            self.visit(statement)
        self.functions.pop()

    def visit_AnnAssign(self, node: ast.AnnAssign) -> None:
        if node.value is not None:
            self.visit(node.value)

    def visit_Raise(self, node: ast.Raise) -> None:
        """What a refusal says is not looked into; that there is one is the condition's matter."""

    def visit_Call(self, node: ast.Call) -> None:
        name = node.func.id if isinstance(node.func, ast.Name) else getattr(node.func, "attr", "")
        if name in SPEAKING:
            return
        if name in _CALLS:
            self._add(node, f"{name} → {_CALLS[name]}")
        self.generic_visit(node)

    def visit_Compare(self, node: ast.Compare) -> None:
        for place, op in enumerate(node.ops):
            if type(op) in _COMPARE:
                self._add(node, f"{ast.unparse(node)} #{place} {type(op).__name__}")
        self.generic_visit(node)

    def visit_BinOp(self, node: ast.BinOp) -> None:
        # Joining words is no arithmetic, nor are types.
        text = isinstance(node.left, ast.Constant) and isinstance(node.left.value, str)
        if type(node.op) in _ARITHMETIC and not text and not isinstance(node.op, ast.BitOr):
            self._add(node, f"{ast.unparse(node)} {type(node.op).__name__}")
        self.generic_visit(node)

    def visit_BoolOp(self, node: ast.BoolOp) -> None:
        self._add(node, f"{ast.unparse(node)} {type(node.op).__name__}")
        self.generic_visit(node)

    def visit_UnaryOp(self, node: ast.UnaryOp) -> None:
        if isinstance(node.op, ast.Not | ast.USub):
            self._add(node, f"{ast.unparse(node)} without {type(node.op).__name__}")
        self.generic_visit(node)

    def visit_IfExp(self, node: ast.IfExp) -> None:
        self._add(node, f"{ast.unparse(node)} turned round")
        self.generic_visit(node)

    def visit_Constant(self, node: ast.Constant) -> None:
        if isinstance(node.value, bool):
            self._add(node, f"{node.value} → {not node.value}")
        elif isinstance(node.value, float) and 0 < abs(node.value) <= GUARD:
            return
        elif isinstance(node.value, int | float) and not isinstance(node.value, complex):
            self._add(node, f"{node.value!r} → {_other(node.value)!r}")

    def visit_keyword(self, node: ast.keyword) -> None:
        """What only checks (zip's strict) or prints (a field's repr) decides nothing that is reckoned."""
        if node.arg not in ("strict", "repr"):
            self.generic_visit(node)

    def visit_JoinedStr(self, node: ast.JoinedStr) -> None:
        """Text only."""

    def _add(self, node: ast.AST, change: str) -> None:
        self.found.append((node, ".".join(self.functions), change[:120]))


def _other(value: float) -> float:
    """Another number, far enough off to matter: the next whole one, or a quarter more."""
    return value + 1 if isinstance(value, int) else value * 1.25 if value else 1.0


def mutants_of(path: Path) -> list[Mutant]:
    """All mutants of one module."""
    if path.name in TABLES:
        return []
    walk = _Walk()
    walk.visit(ast.parse(path.read_text()))
    name = str(path.relative_to(ROOT))
    return [
        Mutant(name, function, getattr(node, "lineno", 0), change, number)
        for number, (node, function, change) in enumerate(walk.found)
    ]


def all_mutants(package: str = "") -> Iterator[Mutant]:
    """The mutants of the whole core, or of one of its packages."""
    for path in sorted(CORE.rglob("*.py")):
        for mutant in mutants_of(path):
            if not package or mutant.package == package:
                yield mutant


def mutated(mutant: Mutant) -> ast.Module:
    """The module's tree with the one change in it."""
    tree = ast.parse((ROOT / mutant.path).read_text())
    walk = _Walk()
    walk.visit(tree)
    node, _, change = walk.found[mutant.number]
    _apply(node, change)
    return ast.fix_missing_locations(tree)


def _apply(node: ast.AST, change: str) -> None:
    if isinstance(node, ast.Compare):
        place = int(change.rsplit("#", 1)[1].split()[0]) if "#" in change else 0
        node.ops[place] = _COMPARE[type(node.ops[place])]()
    elif isinstance(node, ast.BinOp):
        node.op = _ARITHMETIC[type(node.op)]()
    elif isinstance(node, ast.BoolOp):
        node.op = ast.Or() if isinstance(node.op, ast.And) else ast.And()
    elif isinstance(node, ast.UnaryOp):
        # Twice is not at all, and keeps the node.
        node.operand = ast.UnaryOp(copy.deepcopy(node.op), node.operand)
    elif isinstance(node, ast.IfExp):
        node.body, node.orelse = node.orelse, node.body
    elif isinstance(node, ast.Constant):
        node.value = not node.value if isinstance(node.value, bool) else _other(node.value)  # type: ignore[arg-type]
    elif isinstance(node, ast.Call):
        name = node.func.id if isinstance(node.func, ast.Name) else getattr(node.func, "attr", "")
        if isinstance(node.func, ast.Name):
            node.func.id = _CALLS[name]
        elif isinstance(node.func, ast.Attribute):
            node.func.attr = _CALLS[name]
