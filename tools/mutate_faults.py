"""The small changes that a line of code can suffer."""

from __future__ import annotations

import ast
from typing import Any

AS_LOADED = 0
"""The line of what is done when a module is loaded: any test of the module may notice."""
UNSEEN = {"slots", "frozen", "kw_only", "maxsize", "dtype", "strict", "repr", "compare"}
"""Keywords whose lack changes nothing that is computed."""
COMPARED = {ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq,
            ast.NotEq: ast.Eq, ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot,
            ast.IsNot: ast.Is}  # fmt: skip
WORKED = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult,
          ast.Pow: ast.Mult, ast.FloorDiv: ast.Div, ast.Mod: ast.Mult}  # fmt: skip


class Changer(ast.NodeTransformer):
    """Finds the places of a file that can be changed; changes the one that is ``wanted``."""

    def __init__(self, wanted: int = -1) -> None:
        self.wanted, self.count, self.statement, self.inside = wanted, 0, AS_LOADED, False
        self.found: list[tuple[int, str]] = []

    def place(self, node: ast.AST, says: str) -> bool:
        """Whether this is the one to change."""
        self.found.append((self.statement, f"{says}, line {getattr(node, 'lineno', 0)}"))
        self.count += 1
        return self.count - 1 == self.wanted

    def visit(self, node: ast.AST) -> Any:
        """Tests are known to run whole statements: it is their first line that is kept."""
        before, inside = self.statement, self.inside
        self.inside = inside or isinstance(node, (ast.FunctionDef, ast.Lambda))
        if isinstance(node, ast.stmt):
            self.statement = node.lineno if inside else AS_LOADED
        found = super().visit(node)
        self.statement, self.inside = before, inside
        return found

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        self.generic_visit(node)
        other = COMPARED.get(type(node.ops[0]))
        if other and self.place(node, f"{type(node.ops[0]).__name__} for {other.__name__}"):
            node.ops[0] = other()
        return node

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        self.generic_visit(node)
        other = WORKED.get(type(node.op))
        if isinstance(node.left, (ast.Constant, ast.JoinedStr)) and isinstance(
            getattr(node.left, "value", ""), str
        ):
            return node
        if other and self.place(node, f"{type(node.op).__name__} for {other.__name__}"):
            node.op = other()
        return node

    def visit_BoolOp(self, node: ast.BoolOp) -> ast.AST:
        self.generic_visit(node)
        other = ast.Or if isinstance(node.op, ast.And) else ast.And
        if self.place(node, f"{type(node.op).__name__} for {other.__name__}"):
            node.op = other()
        return node

    def visit_UnaryOp(self, node: ast.UnaryOp) -> ast.AST:
        self.generic_visit(node)
        if isinstance(node.op, (ast.Not, ast.USub)) and self.place(node, "sign or not left out"):
            return node.operand
        return node

    def visit_If(self, node: ast.If) -> ast.AST:
        self.generic_visit(node)
        if self.place(node, "if turned round"):
            node.test = ast.UnaryOp(ast.Not(), node.test)
        return node

    def visit_IfExp(self, node: ast.IfExp) -> ast.AST:
        self.generic_visit(node)
        if self.place(node, "if turned round"):
            node.test = ast.UnaryOp(ast.Not(), node.test)
        return node

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        value = node.value
        if isinstance(value, bool):
            if self.place(node, f"{value} for {not value}"):
                return ast.copy_location(ast.Constant(not value), node)
        elif isinstance(value, (int, float)) and self.place(node, f"{value} changed"):
            changed = value + 1 if isinstance(value, int) else value * 1.1 + (value == 0) * 0.1
            return ast.copy_location(ast.Constant(changed), node)
        return node

    def visit_Call(self, node: ast.Call) -> ast.AST:
        self.generic_visit(node)
        named = [one for one in node.keywords if one.arg and one.arg not in UNSEEN]
        if named and self.place(node, f"{named[-1].arg}= left out"):
            node.keywords.remove(named[-1])
        return node

    def visit_Expr(self, node: ast.Expr) -> ast.AST:
        if isinstance(node.value, ast.Constant):
            return node  # a docstring
        self.generic_visit(node)
        return ast.Pass() if self.place(node, "statement not done") else node

    def visit_AnnAssign(self, node: ast.AnnAssign) -> ast.AST:
        if node.value is not None:
            node.value = self.visit(node.value)
        return node

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        node.body = [self.visit(one) for one in node.body]
        node.args.defaults = [self.visit(one) for one in node.args.defaults]
        return node

    def visit_ClassDef(self, node: ast.ClassDef) -> ast.AST:
        node.body = [self.visit(one) for one in node.body]  # not what decorates it
        return node

    def visit_keyword(self, node: ast.keyword) -> ast.AST:
        return node if node.arg in UNSEEN else self.generic_visit(node)

    def visit_Raise(self, node: ast.Raise) -> ast.AST:
        return node  # the sentence of an error
