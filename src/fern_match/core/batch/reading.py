"""A batch plan as read: its figures, and the batch where it can be computed, weighed out within its version's rules."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace

from fern_match.core.adapt import holding, limits_held
from fern_match.core.batch.asked import Asked, Dip, read_cells, read_pieces
from fern_match.core.batch.cautions import Caution
from fern_match.core.batch.coats import Tempering, tempering
from fern_match.core.batch.day import of_the_day
from fern_match.core.batch.lots import LotCells, Lots, lots_of, lots_words, read_lots, too_many, with_lots
from fern_match.core.batch.packs import Packs, in_packs, read_packs
from fern_match.core.batch.plan import BatchPlan
from fern_match.core.batch.portion import SAME, NoPortion, Portions, portioned
from fern_match.core.batch.premix import Premix, left_of
from fern_match.core.batch.scale import MOST_LEFT_ON_TOOLS, Batch, BatchIngredient, scaled, with_more
from fern_match.core.batch.stock import Stock, stock
from fern_match.core.batch.until import SetOut, read_left_over, set_out
from fern_match.core.batch.weighing_out import WeighedOut, off_g, weighed_out
from fern_match.core.batch.wrapping import Wrapping, wrapping_of
from fern_match.core.food.together import Allergens, together
from fern_match.core.formulate import FormulaLayer, Overview, overview_of
from fern_match.core.kitchen import KitchenReading, Tool
from fern_match.core.measures import Typed, read_ingredient, read_percent
from fern_match.core.measures.pieces import USUAL_PIECES
from fern_match.core.measures.units import GRAMS_PER_OUNCE
from fern_match.core.study.reading import StudyReading

MOST_OFF_RATIO = 0.10  # of a layer's two main lines, measured in spoons
NEEDS_A_SCALE = "No spoon or cup is near it: this line needs a scale."


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchReading:
    """A batch plan as read, with the batch where it can be computed."""

    plan: BatchPlan
    cells: Mapping[str, Typed]  # what was typed for how much and in what, by field
    left_on_tools: Mapping[str, Typed]
    in_house: Mapping[str, Typed]
    left_over: Mapping[str, Typed]
    set_out: Mapping[str, SetOut]  # by layer: what is worked in until it holds
    portions: Portions | None
    waits: str  # what is still to say before there is a batch; empty where nothing is
    problem: str  # why there is no batch in that gear; empty where there is one, or where something is still to say
    usual_cut: tuple[float, float] | None  # length and width [mm] where nothing is typed; None where nobody measured a piece
    batch: Batch | None
    seen: Overview  # of a piece as it comes out
    broken: tuple[str, ...]  # what of its version's rules a piece as it comes out breaks
    stock: Stock | None
    packs: Packs | None
    dip: str  # how much coat stands in the bowl, and what is left of it; empty where nothing is dipped
    premixes: tuple[Premix, ...]  # what is mixed once for several lines of the batch
    weighed: str  # what weighing out does to the targets; empty without a batch
    today: tuple[Caution, ...]  # what this room does to it
    coats: frozenset[str]  # ids of layers that go round the others
    wrapping: Wrapping | None  # None without a batch
    lot_cells: Mapping[str, LotCells]  # by lot
    lots: Lots | None  # how the pieces are made; None without a batch
    lots_words: str  # what to do with the bowl, or why the lots wait; empty where all pieces are alike

    @property
    def allergens(self) -> Allergens:
        """Of everything that is made: of all lots together where there are some."""
        made = self.lots.made if self.lots is not None else ()
        return together([one.own for one in made]) if made else self.seen.allergens

    @property
    def to_say(self) -> tuple[str, ...]:
        """What must be said to whoever gets a piece, of any lot."""
        made = self.lots.made if self.lots is not None else ()
        return tuple(dict.fromkeys(said for view in (*(one.seen for one in made), self.seen) for said in view.to_say))

    def is_coat(self, layer: FormulaLayer) -> bool:
        """Whether a layer goes round the others."""
        return layer.layer_id in self.coats


def read_batch(plan: BatchPlan, seen: Overview, reading: StudyReading, kitchen: KitchenReading) -> BatchReading:
    """A plan's figures as read and, once it is known how much, its batch; a share that was not read counts as usual.

    Args:
        seen: The plan's version from all sides.
        reading: The study, with compositions and families.
        kitchen: Its scale, spoons, height, thermometer and gear.
    """
    pantry, comma, measures = reading.pantry, reading.comma, kitchen.kitchen.measures
    losses = {key: read_percent(typed, most=100 * MOST_LEFT_ON_TOOLS, comma=comma) for key, typed in plan.left_on_tools.items()}
    in_house = {
        key: read_ingredient(typed, pantry[key], measures=measures, comma=comma, zero=True)
        if key in pantry
        else Typed(typed, None, "g", f"The pantry holds no “{key}”, so this was not read.")
        for key, typed in plan.in_house.items()
    }
    shares = {key: typed.value / 100 for key, typed in losses.items() if typed.value is not None}
    asked = Asked(plan, read_cells(plan, reading, kitchen), seen.formula, reading, kitchen, shares, in_house)
    portions, waits, problem, batch, weighed, dip, out, lots = None, "", "", None, "", Dip({}, ""), seen, None
    mixes: tuple[Premix, ...] = ()
    lot_cells, bowl = read_lots(plan, reading), ""
    try:
        waits, dip = asked.waits(), asked.dip()
        portions = asked.portions(dip)
        if portions is not None:
            out = as_it_comes_out(seen, portions, reading)
            lots = lots_of(plan, out, portions.pieces, lot_cells, reading)
            bowl = too_many(plan, lot_cells, portions.pieces) or lots_words(lots)
            piece = replace(out, formula=lots.average, targets=()) if lots.made else out
            batch, found = batch_of(
                piece,
                portions.pieces,
                shares,
                reading,
                kitchen,
                trimmed=portions.trimmed,
                spare_g=dip.spare_g,
                held=not lots.made,
            )
            batch = with_lots(batch, lots, out.formula, reading.pantry)
            weighed = found.words if piece is seen else ""
            mixes = found.premixes
            batch = with_more(batch, left_of(mixes))
    except NoPortion as refused:
        portions, waits, problem, lots = None, "", str(refused), None
    coats = frozenset(one.layer_id for one in seen.formula.layers if asked.piece.is_coat(one))
    rolled = asked.rolled if portions is not None and portions.ball is not None else frozenset()
    left_over = read_left_over(plan.left_over, seen.formula, rolled, reading, kitchen)
    stocked = stock(batch, in_house) if batch is not None else None
    usual = asked.usual_cut
    return BatchReading(
        plan=plan,
        cells=asked.cells,
        left_on_tools=losses,
        in_house=in_house,
        left_over=left_over,
        set_out=set_out(batch, rolled, left_over) if batch is not None else {},
        portions=portions,
        waits=waits,
        problem=problem,
        usual_cut=usual[:2] if usual is not None else None,
        batch=batch,
        seen=out,
        broken=_broken(out, lots, reading) if batch is not None else (),
        stock=stocked,
        packs=in_packs(batch, stocked, read_packs(kitchen, pantry)) if batch is not None else None,
        dip=dip.words,
        premixes=mixes if batch is not None else (),
        weighed=weighed,
        today=_of_the_day(batch, coats, asked) if batch is not None else (),
        coats=coats,
        wrapping=_wrapped(plan, portions, lots, reading, kitchen),
        lot_cells=lot_cells,
        lots=lots if batch is not None else None,
        lots_words=bowl if batch is not None else "",
    )


def _wrapped(
    plan: BatchPlan, portions: Portions | None, lots: Lots | None, reading: StudyReading, kitchen: KitchenReading
) -> Wrapping | None:
    if portions is None:
        return None
    chosen = [one for one in kitchen.wraps if one.wrap.id in plan.wrapped_in]
    pans = portions.cut.pans if portions.cut is not None else 1
    as_measured = portions.cavity is None and all(abs(one - 1) <= SAME for one in portions.factors.values())
    own_cut = bool(plan.cut_length.strip() or plan.cut_width.strip()) and portions.cut is not None
    box = reading.size.box_mm if as_measured and not own_cut else None
    return wrapping_of(chosen, portions.pieces, lots, pans, box)


def as_it_comes_out(seen: Overview, portions: Portions, reading: StudyReading) -> Overview:
    """A version as its gear makes it: the same where no layer changes, else from all sides anew, held to none of its weights.

    Args:
        seen: The version.
        portions: What its gear makes of it.
        reading: The study, with compositions and families.
    """
    if all(abs(one - 1) <= SAME for one in portions.factors.values()):
        return seen
    return replace(overview_of(seen.version, portioned(seen.formula, portions.factors), reading), targets=())


def _broken(seen: Overview, lots: Lots | None, reading: StudyReading) -> tuple[str, ...]:
    of_all = tuple(said for rule in holding(seen.version, seen.formula, reading) for said in rule.broken)
    made = lots.made if lots is not None else ()
    return (*of_all, *(f"{one.name}: {said}" for one in made for said in one.broken if said not in of_all))


def _of_the_day(batch: Batch, coats: frozenset[str], asked: Asked) -> tuple[Caution, ...]:
    layers, pantry, humidity = asked.formula.layers, asked.reading.pantry, asked.cells["humidity"].value
    tempered = [one.name for one in layers if one.layer_id in coats and tempering(one, pantry)[0] is not Tempering.NEEDLESS]
    inside = [one for one in batch.layers if one.layer_id not in coats]
    share = humidity / 100 if humidity is not None else None
    return of_the_day(inside, tempered, asked.reading.families, asked.cells["room"].value, share)


def batch_of(
    seen: Overview,
    pieces: int,
    left_on_tools: Mapping[str, float],
    reading: StudyReading,
    kitchen: KitchenReading,
    *,
    by_spoons: bool | None = None,
    trimmed: Mapping[str, float] | None = None,
    spare_g: Mapping[str, float] | None = None,
    held: bool = True,
) -> tuple[Batch, WeighedOut]:
    """A version's batch, and how it is measured out in this kitchen, within the rules that the version was adapted under.

    Args:
        seen: The version from all sides.
        pieces: 1 to 10,000.
        left_on_tools: Layer id -> share that stays on tools [g/g]; the usual one elsewhere.
        reading: The study, with compositions and families.
        kitchen: Its scale, spoons, height and thermometer.
        by_spoons: Whether it is measured in spoons and cups; where None, whether the kitchen has no scale.
        trimmed: Layer id -> share of what leaves the tools that is cut away [g/g].
        spare_g: Layer id -> what is to be left in the bowl after the last piece [g].
        held: Whether its rules bind what is weighed out: not the mean of lots, each of which is held to them by itself.

    Raises:
        OutOfRange: pieces or a share is outside.
    """
    without_scale = kitchen.lacks(Tool.SCALE) if by_spoons is None else by_spoons
    step = None if without_scale else kitchen.scale_step_g
    formula = seen.formula
    batch = scaled(
        formula,
        pieces,
        left_on_tools,
        reading.pantry,
        reading.families,
        trimmed=trimmed,
        spare_g=spare_g,
        scale_step_g=kitchen.scale_step_g,
        measures=kitchen.kitchen.measures,
        boiling_reading_c=kitchen.boils_at_reading_c,
    )
    limits = limits_held(seen.version, formula, reading, off_g(formula, pieces, step)) if held else ()
    out = weighed_out(batch, formula, seen.targets, reading, scale_step_g=step, measures=kitchen.kitchen.measures, limits=limits)
    return (batch if by_spoons else _with_weights(batch, out, without_scale)), out


def pieces_of(plans: Collection[BatchPlan], version_id: str, reading: StudyReading) -> int:
    """For how many pieces a version is measured out: what its first batch that says so wants, else what is usual."""
    for plan in plans:
        if plan.version == version_id:
            found = read_pieces(plan.pieces, reading.comma).value
            if found is not None:
                return int(found)
    return USUAL_PIECES


def _with_weights(batch: Batch, out: WeighedOut, without_scale: bool) -> Batch:
    """A batch with its lines as they are weighed out, or measured where there is no scale."""
    lines = iter(out.lines)
    layers = []
    for layer in batch.layers:
        weighed = []
        for one in layer.ingredients:
            line = next(lines)
            ounces = line.measured_g / GRAMS_PER_OUNCE
            words = line.words if without_scale else ""
            note = one.note if not without_scale else NEEDS_A_SCALE if words.endswith(" g") else ""
            if line.dilution:
                note = ""  # it says already what to do
            weighed.append(
                replace(one, weigh_out_g=line.measured_g, weigh_out_oz=ounces, dilution=line.dilution, measured=words, note=note)
            )
        layers.append(replace(layer, ingredients=_told_off(tuple(weighed)) if without_scale else tuple(weighed)))
    return replace(batch, layers=tuple(layers))


def _told_off(lines: tuple[BatchIngredient, ...]) -> tuple[BatchIngredient, ...]:
    """Lines as spoons give them: where the two main ones are further from their ratio than a family bears, the one that needs a
    scale says so."""
    main = sorted((one for one in lines if one.grams > 0 and not one.unread), key=lambda one: -one.grams)[:2]
    off = [one.weigh_out_g / one.grams for one in main]
    if not off or max(off) / min(off) - 1 <= MOST_OFF_RATIO:
        return lines
    worse = max(main, key=lambda one: abs(one.weigh_out_g / one.grams - 1))
    said = f"{worse.weigh_out_g / worse.grams - 1:+.0%} by spoons: this line needs a scale.".replace("-", "−").replace("%", " %")
    return tuple(replace(one, note=f"{one.note} {said}".strip()) if one is worse else one for one in lines)
