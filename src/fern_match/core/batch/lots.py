"""Lots of one bowl: pieces made otherwise than the rest, each with its count, its mark and its allergens.

Worked example: 24 pieces of 20 g with 4 g of hazelnuts each; a lot of 8 goes without. The bowl takes 16 x 4 = 64 g of nuts; the
lot's pieces weigh 16 g, and since they come from the bowl that the others come from, they may hold traces of hazelnut.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from fern_match.core.adapt import holding
from fern_match.core.batch.plan import LEFT_OUT, BatchPlan, Lot
from fern_match.core.batch.scale import Batch, each_words
from fern_match.core.food import Ingredient, Pantry
from fern_match.core.food.together import Allergens, MayHold, allergens_of, listed
from fern_match.core.formulate import Formula, FormulaIngredient, FormulaLayer, Overview, overview_of
from fern_match.core.measures import Typed, read_count
from fern_match.core.measures.pieces import MOST_PIECES
from fern_match.core.study.reading import StudyReading

JOIN = "--"  # between a layer and its line
_REST = "The others"
_SAME_G = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class LotPart:
    """Something of a piece that a lot can have otherwise."""

    id: str
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LotMade:
    """Some of the pieces, all alike."""

    id: str  # empty of those that are made as the version says
    name: str
    mark: str
    pieces: int
    piece_g: float
    own: Allergens  # of what is in it
    traces: tuple[MayHold, ...]  # of what the other lots bring into the bowl, or may: who holds it
    traces_not_known: tuple[str, ...]  # foods of the other lots whose allergens nobody knows
    words: str  # what is otherwise, and what it weighs
    broken: tuple[str, ...]  # what of its version's rules such a piece breaks
    seen: Overview


@dataclass(frozen=True, slots=True, kw_only=True)
class Lots:
    """How the pieces of a batch are made: the lots, then the rest."""

    made: tuple[LotMade, ...]  # empty where all are alike
    average: Formula  # of a piece, over all lots: what the bowl takes
    shares: Mapping[tuple[str, str], str]  # layer and line -> for how many of the pieces it is


@dataclass(frozen=True, slots=True, kw_only=True)
class LotCells:
    """A lot's count as read, and what of it cannot be."""

    pieces: Typed
    problem: str


def lot_parts(formula: Formula) -> tuple[LotPart, ...]:
    """What a lot can have otherwise: a layer as a whole, or a line of it.

    Args:
        formula: Of a piece.
    """
    whole = [LotPart(id=one.layer_id, name=one.name) for one in formula.layers]
    lines = [
        LotPart(id=f"{layer.layer_id}{JOIN}{line.line_id}", name=f"{line.name} in {layer.name.lower()}")
        for layer in formula.layers
        if len(layer.ingredients) > 1
        for line in layer.ingredients
        if line.line_id
    ]
    return (*whole, *lines)


def read_lots(plan: BatchPlan, reading: StudyReading) -> dict[str, LotCells]:
    """Counts of all lots as read, and what stands against each.

    Args:
        plan: With its lots.
        reading: For compositions, and what a comma means.
    """
    found = {}
    for lot in plan.lots:
        strangers = [one for one in lot.instead.values() if one != LEFT_OUT and one not in reading.pantry]
        problem = f"The pantry holds no “{strangers[0]}”: choose what goes in instead." if strangers else ""
        count = read_count(lot.pieces, most=MOST_PIECES, what="number of pieces", comma=reading.comma)
        found[lot.id] = LotCells(pieces=count, problem=problem)
    return found


def too_many(plan: BatchPlan, cells: Mapping[str, LotCells], pieces: int) -> str:
    """Why the lots are not in the batch; empty where they are.

    Args:
        plan: With its lots.
        cells: Of the lots, as read.
        pieces: That are made.
    """
    wanted = sum(int(cells[one.id].pieces.value or 0) for one in plan.lots)
    return f"The lots come to {wanted} pieces, and {pieces} are made: the lots wait." if wanted > pieces else ""


def lots_of(plan: BatchPlan, seen: Overview, pieces: int, cells: Mapping[str, LotCells], reading: StudyReading) -> Lots:
    """How the pieces are made; all alike where no lot can be.

    Args:
        plan: With its lots.
        seen: A piece as it comes out, from all sides.
        pieces: That are made, 1 or more.
        cells: Of the lots, as read.
        reading: The study, with compositions and families.
    """
    wanted = [(one, int(cells[one.id].pieces.value or 0)) for one in plan.lots if not cells[one.id].problem and one.instead]
    counted = [(one, count) for one, count in wanted if count]
    if not counted or too_many(plan, cells, pieces):
        return Lots(made=(), average=seen.formula, shares={})
    formulas = [(one, count, _of_lot(seen.formula, one, reading.pantry)) for one, count in counted]
    rest = pieces - sum(count for _, count in counted)
    views = [(one, count, replace(overview_of(seen.version, formula, reading), targets=())) for one, count, formula in formulas]
    alike = [(None, rest, seen)] if rest else []
    everything: list[tuple[Lot | None, int, Overview]] = [*views, *alike]
    return Lots(
        made=tuple(_made(lot, count, view, everything, seen, reading) for lot, count, view in everything),
        average=_average(seen.formula, [(view.formula, count) for _, count, view in everything], pieces),
        shares=_shares([(view.formula, count) for _, count, view in everything], pieces, reading.pantry),
    )


def _of_lot(formula: Formula, lot: Lot, pantry: Pantry) -> Formula:
    """A piece of a lot: lines gone, or another food of the same weight in their place."""
    layers = []
    for layer in formula.layers:
        whole = lot.instead.get(layer.layer_id)
        if whole is not None:
            lines = (_other(whole, layer.finished_g, layer.layer_id, "", pantry),) if whole != LEFT_OUT else ()
            layers.append(replace(layer, ingredients=lines, water_lost_g=0.0))
            continue
        layers.append(replace(layer, ingredients=tuple(_lines_of(layer, lot, pantry))))
    return replace(formula, layers=tuple(replace(one, water_lost_g=min(one.water_lost_g, one.added_g)) for one in layers))


def _lines_of(layer: FormulaLayer, lot: Lot, pantry: Pantry) -> list[FormulaIngredient]:
    lines = []
    for line in layer.ingredients:
        other = lot.instead.get(f"{layer.layer_id}{JOIN}{line.line_id}") if line.line_id else None
        if other is None:
            lines.append(line)
        elif other != LEFT_OUT:
            lines.append(_other(other, line.grams, line.line_id, line.role, pantry))
    return lines


def _other(ingredient_id: str, grams: float, line_id: str, role: str, pantry: Pantry) -> FormulaIngredient:
    food = pantry[ingredient_id]
    return FormulaIngredient(
        ingredient_id=ingredient_id, name=food.name, role=role, grams=grams, line_id=f"{line_id}{JOIN}{ingredient_id}"
    )


def _average(formula: Formula, lots: Sequence[tuple[Formula, int]], pieces: int) -> Formula:
    """What a piece takes of the bowl, over all lots: masses add up over the pieces."""
    layers = []
    for number, layer in enumerate(formula.layers):
        grams: dict[str, float] = {}
        lines: dict[str, FormulaIngredient] = {}
        lost = 0.0
        for made, count in lots:
            lost += made.layers[number].water_lost_g * count / pieces
            for line in made.layers[number].ingredients:
                key = line.line_id or line.ingredient_id
                grams[key] = grams.get(key, 0.0) + line.grams * count / pieces
                lines.setdefault(key, line)
        order = [line.line_id or line.ingredient_id for line in layer.ingredients]
        known = [key for key in order if key in lines] + [key for key in lines if key not in order]
        layers.append(
            replace(layer, water_lost_g=lost, ingredients=tuple(replace(lines[key], grams=grams[key]) for key in known))
        )
    return replace(formula, layers=tuple(layers))


def _shares(lots: Sequence[tuple[Formula, int]], pieces: int, pantry: Pantry) -> dict[tuple[str, str], str]:
    """Of lines that not all pieces have: how much each has that has it, and how many do."""
    counts: dict[tuple[str, str], int] = {}
    each: dict[tuple[str, str], str] = {}
    for made, count in lots:
        for layer in made.layers:
            for line in layer.ingredients:
                key = (layer.layer_id, line.line_id)
                counts[key] = counts.get(key, 0) + count
                alone = f"{line.grams:.3g} g each" if len(layer.ingredients) == 1 else ""
                each[key] = each_words(line, layer.family, pantry) or alone
    return {
        key: ", ".join(one for one in (each[key], f"for {count} of {pieces} pieces") if one)
        for key, count in counts.items()
        if count < pieces
    }


def _made(
    lot: Lot | None,
    count: int,
    view: Overview,
    among: Sequence[tuple[Lot | None, int, Overview]],
    seen: Overview,
    reading: StudyReading,
) -> LotMade:
    own = _allergens(view, seen, reading.pantry)
    beside: dict[str, list[str]] = {}
    strange: dict[str, None] = {}
    for other, _, there in among:
        if other is lot:
            continue
        held = _allergens(there, seen, reading.pantry)
        for one in (*held.holds, *(doubt.allergen for doubt in held.may)):
            if one not in own.holds:
                beside.setdefault(one, []).append(_named(other))
        strange |= dict.fromkeys(one for one in held.not_known if one not in own.not_known)
    traces = tuple(MayHold(key, tuple(who)) for key, who in sorted(beside.items()))
    broken = [said for rule in holding(view.version, view.formula, reading) for said in rule.broken] if lot is not None else []
    return LotMade(
        id=lot.id if lot is not None else "",
        name=_named(lot),
        mark=lot.mark.strip() if lot is not None else "",
        pieces=count,
        piece_g=view.formula.piece_g,
        own=own,
        traces=traces,
        traces_not_known=tuple(strange),
        words=_words(lot, view, seen, reading.pantry),
        broken=tuple(dict.fromkeys(broken)),
        seen=view,
    )


def _allergens(view: Overview, seen: Overview, pantry: Pantry) -> Allergens:
    """What a piece of a lot holds: its own lines, and what the version's label declares beyond its lines."""
    own, whole = (allergens_of(_foods(one.formula, pantry)) for one in (view, seen))
    beyond = [one for one in seen.allergens.holds if one not in whole.holds]
    known = {one.allergen for one in whole.may}
    doubts = [one for one in seen.allergens.may if one.allergen not in known and one.allergen not in own.holds]
    return replace(
        own,
        holds=tuple(sorted({*own.holds, *beyond})),
        not_known=tuple(dict.fromkeys((*own.not_known, *(one for one in view.allergens.not_known if one not in own.not_known)))),
        may=tuple(one for one in (*own.may, *doubts) if one.allergen not in beyond),
    )


def _foods(formula: Formula, pantry: Pantry) -> list[Ingredient]:
    return [
        pantry[line.ingredient_id]
        for layer in formula.layers
        for line in layer.ingredients
        if line.there and line.ingredient_id in pantry
    ]


def _named(lot: Lot | None) -> str:
    if lot is None:
        return _REST
    return lot.name.strip() or "Another lot"


def _words(lot: Lot | None, view: Overview, seen: Overview, pantry: Pantry) -> str:
    """What is otherwise, and what such a piece weighs beside the version's."""
    if lot is None:
        return "As the version."
    names = {part.id: part.name for part in lot_parts(seen.formula)}
    without = [names[key].lower() for key, other in lot.instead.items() if other == LEFT_OUT and key in names]
    others = [
        f"{pantry[other].name.lower()} in place of {names[key].lower()}"
        for key, other in lot.instead.items()
        if other != LEFT_OUT and key in names
    ]
    said = [f"without {listed(without)}" if without else "", listed(others) if others else ""]
    what = "; ".join(one for one in said if one) or "as the version: what was otherwise is not in it any more"
    same = abs(view.formula.piece_g - seen.formula.piece_g) < _SAME_G
    weighs = "" if same else f": {view.formula.piece_g:.1f} g a piece in place of {seen.formula.piece_g:.1f}"
    return f"{what[0].upper()}{what[1:]}{weighs}."


def with_lots(batch: Batch, lots: Lots, formula: Formula, pantry: Pantry) -> Batch:
    """A batch of the average piece, in which each line that not all pieces have says for how many it is.

    Args:
        batch: Of the average piece.
        lots: How the pieces are made.
        formula: Of a piece as the version has it: what is counted is counted by it.
        pantry: For what is counted.
    """
    if not lots.made:
        return batch
    counted = {
        (layer.layer_id, line.line_id): each_words(line, layer.family, pantry)
        for layer in formula.layers
        for line in layer.ingredients
    }
    return replace(
        batch,
        layers=tuple(
            replace(
                layer,
                ingredients=tuple(
                    replace(line, each=lots.shares.get(key) or counted.get(key, ""))
                    for line in layer.ingredients
                    for key in [(layer.layer_id, line.line_id)]
                ),
            )
            for layer in batch.layers
        ),
    )


def traces_in_words(lot: LotMade) -> str:
    """What the other lots bring into the bowl; empty where nothing.

    Args:
        lot: Of a batch.
    """
    what = listed([one.allergen for one in lot.traces]) if lot.traces else ""
    said = [
        f"From one bowl and bench with pieces that hold {what}: it may hold traces. Not for those who must avoid {what}."
        if what
        else "",
        f"Beside {listed(lot.traces_not_known)}, whose allergens are not all known." if lot.traces_not_known else "",
    ]
    return " ".join(one for one in said if one)


def lots_words(lots: Lots) -> str:
    """What to do with the bowl: in which order the lots are made, and how they are told apart; empty where all are alike.

    Args:
        lots: How the pieces are made.
    """
    if not lots.made:
        return ""
    differ = len({one.own.holds for one in lots.made}) > 1
    order = " Wash tools in between: what holds more allergens comes last. It stays one bowl all the same." if differ else ""
    return f"From one bowl, in this order: {in_turn(lots)}.{order} Box them apart, each with its card."


def in_turn(lots: Lots) -> str:
    """The lots in the order in which they are made, that with the fewest allergens first, each with its mark.

    Args:
        lots: How the pieces are made.
    """
    fewest_first = sorted(lots.made, key=lambda one: (len(one.own.holds), one.id == ""))
    return ", then ".join(f"{one.pieces} of “{one.name}”{f' ({one.mark})' if one.mark else ''}" for one in fewest_first)
