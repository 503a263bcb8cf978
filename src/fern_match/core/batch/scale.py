"""A version scaled to a number of pieces.

Worked example: 24 pieces with 8 g of caramel each need 192 g; 3.5 % stays on pan and spatula, so 192 / 0.965 = 198.96 g are
made; of 100 g as added 20 g boil off, so 198.96 / 0.80 = 248.70 g go into the pan and 49.74 g leave it as steam.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from fern_match.core.errors import check_range
from fern_match.core.families import Families, Family
from fern_match.core.food import Ingredient, Pantry
from fern_match.core.food.together import Allergens, allergens_of
from fern_match.core.formulate import Formula, FormulaIngredient, FormulaLayer, WeightEnd, cook_end
from fern_match.core.kitchen import USUAL_SCALE_STEP_G
from fern_match.core.measures.pieces import CUT_TO_SIZE, MOST_PIECES, counted
from fern_match.core.measures.shown import TemperatureUnit, shown_temperature
from fern_match.core.measures.units import GRAMS_PER_OUNCE
from fern_match.core.measures.volumes import Measures, Scooped, scooped
from fern_match.core.physics.boiling import READS_AT_SEA_LEVEL_C, reading_for

MOST_LEFT_ON_TOOLS = 0.5
BY_THE_PIECE = frozenset({"whole-nuts", "whole-fruit"})  # families of what goes in whole, so many to a piece
_UNEVEN = 0.25  # from one fruit or nut to the next (approximate)
_MOST_TRIMMED = 0.95
_SAME_SCOOP = 0.02  # relative: so little more is no other spoon
WELL = 10  # steps of a scale from which an amount is weighed well
_LEFT_BY_UNKNOWN = 0.03  # of a family that no table knows (approximate, as a pan and a spatula)


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchIngredient:
    """One line to weigh out for one layer."""

    line_id: str
    ingredient_id: str
    name: str
    role: str
    grams: float  # exact
    weigh_out_g: float  # as weighed out, all lines chosen together; exact until it is weighed out
    weigh_out_oz: float  # the same in ounces
    dilution: str  # how to measure what is too little for the scale; else empty
    scale_error_g: float  # half a step either way
    below_scale: bool  # less than ten steps of the scale
    scooped: Scooped | None  # the same in pieces, spoons or cups; None where that makes no sense
    each: str  # where it goes in by the piece: "1 each", "2 each"; else empty
    measured: str  # in a kitchen without a scale: how it is measured; else empty
    note: str  # what it takes to measure it, where scale or spoons do not do; else empty
    unread: bool  # its amount is open or was not read: no figure of it says anything


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatHere:
    """A boil that ends at a temperature [degC]: as recipes give it at sea level, and as this thermometer shows it here."""

    sea_level_c: float
    low_c: float
    aim_c: float
    high_c: float
    usual_c: float  # of its kind, with the usual water
    water: float | None = None  # that the version keeps [g/g]; None where it is the usual, or not known
    usual_water: float | None = None  # of its kind [g/g]
    rise: float = 1.0  # how its boiling point rises beside that of a clear syrup of the same sugars and water
    by: Literal["heat"] = "heat"


@dataclass(frozen=True, slots=True, kw_only=True)
class WeightHere:
    """A boil that ends when what is in the pan weighs so much [g], pan apart."""

    pan_g: float
    left: float  # of what went into the pan [g/g]
    apart: tuple[str, ...]  # names of what comes in after the boil
    by: Literal["weight"] = "weight"


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchLayer:
    """One layer of a batch [g]: added - water lost = made; made - left on tools - trimmed - spare = needed."""

    layer_id: str
    name: str
    family: str
    heated: bool
    boiled: bool  # from a syrup
    per_piece_g: float
    needed_g: float
    left_on_tools: float  # share of what is made [g/g]
    left_on_tools_g: float
    trimmed_g: float  # trimmings and offcuts of a slab
    spare_g: float  # left in the bowl after the last piece was dipped
    made_g: float
    water_lost_g: float
    added_g: float
    cook_end: HeatHere | WeightHere | None  # of a boiled layer
    ingredients: tuple[BatchIngredient, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class ShoppingLine:
    """One ingredient over all layers."""

    ingredient_id: str
    name: str
    grams: float
    ounces: float
    scooped: Scooped | None
    allergens: tuple[str, ...]
    allergens_known: bool  # else there may be others
    fixed_g: float = 0.0  # of it, however many pieces are made: what is left of a dip
    uses: tuple[str, ...] = ()  # names of the layers it goes into, where they are several
    unread: bool = False  # of some of it the amount is open or was not read


@dataclass(frozen=True, slots=True, kw_only=True)
class Batch:
    """All there is to weigh out."""

    pieces: int
    piece_g: float
    finished_g: float
    layers: tuple[BatchLayer, ...]
    shopping: tuple[ShoppingLine, ...]
    allergens: Allergens
    unknown: tuple[str, ...]  # names of ingredients and families that no table knows


def scaled(
    formula: Formula,
    pieces: int,
    left_on_tools: Mapping[str, float],
    pantry: Pantry,
    families: Families,
    *,
    trimmed: Mapping[str, float] | None = None,
    spare_g: Mapping[str, float] | None = None,
    scale_step_g: float = USUAL_SCALE_STEP_G,
    measures: Measures = Measures.METRIC,
    boiling_reading_c: float = READS_AT_SEA_LEVEL_C,
) -> Batch:
    """The batch that gives so many finished pieces.

    Args:
        pieces: 1 to 10,000.
        left_on_tools: Layer id -> share of what is made that stays on pan, bowl and tools [g/g], 0 to 0.5; a layer without an
            entry takes its family's usual share.
        pantry: For allergens and densities; an ingredient it lacks is said among the unknown.
        trimmed: Layer id -> share of what leaves the tools that is cut away [g/g], 0 up to 1; none elsewhere.
        spare_g: Layer id -> what is to be left in the bowl after the last piece [g]; nothing elsewhere.
        families: For usual losses and end temperatures; of a family it lacks 3 % stays on tools.
        scale_step_g: The scale's step [g], 0.001 to 50.
        measures: Whose spoons and cups stand beside the grams.
        boiling_reading_c: What the thermometer reads in boiling water [degC], 75 to 110.

    Raises:
        OutOfRange: pieces, a share, the step or the reading is outside.

    Source: arithmetic of the module's worked example; usual shares from data/traits.csv (approximate).
    """
    check_range("pieces", pieces, 1, MOST_PIECES)
    check_range("scale step", scale_step_g, 0.001, 50.0, unit="g")
    tools = _Tools(pantry, families, scale_step_g, measures, boiling_reading_c)
    away, over = trimmed or {}, spare_g or {}
    layers = tuple(
        _layer(
            layer,
            pieces,
            _Losses(left_on_tools.get(layer.layer_id), away.get(layer.layer_id, 0.0), over.get(layer.layer_id, 0.0)),
            tools,
        )
        for layer in formula.layers
    )
    shopping = _shopping(layers, tools)
    strangers = [line.name for line in shopping if line.ingredient_id not in pantry]
    return Batch(
        pieces=pieces,
        piece_g=formula.piece_g,
        finished_g=formula.piece_g * pieces,
        layers=layers,
        shopping=shopping,
        allergens=allergens_of((pantry[line.ingredient_id] for line in shopping if line.ingredient_id in pantry), strangers),
        unknown=(
            *strangers,
            *(f"{layer.name} ({layer.family})" for layer in layers if layer.family not in families),
        ),
    )


def with_more(batch: Batch, more: Mapping[str, float]) -> Batch:
    """A batch whose shopping list also has what stays over, however many pieces are made.

    Worked example: 0.3 g of stevia are taken and 1 g is weighed for its mix: 1 g is bought, 0.7 g of it for no piece.

    Args:
        batch: As scaled.
        more: Ingredient -> how much stays over [g].
    """

    def bought(line: ShoppingLine) -> ShoppingLine:
        over = more.get(line.ingredient_id, 0.0)
        grams = line.grams + over
        scooped = line.scooped if over <= _SAME_SCOOP * line.grams else None
        return replace(line, grams=grams, ounces=grams / GRAMS_PER_OUNCE, scooped=scooped, fixed_g=line.fixed_g + over)

    lines = sorted((bought(line) for line in batch.shopping), key=lambda line: -line.grams)
    return replace(batch, shopping=tuple(lines)) if any(more.values()) else batch


@dataclass(frozen=True, slots=True)
class _Tools:
    """What amounts are weighed and scooped with."""

    pantry: Pantry
    families: Families
    scale_step_g: float
    measures: Measures
    boiling_reading_c: float


@dataclass(frozen=True, slots=True)
class _Losses:
    """Where a layer goes that is not in the pieces."""

    own_share: float | None  # on tools, where the user said so
    trimmed: float
    spare_g: float


def _layer(layer: FormulaLayer, pieces: int, losses: _Losses, tools: _Tools) -> BatchLayer:
    kind = tools.families.by_id.get(layer.family)
    usual = kind.traits.left_on_tools if kind is not None else _LEFT_BY_UNKNOWN
    share = usual if losses.own_share is None else losses.own_share
    check_range("left on tools", share, 0.0, MOST_LEFT_ON_TOOLS)
    check_range("trimmed", losses.trimmed, 0.0, _MOST_TRIMMED)
    needed = layer.finished_g * pieces
    laid = needed / (1 - losses.trimmed)
    spare = losses.spare_g if layer.finished_g > 0 else 0.0
    made = laid / (1 - share) + spare
    scale = made / layer.finished_g if layer.finished_g > 0 else 0.0
    return BatchLayer(
        layer_id=layer.layer_id,
        name=layer.name,
        family=layer.family,
        heated=kind is not None and kind.heated,
        boiled=kind is not None and kind.heated and kind.traits.boiled,
        per_piece_g=layer.finished_g,
        needed_g=needed,
        left_on_tools=share,
        left_on_tools_g=made - spare - laid,
        trimmed_g=laid - needed,
        spare_g=spare,
        made_g=made,
        water_lost_g=layer.water_lost_g * scale,
        added_g=layer.added_g * scale,
        cook_end=_cook_end(layer, kind, layer.added_g * scale, tools),
        ingredients=tuple(_ingredient(one, one.grams * scale, layer.family, tools) for one in layer.ingredients),
    )


def _cook_end(layer: FormulaLayer, kind: Family | None, added_g: float, tools: _Tools) -> HeatHere | WeightHere | None:
    end = cook_end(layer, kind, tools.pantry)
    if isinstance(end, WeightEnd):
        return WeightHere(pan_g=end.pan * end.left * added_g, left=end.left, apart=end.apart)
    if end is None:
        return None
    low, aim, high, usual = (reading_for(one, tools.boiling_reading_c) for one in (end.low_c, end.aim_c, end.high_c, end.usual_c))
    return HeatHere(
        sea_level_c=end.aim_c,
        low_c=low,
        aim_c=aim,
        high_c=high,
        usual_c=usual,
        water=end.water,
        usual_water=end.usual_water,
        rise=end.rise,
    )


def own_end_words(end: HeatHere | WeightHere | None, unit: TemperatureUnit) -> str:
    """Why a boil does not end where its kind usually does, or why it should; empty where it ends as usual.

    Args:
        end: As this thermometer shows it here.
        unit: To say temperatures in.
    """
    if not isinstance(end, HeatHere) or end.water is None or end.usual_water is None:
        return ""
    water, usual = (round(200 * one) / 2 for one in (end.water, end.usual_water))
    if end.aim_c == end.usual_c:
        other = "less" if water > usual else "more"
        return (
            f"The version keeps {water:g} % of water, its kind about {usual:g} %: cooked to the usual end it weighs {other} than "
            "planned. Change the water driven off, or the recipe."
        )
    side = "below" if end.aim_c < end.usual_c else "above"
    kind = shown_temperature(end.usual_c, unit)
    return f"It is to keep {water:g} % of water, its kind about {usual:g} %: so it ends {side} the usual {kind}."


def _ingredient(one: FormulaIngredient, grams: float, family: str, tools: _Tools) -> BatchIngredient:
    step = tools.scale_step_g
    below = 0 < grams < WELL * step
    by_spoon = _scooped(one.ingredient_id, grams, tools)
    unscooped = by_spoon is None and grams > 0 and one.ingredient_id in tools.pantry
    notes = (
        ("How much is not known.", one.unread),
        ("Needs a finer scale.", below),
        ("No spoon is near it.", unscooped),
    )
    return BatchIngredient(
        line_id=one.line_id,
        ingredient_id=one.ingredient_id,
        name=one.name,
        role=one.role,
        grams=grams,
        weigh_out_g=grams,
        weigh_out_oz=grams / GRAMS_PER_OUNCE,
        dilution="",
        each=each_words(one, family, tools.pantry),
        measured="",
        scale_error_g=step / 2,
        below_scale=below,
        scooped=by_spoon,
        note=" ".join(words for words, said in notes if said),
        unread=one.unread,
    )


def each_words(one: FormulaIngredient, family: str, pantry: Pantry) -> str:
    """How many whole ones go into a piece, where it goes in by the piece; else empty.

    Args:
        one: Of a piece.
        family: Of its layer.
        pantry: For what one weighs.
    """
    food = pantry.by_id.get(one.ingredient_id)
    if family not in BY_THE_PIECE or food is None or not food.piece_g:
        return ""
    count = one.grams / food.piece_g
    return f"{round(count)} each" if round(count) >= 1 and abs(count / round(count) - 1) <= _UNEVEN else ""


def in_pieces(food: Ingredient, grams: float, measures: Measures) -> Scooped | None:
    """An amount in whole pieces of a food; None where it does not come in pieces, or is not near any number of them.

    Args:
        food: Of the pantry.
        grams: Above 0.
        measures: Whose: sticks and the like are cut to size in the US only.
    """
    if food.piece_g is None or food.piece_name is None or (food.piece_name in CUT_TO_SIZE and measures is not Measures.US):
        return None
    return counted(grams, food.piece_g, food.piece_name)


def _scooped(ingredient_id: str, grams: float, tools: _Tools) -> Scooped | None:
    """In pieces where the pantry knows one and they can be counted, else in spoons or cups."""
    if ingredient_id not in tools.pantry or grams <= 0:
        return None
    food = tools.pantry[ingredient_id]
    pieces = in_pieces(food, grams, tools.measures)
    if pieces is not None:
        return pieces
    return scooped(grams, food.density_g_ml, tools.measures, pours=food.pours) if food.density_g_ml else None


def _shopping(layers: tuple[BatchLayer, ...], tools: _Tools) -> tuple[ShoppingLine, ...]:
    totals: dict[str, float] = {}
    names: dict[str, str] = {}
    unread: set[str] = set()
    uses: dict[str, dict[str, None]] = {}
    fixed: dict[str, float] = {}
    for layer in layers:
        for one in layer.ingredients:
            uses.setdefault(one.ingredient_id, {})[layer.name] = None
            totals[one.ingredient_id] = totals.get(one.ingredient_id, 0.0) + one.grams
            of_spare = one.grams * layer.spare_g / layer.made_g if layer.made_g > 0 else 0.0
            fixed[one.ingredient_id] = fixed.get(one.ingredient_id, 0.0) + of_spare
            names.setdefault(one.ingredient_id, one.name)
            if one.unread:
                unread.add(one.ingredient_id)
    return tuple(
        ShoppingLine(
            ingredient_id=key,
            name=tools.pantry[key].name if key in tools.pantry else names[key],
            grams=grams,
            ounces=grams / GRAMS_PER_OUNCE,
            scooped=_scooped(key, grams, tools),
            allergens=tools.pantry[key].allergens if key in tools.pantry else (),
            allergens_known=key in tools.pantry and tools.pantry[key].allergens_known,
            fixed_g=fixed[key],
            uses=tuple(uses[key]) if len(uses[key]) > 1 else (),
            unread=key in unread,
        )
        for key, grams in sorted(totals.items(), key=lambda entry: -entry[1])
    )
