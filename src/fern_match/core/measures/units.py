"""Units by the words people use for them, each with what it is a unit of and its size."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from fern_match.core.measures.volumes import CUP_ERROR, MILLILITRES, SPOON_ERROR, Measures

GRAMS_PER_OUNCE = 28.349523125
GRAMS_PER_POUND = 453.59237
MM_PER_INCH = 25.4
METRES_PER_FOOT = 0.3048


class Quantity(StrEnum):
    """What an amount is of; the value is what a sentence calls it."""

    WEIGHT = "a weight"  # g
    VOLUME = "a volume"  # mL
    TEMPERATURE = "a temperature"  # degC
    LENGTH = "a length"  # mm
    COUNT = "a number of pieces"
    SHARE = "a percentage"
    TIME = "a time"  # min


@dataclass(frozen=True, slots=True)
class Unit:
    """One unit: value in our unit = size x figure + zero."""

    name: str
    quantity: Quantity
    size: float
    zero: float = 0.0
    spread: float = 0.0  # relative: how far one filling is from another


_JUG_ERROR, _PINCH_ERROR, _DROP_ERROR = 0.05, 0.5, 0.3
_PINCH_ML, _DASH_ML, _DROP_ML = 0.3, 0.6, 0.05  # approximate
_SPOONS = frozenset({"tsp", "tbsp"})

_WORDS: Mapping[str, str] = {
    "g": "g gr gm gms gram grams gramme grammes", "kg": "kg kgs kilo kilos kilogram kilograms", "mg": "mg milligram milligrams",
    "oz": "oz ozs ounce ounces", "lb": "lb lbs pound pounds",
    "mL": "ml mls millilitre millilitres milliliter milliliters cc cm3", "cL": "cl centilitre centilitres",
    "dL": "dl decilitre decilitres",
    "L": "l litre litres liter liters",
    "tsp": "tsp tsps teaspoon teaspoons", "tbsp": "tbsp tbsps tbs tbl tbls tblsp tablespoon tablespoons", "cup": "cup cups",
    "fl oz": "floz", "pint": "pint pints pt", "quart": "quart quarts qt", "pinch": "pinch pinches", "dash": "dash dashes",
    "drop": "drop drops",
    "°C": "°c c celsius centigrade", "°F": "°f f fahrenheit",
    "mm": "mm millimetre millimetres millimeter millimeters", "cm": "cm centimetre centimetres centimeter centimeters",
    "m": "m metre metres meter meters", "in": 'in ins inch inches "', "ft": "ft foot feet '",
    "%": "% percent",
    "min": "min mins minute minutes", "h": "h hr hrs hour hours", "s": "sec secs second seconds", "d": "day days",
}  # fmt: skip
_NAME = {word: name for name, words in _WORDS.items() for word in words.split()}
_FIXED = {
    unit.name: unit
    for unit in (
        Unit("g", Quantity.WEIGHT, 1.0),
        Unit("kg", Quantity.WEIGHT, 1000.0),
        Unit("mg", Quantity.WEIGHT, 0.001),
        Unit("oz", Quantity.WEIGHT, GRAMS_PER_OUNCE),
        Unit("lb", Quantity.WEIGHT, GRAMS_PER_POUND),
        Unit("mL", Quantity.VOLUME, 1.0, spread=_JUG_ERROR),
        Unit("cL", Quantity.VOLUME, 10.0, spread=_JUG_ERROR),
        Unit("dL", Quantity.VOLUME, 100.0, spread=_JUG_ERROR),
        Unit("L", Quantity.VOLUME, 1000.0, spread=_JUG_ERROR),
        Unit("pinch", Quantity.VOLUME, _PINCH_ML, spread=_PINCH_ERROR),
        Unit("dash", Quantity.VOLUME, _DASH_ML, spread=_PINCH_ERROR),
        Unit("drop", Quantity.VOLUME, _DROP_ML, spread=_DROP_ERROR),
        Unit("°C", Quantity.TEMPERATURE, 1.0),
        Unit("°F", Quantity.TEMPERATURE, 5 / 9, -160 / 9),
        Unit("mm", Quantity.LENGTH, 1.0),
        Unit("cm", Quantity.LENGTH, 10.0),
        Unit("m", Quantity.LENGTH, 1000.0),
        Unit("in", Quantity.LENGTH, MM_PER_INCH),
        Unit("ft", Quantity.LENGTH, 1000 * METRES_PER_FOOT),
        Unit("%", Quantity.SHARE, 1.0),
        Unit("min", Quantity.TIME, 1.0),
        Unit("h", Quantity.TIME, 60.0),
        Unit("s", Quantity.TIME, 1 / 60),
        Unit("d", Quantity.TIME, 1440.0),
    )
}
COUNTRIES = {
    "us": Measures.US, "american": Measures.US, "metric": Measures.METRIC, "uk": Measures.UK, "british": Measures.UK,
    "imperial": Measures.UK, "au": Measures.AU, "australian": Measures.AU,
}  # fmt: skip
FILLINGS = frozenset({"heaped", "heaping", "rounded", "scant", "generous", "packed", "sifted"})


def unit_of(word: str, measures: Measures, country: str | None = None) -> Unit | None:
    """The unit a word stands for; None for a word that is no unit.

    Args:
        word: As typed, without a full stop.
        measures: Whose spoons and cups, where the word does not say.
        country: A word such as "US" or "metric" that stood before it.

    Source: definitions of the inch, pound, US and UK measures; pinch, dash and drop approximate.

    >>> unit_of("tablespoons", Measures.AU).size
    20.0
    """
    name = _NAME.get(word.lower())
    if name is None:
        return None
    whose = measures if country is None else COUNTRIES[country.lower()]
    if name in MILLILITRES[whose]:
        spread = SPOON_ERROR if name in _SPOONS else CUP_ERROR
        return Unit(f"{_ADJECTIVES[whose]} {name}", Quantity.VOLUME, MILLILITRES[whose][name], spread=spread)
    return _FIXED[name] if country is None else None


_ADJECTIVES = {Measures.US: "US", Measures.METRIC: "metric", Measures.UK: "UK", Measures.AU: "Australian"}
