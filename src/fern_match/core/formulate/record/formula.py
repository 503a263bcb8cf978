"""A version as read: every amount in grams, what was not read left out and said.

Worked example: 6.0 g sugar and 4.0 g cream, 2.0 g of water driven off: the layer weighs 8.0 g when finished.
"""

from dataclasses import dataclass
from typing import ClassVar

from fern_match.core.food import Pantry
from fern_match.core.formulate.record.version import Version, VersionIngredient, VersionLayer
from fern_match.core.measures import Comma, Measures, Typed, read_grams, read_ingredient, read_percent

_GROUP = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class FormulaIngredient:
    """One ingredient of a layer, as added, for one piece."""

    ingredient_id: str
    name: str
    role: str
    grams: float
    locked: bool = False
    least_g: float = 0.0  # solving gives no less
    part: float | None = None  # of a fixed ratio
    line_id: str = ""  # of the version's line; empty of one that is not written yet
    unread: bool = False  # how much of it is open, or was not read

    @property
    def there(self) -> bool:
        """Whether it is in the piece, however much of it: what is open or unread is not nothing."""
        return self.unread or self.grams > 0


@dataclass(frozen=True, slots=True, kw_only=True)
class FormulaLayer:
    """One layer of one piece [g]: sum of ingredients - water lost = finished."""

    layer_id: str
    name: str
    family: str
    water_lost_g: float
    ingredients: tuple[FormulaIngredient, ...]

    @property
    def added_g(self) -> float:
        """All that goes into the bowl for one piece [g]."""
        return sum(ingredient.grams for ingredient in self.ingredients)

    @property
    def finished_g(self) -> float:
        """What the layer weighs in one finished piece [g]; never below 0."""
        return max(0.0, self.added_g - self.water_lost_g)


@dataclass(frozen=True, slots=True, kw_only=True)
class FormulaProblem:
    """Something of a version that was not read, or cannot be."""

    AMOUNT: ClassVar = "amount"
    HOLD: ClassVar = "hold"  # a least amount, or a part of a ratio
    WATER: ClassVar = "water"
    UNKNOWN: ClassVar = "unknown"  # an ingredient that the pantry does not hold

    layer_id: str
    line_id: str  # empty where it is of the whole layer
    field: str
    said: str  # beside the field
    sentence: str  # by itself, with where it is


@dataclass(frozen=True, slots=True, kw_only=True)
class Formula:
    """A version in grams, for one piece."""

    name: str
    layers: tuple[FormulaLayer, ...]
    problems: tuple[FormulaProblem, ...] = ()  # what was not read

    @property
    def piece_g(self) -> float:
        """Mass of one finished piece [g]."""
        return sum(layer.finished_g for layer in self.layers)


def read_version(
    version: Version, pantry: Pantry, *, measures: Measures = Measures.METRIC, comma: Comma = Comma.DECIMAL
) -> Formula:
    """A version with its amounts read; an amount that was not read counts as nothing, and is said.

    Args:
        pantry: For densities, where an amount is in spoons or pieces.
        comma: What a comma means in its amounts.
    """
    problems: list[FormulaProblem] = []
    layers = tuple(_layer(layer, pantry, measures, comma, problems) for layer in version.layers)
    return Formula(name=version.name, layers=layers, problems=tuple(problems))


def _layer(layer: VersionLayer, pantry: Pantry, measures: Measures, comma: Comma, problems: list[FormulaProblem]) -> FormulaLayer:
    def note(line: VersionIngredient | None, field: str, said: str | None, where: str) -> None:
        if said:
            sentence = f"{layer.name}, {where}: {said}" if where else f"{layer.name}: {said}"
            key = line.id if line is not None else ""
            problems.append(FormulaProblem(layer_id=layer.id, line_id=key, field=field, said=said, sentence=sentence))

    lines = []
    for line in layer.ingredients:
        amount = _amount(line, line.amount, pantry, measures, comma)
        least, part = _amount(line, line.least, pantry, measures, comma), _part(line, comma)
        note(line, FormulaProblem.AMOUNT, amount.problem, line.name)
        note(line, FormulaProblem.HOLD, least.problem or part.problem, line.name)
        if line.ingredient not in pantry:
            note(line, FormulaProblem.UNKNOWN, "it is not in the pantry, so nothing but its weight is known.", line.name)
        lines.append(
            FormulaIngredient(
                ingredient_id=line.ingredient,
                name=line.name,
                role=line.role,
                grams=amount.value or 0.0,
                locked=line.locked,
                least_g=least.value or 0.0,
                part=part.value,
                line_id=line.id,
                unread=amount.value is None,
            )
        )
    lost = read_grams(layer.water_lost, comma=comma, zero=True)
    note(None, FormulaProblem.WATER, lost.problem, "water driven off")
    found = FormulaLayer(
        layer_id=layer.id, name=layer.name, family=layer.family, water_lost_g=lost.value or 0.0, ingredients=tuple(lines)
    )
    if found.water_lost_g > found.added_g:
        said = f"{found.water_lost_g:g} g of water cannot leave {found.added_g:g} g. Check the water driven off."
        note(None, FormulaProblem.WATER, said, "")
    return found


def _amount(line: VersionIngredient, typed: str, pantry: Pantry, measures: Measures, comma: Comma) -> Typed:
    """An amount of a line, in any unit: as it is, or at least."""
    if line.ingredient in pantry:
        return read_ingredient(typed, pantry[line.ingredient], measures=measures, comma=comma, zero=True)
    return read_grams(typed, comma=comma, zero=True)


def _part(line: VersionIngredient, comma: Comma) -> Typed:
    """A part of a ratio: a plain figure above 0."""
    found = read_percent(line.part, most=1000.0, comma=comma)
    problem = "A part is a figure such as 2, as in 2 : 1 : 3."
    return Typed(line.part, None, "", problem) if found.problem or found.value == 0 else found


def written_grams(grams: float) -> str:
    """A computed weight as a field holds it: to a millionth of a gram, read the same in every region.

    Args:
        grams: 0 or more [g].

    >>> written_grams(6.3512), written_grams(0.0), written_grams(13.321)
    ('6.3512 g', '0 g', '13.3210 g')
    """
    text = f"{grams:.6f}".rstrip("0").rstrip(".")
    if len(text.partition(".")[2]) == _GROUP:
        text += "0"  # three decimals alone could be a group of thousands
    return f"{text} g"
