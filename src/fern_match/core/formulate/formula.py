"""A version as read: every amount in grams, what was not read left out and said.

Worked example: 6.0 g sugar and 4.0 g cream, 2.0 g of water driven off: the layer weighs 8.0 g when finished.
"""

from dataclasses import dataclass

from fern_match.core.food import Pantry
from fern_match.core.formulate.version import Version, VersionIngredient, VersionLayer
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
class Formula:
    """A version in grams, for one piece."""

    name: str
    layers: tuple[FormulaLayer, ...]
    problems: tuple[str, ...] = ()  # what was not read, as sentences

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
    problems: list[str] = []
    layers = tuple(_layer(layer, pantry, measures, comma, problems) for layer in version.layers)
    return Formula(name=version.name, layers=layers, problems=tuple(problems))


def _layer(layer: VersionLayer, pantry: Pantry, measures: Measures, comma: Comma, problems: list[str]) -> FormulaLayer:
    lines = []
    for line in layer.ingredients:
        amount = _amount(line, pantry, measures, comma)
        if amount.problem:
            problems.append(f"{layer.name}, {line.name}: {amount.problem}")
        least, part = read_grams(line.least, comma=comma, zero=True), _part(line, comma)
        problems += [f"{layer.name}, {line.name}: {field.problem}" for field in (least, part) if field.problem]
        lines.append(
            FormulaIngredient(
                ingredient_id=line.ingredient,
                name=line.name,
                role=line.role,
                grams=amount.value or 0.0,
                locked=line.locked,
                least_g=least.value or 0.0,
                part=part.value,
            )
        )
    lost = read_grams(layer.water_lost, comma=comma, zero=True)
    if lost.problem:
        problems.append(f"{layer.name}, water driven off: {lost.problem}")
    found = FormulaLayer(
        layer_id=layer.id, name=layer.name, family=layer.family, water_lost_g=lost.value or 0.0, ingredients=tuple(lines)
    )
    if found.water_lost_g > found.added_g:
        problems.append(
            f"{layer.name}: {found.water_lost_g:g} g of water cannot leave {found.added_g:g} g. Check the water driven off."
        )
    return found


def _amount(line: VersionIngredient, pantry: Pantry, measures: Measures, comma: Comma) -> Typed:
    if line.ingredient in pantry:
        return read_ingredient(line.amount, pantry[line.ingredient], measures=measures, comma=comma, zero=True)
    return read_grams(line.amount, comma=comma, zero=True)


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
