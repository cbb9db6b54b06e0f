"""Small faults that can be put into a module: a comparison turned, a sign, a number, a call left out."""

import ast
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]

COMPARED: Mapping[type[ast.cmpop], type[ast.cmpop]] = {
    ast.Lt: ast.GtE, ast.LtE: ast.Gt, ast.Gt: ast.LtE, ast.GtE: ast.Lt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
}  # fmt: skip
RECKONED: Mapping[type[ast.operator], type[ast.operator]] = {
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.BitOr: ast.BitAnd,
    ast.BitAnd: ast.BitOr, ast.FloorDiv: ast.Mult, ast.Pow: ast.Mult,
}  # fmt: skip
NAMED = {
    "min": "max",
    "max": "min",
    "any": "all",
    "all": "any",
    "argmin": "argmax",
    "argmax": "argmin",
    "first": "last",
}


@dataclass(frozen=True)
class Fault:
    """A place in a file, and what is wrong there: the number of the node among all that can be changed."""

    path: str
    line: int
    function: int
    number: int
    words: str


class _Changer(ast.NodeTransformer):
    """Counts what can be changed in a module, and changes the one with a number."""

    def __init__(self, number: int | None = None) -> None:
        self.number, self.count = number, 0
        self.found: list[tuple[int, int, str]] = []
        self._functions: list[int] = []

    def _is_it(self, node: ast.expr | ast.stmt, words: str) -> bool:
        self.count += 1
        if self._functions:
            self.found.append((node.lineno, self._functions[0], words))
        else:
            self.found.append((node.lineno, 0, words))
        return self.count - 1 == self.number

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        first = min([node.lineno, *(one.lineno for one in node.decorator_list)])
        self._functions.insert(0, first)
        node.body = [self.visit(part) for part in node.body]
        self._functions.pop(0)
        return node

    def visit_AnnAssign(self, node: ast.AnnAssign) -> ast.AST:
        if node.value is not None:
            node.value = self.visit(node.value)
        return node

    def visit_JoinedStr(self, node: ast.JoinedStr) -> ast.AST:
        return node  # Words are no logic.

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        self.generic_visit(node)
        other = COMPARED.get(type(node.ops[0]))
        if other is not None and self._is_it(node, f"{type(node.ops[0]).__name__} to {other.__name__}"):
            node.ops[0] = other()
        return node

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        self.generic_visit(node)
        other = RECKONED.get(type(node.op))
        if (
            other is not None
            and not _is_text(node)
            and self._is_it(node, f"{type(node.op).__name__} to {other.__name__}")
        ):
            node.op = other()
        return node

    def visit_BoolOp(self, node: ast.BoolOp) -> ast.AST:
        self.generic_visit(node)
        other = ast.Or() if isinstance(node.op, ast.And) else ast.And()
        if self._is_it(node, f"to {type(other).__name__}"):
            node.op = other
        return node

    def visit_UnaryOp(self, node: ast.UnaryOp) -> ast.AST:
        self.generic_visit(node)
        if isinstance(node.op, ast.Not | ast.USub) and self._is_it(node, f"{type(node.op).__name__} left out"):
            return node.operand
        return node

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        if isinstance(node.value, bool):
            if self._is_it(node, f"{node.value} turned"):
                return ast.copy_location(ast.Constant(not node.value), node)
        elif isinstance(node.value, int | float):
            other = node.value + 1 if isinstance(node.value, int) else node.value * 1.5 or 1.0
            if self._is_it(node, f"{node.value!r} to {other!r}"):
                return ast.copy_location(ast.Constant(other), node)
        return node

    def visit_Call(self, node: ast.Call) -> ast.AST:
        self.generic_visit(node)
        name = node.func.id if isinstance(node.func, ast.Name) else getattr(node.func, "attr", "")
        if name in NAMED and self._is_it(node, f"{name} to {NAMED[name]}"):
            if isinstance(node.func, ast.Name):
                node.func.id = NAMED[name]
            elif isinstance(node.func, ast.Attribute):
                node.func.attr = NAMED[name]
        return node

    def visit_If(self, node: ast.If) -> ast.AST:
        self.generic_visit(node)
        if not isinstance(node.test, ast.Compare) and self._is_it(node, "condition turned"):
            node.test = ast.UnaryOp(ast.Not(), node.test)
        return node

    def visit_Expr(self, node: ast.Expr) -> ast.AST:
        self.generic_visit(node)
        if isinstance(node.value, ast.Call) and self._functions and self._is_it(node, "call left out"):
            return ast.copy_location(ast.Pass(), node)
        return node


def _is_text(node: ast.BinOp) -> bool:
    return any(isinstance(side, ast.JoinedStr | ast.Constant) and isinstance(getattr(side, "value", ""), str)
               for side in (node.left, node.right))  # fmt: skip


def faults_in(path: Path) -> Iterator[Fault]:
    """Every fault that can be put into a file, but in what is only executed when it is loaded."""
    changer = _Changer()
    changer.visit(ast.parse(path.read_text(encoding="utf-8")))
    name = str(path.relative_to(ROOT))
    for number, (line, function, words) in enumerate(changer.found):
        if function:
            yield Fault(name, line, function, number, words)


def with_fault(fault: Fault) -> str:
    tree = ast.parse((ROOT / fault.path).read_text(encoding="utf-8"))
    changed = ast.fix_missing_locations(_Changer(fault.number).visit(tree))
    return ast.unparse(changed)
