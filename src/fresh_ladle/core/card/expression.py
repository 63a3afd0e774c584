"""A small language for facts: numbers, names, calls with texts, sums, products, comparisons, and,
or.

`fiber_g >= 3 and grams('group:legume') >= 40`. Names and functions are those it is given; nothing
else is run."""

from __future__ import annotations

import ast
from collections.abc import Callable, Mapping

Value = float | str
Function = Callable[..., Value]


class BadExpression(ValueError):
    """It cannot be read, or names what is not known."""


class NotKnown(Exception):
    """A figure it needs is not known of this dish."""


def parsed(text: str) -> ast.expr:
    """Raises BadExpression for what is none, or holds more than the language does."""
    try:
        tree = ast.parse(text.strip(), mode="eval").body
    except SyntaxError as error:
        raise BadExpression(f"{text!r}: {error.msg}") from None
    for node in ast.walk(tree):
        if not isinstance(node, _ALLOWED):
            raise BadExpression(f"{text!r}: {type(node).__name__} is no part of the language")
    return tree


_ALLOWED = (
    ast.Constant, ast.Name, ast.Load, ast.Call, ast.BinOp, ast.Add, ast.Sub, ast.Mult, ast.Div,
    ast.UnaryOp, ast.USub,
    ast.Compare, ast.Gt, ast.GtE, ast.Lt, ast.LtE, ast.BoolOp, ast.And, ast.Or,
)  # fmt: skip


def names_in(tree: ast.expr) -> set[str]:
    """Every name and function an expression uses."""
    return {node.id for node in ast.walk(tree) if isinstance(node, ast.Name)}


def value_of(
    tree: ast.expr, names: Mapping[str, Function], functions: Mapping[str, Function]
) -> Value:
    """What an expression comes to; names are called without arguments. Raises NotKnown."""
    match tree:
        case ast.Constant(value=value):
            return value if isinstance(value, str) else float(value)  # type: ignore[arg-type]
        case ast.Name(id=name):
            return names[name]()
        case ast.Call(func=ast.Name(id=name), args=args):
            return functions[name](*(value_of(arg, names, functions) for arg in args))
        case ast.UnaryOp(operand=operand):
            return -_number(operand, names, functions)
        case ast.BinOp(left=left, op=op, right=right):
            a, b = _number(left, names, functions), _number(right, names, functions)
            if isinstance(op, ast.Div):
                if b == 0:
                    raise NotKnown("nothing to divide by")
                return a / b
            return a + b if isinstance(op, ast.Add) else a - b if isinstance(op, ast.Sub) else a * b
        case _:
            raise BadExpression(f"{ast.unparse(tree)} is no value")


def holds(tree: ast.expr, names: Mapping[str, Function], functions: Mapping[str, Function]) -> bool:
    """Whether a condition is true. Raises NotKnown."""
    match tree:
        case ast.BoolOp(op=op, values=values):
            answers = [holds(value, names, functions) for value in values]
            return all(answers) if isinstance(op, ast.And) else any(answers)
        case ast.Compare(left=left, ops=[op], comparators=[right]):
            a, b = _number(left, names, functions), _number(right, names, functions)
            return {ast.Gt: a > b, ast.GtE: a >= b, ast.Lt: a < b, ast.LtE: a <= b}[type(op)]
        case _:
            raise BadExpression(f"{ast.unparse(tree)} is no condition")


def _number(
    tree: ast.expr, names: Mapping[str, Function], functions: Mapping[str, Function]
) -> float:
    value = value_of(tree, names, functions)
    if isinstance(value, str):
        raise BadExpression(f"{ast.unparse(tree)} is no number")
    return value
