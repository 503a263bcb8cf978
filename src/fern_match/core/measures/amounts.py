"""Fields for amounts: kept as typed, with what was read, what that rests on, and the problem if any.

Worked example: "2 tbsp" of honey in a US kitchen are 2 x 14.787 = 29.574 mL; at 1.42 g/mL 41.99 g, and a spoon errs by 8 %:
38.6 to 45.4 g.
"""

import re
from dataclasses import dataclass, replace

from fern_match.core.food.ingredients import Ingredient
from fern_match.core.measures.numbers import Comma, Unread
from fern_match.core.measures.pieces import CUT_ERROR, CUT_TO_SIZE, MOST_PIECES, PIECE_ERROR, plural
from fern_match.core.measures.sums import Amount, Words, amount_of
from fern_match.core.measures.units import Quantity, Unit
from fern_match.core.measures.volumes import Measures

_MOST_G = 100_000.0
_MOST_MONEY = 10_000.0
_MOST_ML = 20_000.0
_QUART_ML = 946.353  # a scoop's number is how many of it fill a US quart
_SCOOP_ERROR = 0.08  # of one filling, level (approximate)
_SCOOP = re.compile(r"\s*(?:scoop\s*)?(?:#|no\.?\s*|number\s*)(\d{1,3})\s*", re.IGNORECASE)
_WATER_G_ML = 0.998  # at 20 degC
_LONGEST = 60
_ROUNDING = 1e-9
_NOT_NAMES = frozenset({"and", "plus", "less", "minus", "of", "or", "with", "in", "x"})
_WORD = re.compile(r"[a-zà-ÿ]{2,}")
_PIECES = frozenset({"piece", "pieces", "pc", "pcs"})


@dataclass(frozen=True, slots=True)
class Typed:
    """A field: what was typed, what was read from it, and the problem if any. An empty field has neither."""

    typed: str
    value: float | None
    unit: str
    problem: str | None = None
    assumption: str | None = None  # what the reading rests on
    low: float | None = None  # where the reading itself is unsure, as of a spoonful
    high: float | None = None


@dataclass(frozen=True, slots=True)
class _Field:
    """What a field wants."""

    quantity: Quantity
    unit: str
    bare: str  # what a figure without a unit is
    write: str  # what to write, for sentences
    low: float
    high: float
    above_low: bool = False  # whether low itself is too little
    size: float = 1.0  # of its unit, in ours: a field in metres stands for 1000 mm


def read_grams(
    typed: str, *, least_g: float = 0.0, most_g: float = _MOST_G, comma: Comma = Comma.DECIMAL, zero: bool = False
) -> Typed:
    """A weight of something whose density nobody knows: "42", "1.5 oz", "1 lb 4 oz", "42/3", "12 x 0.6" [g].

    Args:
        typed: What stands in the field; a bare figure is in grams.
        least_g: The least that makes sense here [g]; anything above none where 0.
        most_g: The most that makes sense here [g].
        zero: Whether none at all is an amount here.

    >>> round(read_grams("12 x 0.6").value, 9)
    7.2
    """
    wanted = _Field(
        Quantity.WEIGHT,
        "g",
        "grams",
        "Write grams or ounces: 8.4, 42/3, 1.5 oz.",
        least_g,
        most_g,
        above_low=not zero and least_g == 0,
    )
    return _read(typed, wanted, Words(Measures.METRIC, comma, wanted.unit))


def read_ingredient(
    typed: str,
    food: Ingredient,
    *,
    measures: Measures,
    comma: Comma = Comma.DECIMAL,
    most_g: float = _MOST_G,
    zero: bool = False,
) -> Typed:
    """An amount of an ingredient by weight, spoons, cups or pieces: "2 tbsp", "1½ US cups", "3 oz", "2 eggs" [g].

    Args:
        typed: What stands in the field; a bare figure is in grams.
        food: For its density and what a piece of it weighs.
        measures: Whose spoons and cups, where the field does not say.
        most_g: The most that makes sense here [g].
        zero: Whether none at all is an amount here.

    Source: densities and piece weights from data/ingredients.csv (typical values); errors of spoons, cups and pieces approximate.
    """
    write = "Write grams, ounces, spoons or cups: 30, 1.5 oz, 2 tbsp, 1 1/2 cup."
    wanted = _Field(Quantity.WEIGHT, "g", "grams", write, 0.0, most_g, above_low=not zero)
    return _read(typed, wanted, _words_of(food, measures, comma), food)


def read_celsius(typed: str, *, low_c: float, high_c: float, comma: Comma = Comma.DECIMAL) -> Typed:
    """A temperature: "118", "118 C", "245 F" [degC].

    Args:
        typed: What stands in the field; a bare figure is in degrees Celsius.
        low_c: Least that makes sense here [degC].
        high_c: Most that makes sense here [degC].

    >>> round(read_celsius("255 F", low_c=0, high_c=200).value, 1)
    123.9
    """
    wanted = _Field(Quantity.TEMPERATURE, "°C", "degrees Celsius", "Write degrees: 118, 118 C, 245 F.", low_c, high_c)
    return _read(typed, wanted, Words(Measures.METRIC, comma, wanted.unit))


def read_minutes(typed: str, *, most_min: float = 20_160.0, comma: Comma = Comma.DECIMAL) -> Typed:
    """A time: "12", "12 min", "1 h 30 min", "2 days" [min].

    Args:
        typed: What stands in the field; a bare figure is in minutes.
        most_min: The most that makes sense here [min]; two weeks unless said.
        comma: What a comma means in it.

    >>> read_minutes("1 1/2 h").value
    90.0
    """
    wanted = _Field(Quantity.TIME, "min", "minutes", "Write minutes or hours: 12, 12 min, 1 1/2 h.", 0.0, most_min)
    return _read(typed, wanted, Words(Measures.METRIC, comma, wanted.unit))


def read_millimetres(typed: str, *, most_mm: float = 1000.0, comma: Comma = Comma.DECIMAL) -> Typed:
    """A length: "38", "3.8 cm", "1 1/2 in" [mm].

    Args:
        typed: What stands in the field; a bare figure is in millimetres.
        most_mm: The most that makes sense here [mm].
    """
    wanted = _Field(
        Quantity.LENGTH, "mm", "millimetres", "Write millimetres, cm or inches: 38, 3.8 cm, 1 1/2 in.", 0.0, most_mm, True
    )
    return _read(typed, wanted, Words(Measures.METRIC, comma, wanted.unit))


def read_millilitres(typed: str, *, measures: Measures, most_ml: float = _MOST_ML, comma: Comma = Comma.DECIMAL) -> Typed:
    """What something holds: "14.5 mL", "2 tbsp", the number of a scoop "#40", or the water in it weighed "14.5 g" [mL].

    Args:
        typed: What stands in the field; a bare figure is in millilitres.
        measures: Whose spoons and cups, where the field does not say.
        most_ml: The most that makes sense here [mL].
        comma: What a comma means in it.

    Source: scoops level, a US quart of 946.353 mL by their number; water 0.998 g/mL at 20 degC.

    >>> round(read_millilitres("#40", measures=Measures.METRIC).value, 1)
    23.7
    >>> round(read_millilitres("36.5 g", measures=Measures.METRIC).value, 2)
    36.57
    """
    write = "Write millilitres, spoons, a scoop’s number or grams of water: 14.5 mL, 2 tbsp, #40, 14.5 g."
    wanted = _Field(Quantity.VOLUME, "mL", "millilitres", write, 0.0, most_ml, above_low=True)
    number = _SCOOP.fullmatch(typed)
    if number is not None and int(number[1]) > 0:
        ml = _QUART_ML / int(number[1])
        spread = _SCOOP_ERROR * ml
        return _within(typed, Typed(typed, ml, "mL", None, f"a level scoop #{int(number[1])}", ml - spread, ml + spread), wanted)
    return _read(typed, wanted, Words(measures, comma, wanted.unit))


def read_metres(typed: str, *, low_m: float, high_m: float, comma: Comma = Comma.DECIMAL) -> Typed:
    """A height above the sea: "1600", "1600 m", "5200 ft" [m].

    Args:
        typed: What stands in the field; a bare figure is in metres.
        low_m: Least that makes sense here [m].
        high_m: Most that makes sense here [m].
    """
    wanted = _Field(Quantity.LENGTH, "m", "metres", "Write metres or feet: 1600, 5200 ft.", low_m, high_m, size=1000.0)
    return _read(typed, wanted, Words(Measures.METRIC, comma, wanted.unit))


def read_count(typed: str, *, most: int = MOST_PIECES, what: str = "count", comma: Comma = Comma.DECIMAL) -> Typed:
    """A whole number of pieces: "12", "2 x 6", "24 pieces".

    Args:
        typed: What stands in the field.
        most: The most that makes sense here.
        what: The field's name for the sentence.
    """
    wanted = _Field(Quantity.COUNT, "pieces", "pieces", f"The {what} is a whole number, such as 12.", 1.0, float(most))
    piece = Unit("piece", Quantity.COUNT, 1.0)
    found = _read(typed, wanted, Words(Measures.METRIC, comma, piece.name, piece, _PIECES | {"bar", "bars"}))
    if found.value is None:
        return found
    if abs(found.value - round(found.value)) > _ROUNDING:
        return Typed(typed, None, "pieces", f"{_plain_number(found.value)} was read. {wanted.write}")
    return Typed(typed, float(round(found.value)), "pieces")


def read_percent(typed: str, *, most: float, comma: Comma = Comma.DECIMAL) -> Typed:
    """A percentage: "3.5", "3,5 %", "7/2".

    Args:
        typed: What stands in the field.
        most: The most that makes sense here [%].
    """
    wanted = _Field(Quantity.SHARE, "%", "per cent", "Write a percentage, such as 3.5.", 0.0, most)
    return _read(typed, wanted, Words(Measures.METRIC, comma, wanted.unit))


def read_money(typed: str, *, comma: Comma = Comma.DECIMAL) -> Typed:
    """A price in whatever money: "1.49", "€ 1,49", "$2".

    Args:
        typed: What stands in the field; signs and letters of a currency are left out.
        comma: What a comma means in it.

    >>> read_money("€ 1,49").value
    1.49
    """
    wanted = _Field(Quantity.SHARE, "", "money", "Write a price, such as 1.49.", 0.0, _MOST_MONEY)
    bare = re.sub(r"[^\d.,]", "", typed)
    if typed.strip() and not bare:
        return Typed(typed, None, "", f"“{_short(typed.strip())}” was not read as a price. {wanted.write}")
    found = _read(bare, wanted, Words(Measures.METRIC, comma, wanted.unit))
    return replace(found, typed=typed)


def _read(typed: str, wanted: _Field, words: Words, food: Ingredient | None = None) -> Typed:
    text = typed.strip()
    if not text:
        return Typed(typed, None, wanted.unit)
    try:
        if len(text) > _LONGEST:
            raise Unread(f"That is longer than an amount ({_LONGEST} signs).")
        return _within(typed, _converted(text, amount_of(text, words), wanted, food), wanted)
    except Unread as problem:
        sentence = str(problem) if "Write" in str(problem) else f"{problem} {wanted.write}"
        if not sentence.startswith(f"“{text}”"):
            sentence = f"“{_short(text)}” was not read as {wanted.quantity.value}. {sentence}"
        return Typed(typed, None, wanted.unit, sentence)


def _converted(text: str, amount: Amount, wanted: _Field, food: Ingredient | None) -> Typed:
    """The amount in the field's unit, with what that rests on."""
    if amount.quantity is Quantity.VOLUME and wanted.quantity is Quantity.WEIGHT:
        raise Unread("That is a volume, and what it weighs depends on what it is.")
    of_water = amount.quantity is Quantity.WEIGHT and wanted.quantity is Quantity.VOLUME
    if amount.quantity not in {None, wanted.quantity} and not of_water:
        raise Unread(f"That is {amount.quantity.value}; here {wanted.quantity.value} is wanted.")
    value, spread = amount.value, amount.spread
    if of_water:
        value, spread = value / _WATER_G_ML, spread / _WATER_G_ML
    if amount.quantity is not None:
        value, spread = value / wanted.size, spread / wanted.size
    low, high = (value - spread, value + spread) if spread else (None, None)
    assumption = "water at 20 °C" if of_water else _assumption(amount, food) if food is not None else None
    return Typed(text, value, wanted.unit, None, assumption, low, high)


def _assumption(amount: Amount, food: Ingredient) -> str | None:
    """What turned spoons, cups, pieces or bare ounces of an ingredient into grams."""
    units = list(dict.fromkeys(amount.units))
    volumes = [unit for unit in units if unit.quantity is Quantity.VOLUME]
    parts = [f"{food.name} at {food.density_g_ml:g} g/mL"] if volumes else []
    parts += [f"{unit.name} of {unit.size:.3g} mL" for unit in volumes if unit.name != "mL"]
    parts += [f"one {unit.name} at {unit.size:g} g" for unit in units if unit.name == food.piece_name]
    parts += ["ounces of weight; write fl oz for volume"] if [unit.name for unit in units] == ["oz"] else []
    return ", ".join(parts) or None


def _within(typed: str, read: Typed, wanted: _Field) -> Typed:
    value = read.value or 0.0
    shown = f"{_plain_number(value)} {wanted.unit} was read"
    if wanted.above_low and value <= 0:
        return Typed(typed, None, wanted.unit, f"{shown}; {wanted.quantity.value} is more than 0 {wanted.unit}.")
    if not wanted.low - _ROUNDING <= value <= wanted.high + _ROUNDING:
        least = "more than 0" if wanted.above_low else f"{wanted.low:g}"
        ends = f"{least} to {wanted.high:g} {wanted.unit}"
        return Typed(
            typed, None, wanted.unit, f"{shown}; what makes sense here is {ends}. A figure without a unit is in {wanted.bare}."
        )
    return Typed(typed, value, wanted.unit, None, read.assumption, read.low, read.high)


def _words_of(food: Ingredient, measures: Measures, comma: Comma) -> Words:
    names = {word for name in (food.name, *food.label_names) for word in _WORD.findall(name.lower())} - _NOT_NAMES
    names |= {f"{word}s" for word in names}
    density = food.density_g_ml
    if food.piece_g is None or food.piece_name is None:
        return Words(measures, comma, "g", names=frozenset(names), grams_per_ml=density)
    exact = food.piece_name in CUT_TO_SIZE
    piece = Unit(food.piece_name, Quantity.WEIGHT, food.piece_g, spread=CUT_ERROR if exact else PIECE_ERROR)
    last = food.piece_name.split()[-1]
    own = {last, plural(last)} if exact else {last, plural(last), *_PIECES}
    return Words(measures, comma, "g", piece, frozenset(own), frozenset(names), density)


def _short(text: str) -> str:
    return text if len(text) <= 30 else text[:28] + "…"


def _plain_number(value: float) -> str:
    return f"{value:.6g}" if abs(value) < 1e9 else "Far too much"
