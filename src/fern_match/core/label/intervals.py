"""What a declared figure stands for: the interval of true values that a lawful label would round to it."""

import re
from dataclasses import dataclass

from fern_match.core.errors import OutOfRange
from fern_match.core.label.rows import Region, RowId
from fern_match.core.measures.numbers import Comma, Unread, plain_figure

_FATS = frozenset({RowId.FAT, RowId.SATURATES, RowId.TRANS_FAT})
_TENTH_ZERO = frozenset({RowId.SATURATES, RowId.TRANS_FAT})  # EU rows that may say 0 up to 0.1 g
_MOST = 100_000.0
_FINE_UPTO, _FINE_ENERGY_UPTO = 0.5, 5.0  # Canada: below these amounts [g, kcal] steps are finest
_FIGURE = re.compile(
    r"^(?P<less><|less than|under|≤)?\s*(?P<number>\d[\d.,]*(?: \d{3})*(?:,\d+)?)\s*(?P<unit>k?cal(?:ories)?|kj|m?g|mcg|µg)?$",
    re.IGNORECASE,
)
_DAILY = re.compile(r"\(\s*<?\s*[\d.,]+\s*%[^)]*\)|(?<=[a-z\d])\s+<?\d[\d.,]*\s*%\s*\*?$", re.IGNORECASE)
_WORDS = re.compile(
    r"^(?:includes?|incl\.?|contains|about|of which)\s+|\s+(?:total |added |of )?(?:sugars?|fat|fibre|fiber)$", re.IGNORECASE
)
_BOTH = re.compile(r"(?P<kj>[\d.,  ]+)\s*kj\s*[/|,(]?\s*(?P<kcal>[\d.,  ]+)\s*kcal\)?", re.IGNORECASE)
_THOUSAND = {("g", "mg"): 3, ("mg", "g"): -3}  # powers of ten between a figure's unit and its row's
_SAME = {"cal": "kcal", "calories": "kcal", "kcalories": "kcal"}


@dataclass(frozen=True, slots=True)
class Interval:
    """All values from low to high, ends included."""

    low: float
    high: float

    @property
    def middle(self) -> float:
        """Halfway."""
        return (self.low + self.high) / 2

    def overlap(self, other: "Interval") -> "Interval | None":
        """What lies in both; None where nothing does."""
        low, high = max(self.low, other.low), min(self.high, other.high)
        return Interval(low, high) if low <= high else None


@dataclass(frozen=True, slots=True)
class DeclaredFigure:
    """A figure as printed: its value, how many decimals it shows, and whether it says "less than"."""

    value: float
    decimals: int = 0
    less_than: bool = False

    @property
    def words(self) -> str:
        """The figure alone, without the unit that was typed with it."""
        return f"{'<' if self.less_than else ''}{self.value:.{self.decimals}f}"


def read_declared(typed: str, comma: Comma = Comma.DECIMAL, unit: str = "") -> DeclaredFigure | str:
    """A panel figure as people copy it: "12.4", "31 g", "<0.5", "less than 1 g", "1,200", "40mg (4%)", "Includes 0g Added
    Sugars", "2288kJ/549kcal"; else a sentence for the user.

    Args:
        typed: What stands in the field.
        comma: What a comma means where the label is from.
        unit: The row's own unit; a figure in grams for a row in milligrams is turned into those.
    """
    text = typed.strip()
    if text.startswith("-"):
        return f"“{text[:30]}” is below zero; a label figure is 0 or more."
    bare = _WORDS.sub("", _DAILY.sub("", text)).strip().rstrip("*† ")
    both = _BOTH.fullmatch(bare)
    if both and unit in {"kJ", "kcal"}:
        bare = both[unit.lower()].strip()
    match = _FIGURE.match(bare)
    if match is None:
        return f"“{text[:30]}” was not read as a label figure. Write it as printed: 12.4, 31, <0.5."
    try:
        number = plain_figure(match["number"].replace(" ", ""), comma)
    except Unread as problem:
        return str(problem)
    own = (match["unit"] or "").lower()
    own = _SAME.get(own, own)
    power = _THOUSAND.get((own, unit), 0)
    if own and unit and own != unit.lower() and not power:
        return f"“{text[:30]}” is in {match['unit']}, but this row is in {unit}. Write it as printed for this row."
    if float(number) > _MOST:
        return f"“{text[:30]}” is more than any label says. Write it as printed: 12.4, 31, <0.5."
    decimals = len(number.partition(".")[2])
    return DeclaredFigure(float(number) * 10.0**power, max(0, decimals - power), bool(match["less"]))


def declared_interval(region: Region, row: RowId, declared: DeclaredFigure) -> Interval:
    """The interval a declared figure stands for, in the row's unit and on the label's own basis.

    A figure that no rounding rule would print (5.3 g of fat on a US label) is taken at half a unit of its last digit.

    Args:
        declared: The figure, 0 or more.

    Raises:
        OutOfRange: the figure is negative.

    Source: US 21 CFR 101.9(c); EU and UK Commission guidance on tolerances (December 2012), table 4, for "0" and "<",
    else half a unit of the last printed digit.

    >>> declared_interval(Region.US, RowId.FAT, DeclaredFigure(2.5, 1))
    Interval(low=2.25, high=2.75)
    """
    if declared.value < 0:
        raise OutOfRange("declared figure", declared.value, 0, float("inf"))
    match region:
        case Region.US:
            return _us_interval(row, declared)
        case Region.CA:
            return _ca_interval(row, declared)
        case Region.AU:
            return _au_interval(declared)
    return _eu_interval(row, declared)


def _ca_interval(row: RowId, declared: DeclaredFigure) -> Interval:
    """Canada: finer steps than the US below half a gram of fat and of protein.

    Source: Food and Drug Regulations, B.01.401 and its tables (approximate).
    """
    value = declared.value
    fine = row in _FATS or row is RowId.PROTEIN
    if declared.less_than or row in {RowId.CALCIUM, RowId.IRON, RowId.POTASSIUM}:
        return _us_interval(row, declared)
    if fine and value < _FINE_UPTO:
        return Interval(max(0.0, value - 0.05), value + 0.05)
    if row is RowId.PROTEIN:
        return Interval(max(0.5, value - 0.5), value + 0.5)
    if row is RowId.ENERGY_KCAL and value < _FINE_ENERGY_UPTO:
        return Interval(max(0.0, value - 0.5), value + 0.5)
    return _us_interval(row, declared)


def _au_interval(declared: DeclaredFigure) -> Interval:
    """Australia and New Zealand: averages to up to three figures, "less than" as printed.

    Source: Food Standards Code, standard 1.2.8 (approximate).
    """
    if declared.less_than:
        return Interval(0.0, declared.value)
    half_digit = 0.5 * 10.0**-declared.decimals
    return Interval(max(0.0, declared.value - half_digit), declared.value + half_digit)


def _eu_interval(row: RowId, declared: DeclaredFigure) -> Interval:
    if declared.less_than:
        return Interval(0.0, declared.value)
    half_digit = 0.5 * 10.0**-declared.decimals
    if declared.value == 0:
        return Interval(0.0, _eu_zero(row))
    return Interval(max(0.0, declared.value - half_digit), declared.value + half_digit)


def _eu_zero(row: RowId) -> float:
    """The most that may be printed as 0."""
    if row in _TENTH_ZERO:
        return 0.1
    return {RowId.SALT: 0.0125, RowId.SODIUM: 0.005}.get(row, 0.5)


def _us_interval(row: RowId, declared: DeclaredFigure) -> Interval:
    value = declared.value
    if declared.less_than:
        return Interval(2.0 if row is RowId.CHOLESTEROL else value / 2, value)
    if not _is_us_step(row, value):
        half_digit = 0.5 * 10.0**-declared.decimals
        return Interval(max(0.0, value - half_digit), value + half_digit)
    if value == 0:
        return Interval(0.0, _US_ZERO.get(row, 0.5))
    return _us_step_interval(row, value)


_US_ZERO = {
    RowId.ENERGY_KCAL: 5.0,
    RowId.CHOLESTEROL: 2.0,
    RowId.SODIUM: 5.0,
    RowId.CALCIUM: 26.0,
    RowId.IRON: 0.36,
    RowId.POTASSIUM: 94.0,
}


def _us_step_interval(row: RowId, value: float) -> Interval:
    if row in _FATS:
        special = {0.5: (0.5, 0.75), 5.0: (4.75, 5.5)}
        half = 0.25 if value < 5 else 0.5
    elif row is RowId.ENERGY_KCAL:
        special = {50.0: (47.5, 55.0)}
        half = 2.5 if value < 50 else 5.0
    elif row is RowId.SODIUM:
        special = {5.0: (5.0, 7.5), 140.0: (137.5, 145.0)}
        half = 2.5 if value < 140 else 5.0
    else:
        special = {}
        half = {RowId.CHOLESTEROL: 2.5, RowId.CALCIUM: 5.0, RowId.IRON: 0.05, RowId.POTASSIUM: 5.0}.get(row, 0.5)
    low, high = special.get(value, (value - half, value + half))
    return Interval(low, high)


def _is_us_step(row: RowId, value: float) -> bool:
    return abs(value / us_step(row, value) - round(value / us_step(row, value))) < 1e-6


def us_step(row: RowId, value: float) -> float:
    """The step a US label rounds to near a value, in the row's unit.

    Args:
        value: 0 or more.

    Source: 21 CFR 101.9(c).
    """
    if row in _FATS:
        return 0.5 if value < 5 else 1.0
    if row is RowId.ENERGY_KCAL:
        return 5.0 if value <= 50 else 10.0
    if row is RowId.SODIUM:
        return 5.0 if value <= 140 else 10.0
    return {RowId.CHOLESTEROL: 5.0, RowId.CALCIUM: 10.0, RowId.IRON: 0.1, RowId.POTASSIUM: 10.0}.get(row, 1.0)
