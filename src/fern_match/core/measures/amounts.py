"""Amounts as people write them: kept as typed, with what was read and the problem if any."""

import ast
import operator
import re
from collections.abc import Callable
from dataclasses import dataclass

GRAMS_PER_OUNCE = 28.349523125
GRAMS_PER_POUND = 453.59237
_MASS_UNITS = {
    "g": 1.0, "gram": 1.0, "grams": 1.0, "gr": 1.0, "kg": 1000.0, "mg": 0.001,
    "oz": GRAMS_PER_OUNCE, "ounce": GRAMS_PER_OUNCE, "ounces": GRAMS_PER_OUNCE, "lb": GRAMS_PER_POUND, "lbs": GRAMS_PER_POUND,
}  # fmt: skip
_VULGAR = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅓": "1/3", "⅔": "2/3", "⅛": "1/8"}
_MOST_G = 100_000.0
_LONGEST = 60
_OPERATORS: dict[type[ast.operator], Callable[[float, float], float]] = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
    ast.Div: operator.truediv,
}


@dataclass(frozen=True, slots=True)
class Typed:
    """A field: what was typed, what was read from it, and the problem if any. An empty field has neither."""

    typed: str
    value: float | None
    unit: str
    problem: str | None = None


def read_grams(typed: str, *, most_g: float = _MOST_G) -> Typed:
    """A mass: "42", "42 g", "1.5 oz", "42/3", "12 x 0.6", "1 1/2 oz", "12,5" [g].

    Args:
        typed: What stands in the field.
        most_g: The most that makes sense here [g].
    """
    text = typed.strip()
    if not text:
        return Typed(typed, None, "g")
    match = re.fullmatch(r"(?P<sum>[\d\s.,/*x×+()\-½¼¾⅓⅔⅛]+?)\s*(?P<unit>[a-zA-Z]*)", text)
    value = arithmetic(match["sum"]) if match else None
    if match is None or value is None or len(text) > _LONGEST:
        return Typed(typed, None, "g", f"“{_short(text)}” was not read as a weight. Write grams or ounces: 8.4, 42/3, 1.5 oz.")
    factor = _MASS_UNITS.get(match["unit"].lower() or "g")
    if factor is None:
        return Typed(typed, None, "g", f"“{match['unit']}” is not a unit of weight here. Use g, kg, mg, oz or lb.")
    grams = value * factor
    if grams <= 0:
        return Typed(typed, None, "g", f"{_plain_number(grams)} g was read; a weight is more than 0 g.")
    if grams > most_g:
        return Typed(typed, None, "g", f"{_plain_number(grams)} g was read; the most that makes sense here is {most_g:g} g.")
    return Typed(typed, grams, "g")


def read_count(typed: str, *, most: int = 10_000, what: str = "count") -> Typed:
    """A whole number of pieces: "12", "2 x 6", "24 pieces".

    Args:
        typed: What stands in the field.
        most: The most that makes sense here.
        what: The field's name for the sentence.
    """
    text = re.sub(r"\s*(pieces?|pcs|bars?)$", "", typed.strip(), flags=re.IGNORECASE)
    if not text:
        return Typed(typed, None, "pieces")
    value = arithmetic(text) if re.fullmatch(r"[\d\s.,/*x×+()\-]+", text) and len(text) <= _LONGEST else None
    if value is None or abs(value - round(value)) > 1e-9:
        return Typed(typed, None, "pieces", f"“{_short(text)}” was not read as a {what}. Write a whole number, such as 12.")
    if not 1 <= value <= most:
        return Typed(typed, None, "pieces", f"{_plain_number(value)} was read; the {what} can be 1 to {most}.")
    return Typed(typed, float(round(value)), "pieces")


def read_percent(typed: str, *, most: float) -> Typed:
    """A percentage: "3.5", "3,5 %".

    Args:
        typed: What stands in the field.
        most: The most that makes sense here [%].
    """
    text = typed.strip()
    if not text:
        return Typed(typed, None, "%")
    match = re.fullmatch(r"(-?\d+(?:[.,]\d+)?)\s*%?", text)
    if match is None or len(text) > _LONGEST:
        return Typed(typed, None, "%", f"“{_short(text)}” was not read as a percentage. Write a number, such as 3.5.")
    value = float(match[1].replace(",", "."))
    if not 0 <= value <= most:
        return Typed(typed, None, "%", f"{_plain_number(value)} % was read; it can be 0 to {most:g} %.")
    return Typed(typed, value, "%")


def arithmetic(text: str) -> float | None:
    """The value of a sum such as "12 x 0.6" or "1 1/2"; None where it is not one.

    Args:
        text: Digits and signs.
    """
    for sign, fraction in _VULGAR.items():
        text = text.replace(sign, f" {fraction}")
    text = text.replace("×", "*").replace("x", "*").strip()
    text = re.sub(r"(\d),(\d{3})(?!\d)", r"\1\2", text) if re.search(r"\d,\d{3}\.\d", text) else text.replace(",", ".")
    text = re.sub(r"(\d)\s+(\d+\s*/\s*\d+)", r"(\1+\2)", text)
    if re.search(r"\d\s+\d", text) or "**" in text or "//" in text:
        return None
    try:
        return _evaluated(ast.parse(text.strip(), mode="eval").body)
    except (SyntaxError, ZeroDivisionError, ValueError, RecursionError, OverflowError):
        return None


def _evaluated(node: ast.expr) -> float:
    if isinstance(node, ast.Constant) and isinstance(node.value, int | float):
        return float(node.value)
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub):
        return -_evaluated(node.operand)
    if isinstance(node, ast.BinOp) and type(node.op) in _OPERATORS:
        return _OPERATORS[type(node.op)](_evaluated(node.left), _evaluated(node.right))
    raise ValueError("not a sum")


def _short(text: str) -> str:
    return text if len(text) <= 30 else text[:28] + "…"


def _plain_number(value: float) -> str:
    return f"{value:.6g}" if abs(value) < 1e9 else "Far too much"
