"""What to change next: few things at a time, each with its reason and what it should do.

Worked example: a caramel of 10 g a piece came out grainy and has little syrup: five in a hundred of what goes in, 0.6 g of 12,
come to the syrup and leave the sugar; the layer weighs what it weighed. One that ended 3 °C early is to end where it was planned
to: nothing of the formula changes, and the version says so to whoever cooks it.
"""

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from fern_match.core.adapt import limits_held
from fern_match.core.cook import Boil, Step, mass_at_c, water_left_share
from fern_match.core.formulate import (
    Formula,
    FormulaIngredient,
    FormulaLayer,
    NoteKind,
    Overview,
    Property,
    Room,
    Solved,
    Version,
    VersionNote,
    copied,
    solve,
    targets_of,
    written_version,
)
from fern_match.core.record import fresh_id
from fern_match.core.record.texts import LONGEST_NAME
from fern_match.core.study.reading import StudyReading
from fern_match.core.trials.ranking import RankedCause, Ranking
from fern_match.core.trials.tables import ClueKind, clues

MOST_CHANGES = 3  # at once: more, and nobody knows what helped
_SOME_CHANCE = 0.2  # of a cause from which something is changed for it
_LIKELY = 0.5
WANTED = ":wanted"  # behind the id of a change that the user chose the cause of
_SLIPPED = 1.5  # how much a reading must speak for a slip to be taken for one
_LONGEST_NOTE = 1000
_LEAST_G = 0.0005
_BOILS_C = (101.0, 158.0)  # between which a boil's heat says its water
# of a change: the roles it is made in, the first that is there; what comes in where none is; the roles that make room
_ROLES: Mapping[str, tuple[tuple[str, ...], str, tuple[str, ...]]] = {
    "doctor": (("doctor-sugar", "humectant"), "glucose-syrup-42de", ("sweet-bulk",)),
    "fat": (("fat", "dairy-liquid", "nut-solids"), "", ()),
    "fat_for_liquid": (("fat", "chocolate"), "", ("water", "dairy-liquid", "plant-liquid", "fruit-solids")),
    "milk": (("milk-solids",), "", ()),
    "gel": (("gelling",), "", ()),
    "foam": (("aerator", "structure-protein"), "", ()),
    "lecithin": (("emulsifier",), "sunflower-lecithin", ()),
    "salt": (("salt",), "fine-salt", ()),
    "coat_fat": (("fat",), "cocoa-butter", ()),
    "hard_fat": (("fat",), "cocoa-butter", ()),
    "water": (("water", "dairy-liquid", "plant-liquid", "fruit-solids"), "", ()),
    "dry": (("sweet-bulk", "milk-solids", "flour", "crumb"), "", ()),
}
_NAMED = {
    "doctor": "syrup",
    "fat": "fat",
    "fat_for_liquid": "fat, and liquid in its place",
    "milk": "milk solids",
    "gel": "gelling agent",
    "foam": "white",
    "lecithin": "lecithin",
    "salt": "salt",
    "coat_fat": "cocoa butter",
    "hard_fat": "cocoa butter",
    "water": "liquid",
    "dry": "dry bulk",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """One thing to do otherwise next time."""

    id: str
    cause_id: str  # in its layer
    layer_id: str
    layer: str
    what: str  # "plan": as planned; else heat, weight, coat, sweet, or a kind of ingredient; "do": only how it is done
    by: float
    words: str
    why: str
    effect: str
    chance: float  # of its cause


@dataclass(frozen=True, slots=True, kw_only=True)
class Faulty:
    """A layer with something wrong, its causes, and what is known of it."""

    layer_id: str
    name: str
    ranking: Ranking
    step: Step | None = None  # that ends its boil
    original_g: float | None = None  # what the layer weighs in the original
    off_g: float | None = None  # of the copy beside its plan
    off_c: float | None = None  # where its boil ended beside its plan


def changes_for(faulty: Sequence[Faulty]) -> tuple[Change, ...]:
    """One to three changes, the surest first: one for each layer, a second only where another cause is nearly as likely.

    Args:
        faulty: The layers with something wrong.
    """
    found = []
    for one in faulty:
        likely = [cause for cause in one.ranking.causes if cause.chance >= _SOME_CHANCE] or list(one.ranking.causes[:1])
        found += [change_for(one, cause) for cause in likely[:1]]
    return tuple(sorted(found, key=lambda change: -change.chance)[:MOST_CHANGES])


def change_for(faulty: Faulty, ranked: RankedCause, *, wanted: bool = False) -> Change:
    """What to change for a cause: where a reading shows a slip, to do as planned; else what the table has.

    Args:
        faulty: The layer.
        ranked: One of its causes.
        wanted: Whether the user chose this cause: then amounts move though no reading speaks for it.
    """
    cause = ranked.cause
    slip = next((said for said in ranked.spoken if cause.slip and said.times >= _SLIPPED and _shows_a_slip(said.clue)), None)
    speaks = next((said.words for said in ranked.spoken if said.times >= _SLIPPED), "")
    why = f"{cause.says}: {speaks}" if speaks else f"{cause.says}, perhaps: no reading of this batch speaks for it"
    settled = wanted or bool(speaks) or ranked.chance >= _LIKELY  # else amounts stay: moving them on a guess teaches nothing
    what, by = ("plan", 0.0) if slip is not None else cause.change if cause.change is not None and settled else ("do", 0.0)
    return Change(
        id=f"{faulty.layer_id}:{cause.id}{WANTED if wanted else ''}",
        cause_id=cause.id,
        layer_id=faulty.layer_id,
        layer=faulty.name,
        what=what,
        by=by,
        words=_words(faulty, ranked, what, by),
        why=why,
        effect=_effect(faulty, ranked, what, by),
        chance=ranked.chance,
    )


def _shows_a_slip(clue: str) -> bool:
    return clues()[clue].kind in {ClueKind.SLIP, ClueKind.CHECK, ClueKind.AMOUNT, ClueKind.WEIGHED}


def _effect(faulty: Faulty, ranked: RankedCause, what: str, by: float) -> str:
    """What the change should do, with the figure where it can be worked out."""
    effect = ranked.cause.effect
    if ranked.cause.slip == "layer_weight" and what == "plan" and faulty.off_g is not None:
        return f"{abs(faulty.off_g):.1f} g {'lighter' if faulty.off_g > 0 else 'heavier'} a piece"
    off = faulty.off_c if what == "plan" else by if what == "heat" else None
    step = faulty.step
    if off is None or step is None or step.boil is None or step.heat is None:
        return effect
    aim = step.heat.sea_level_c if step.heat.sea_level_c is not None else step.heat.aim_c
    from_c, to_c = (aim + off, aim) if what == "plan" else (aim, aim + by)
    waters = [water_at(step.boil, one) for one in (from_c, to_c)]
    if waters[0] is None or waters[1] is None:
        return effect
    return f"{effect}: about {100 * waters[1]:.1f} % water, {100 * waters[0]:.1f} this time"


def water_at(boil: Boil, sea_level_c: float) -> float | None:
    """How much of what is left in a pan is water as it reads so much [g/g]; None where nobody knows.

    Args:
        boil: What is in the pan.
        sea_level_c: As it would read at sea level [degC].
    """
    left = mass_at_c(boil, sea_level_c) if boil.known and _BOILS_C[0] < sea_level_c < _BOILS_C[1] else None
    return water_left_share(replace(boil, left_g=left)) if left is not None else None


def _words(faulty: Faulty, ranked: RankedCause, what: str, by: float) -> str:
    name, do = faulty.name, ranked.cause.do
    if what == "plan":
        return f"{name}: keep to the plan. {do}".strip()
    if what == "do":
        return f"{name}: {do or 'read what would tell more, before anything is changed.'}"
    if what == "heat":
        return f"{name}: end the boil {abs(by):g} Δ°C {'higher' if by > 0 else 'lower'}. {do}".strip()
    if what == "weight":
        to = f" to {faulty.original_g:.1f} g" if faulty.original_g is not None else ""
        return f"{name}: plan it{to} a piece, as in the original."
    if what == "coat":
        return f"{name}: {by:g} % more of it. {do}".strip()
    if what == "sweet":
        return f"{name}: {abs(by):g} % {'more' if by > 0 else 'less'} of its sugar. {do}".strip()
    return f"{name}: {abs(by):g} % of the layer {'more' if by > 0 else 'less'} {_NAMED[what]}. {do}".strip()


@dataclass(frozen=True, slots=True, kw_only=True)
class NextVersion:
    """The version to cook next."""

    version: Version
    done: tuple[str, ...]  # what of its amounts moved, in words
    not_done: tuple[str, ...]  # what could not be done in its amounts, and is said as a note


def next_version(
    seen: Overview,
    changes: Sequence[Change],
    faulty: Mapping[str, Faulty],
    taken: Sequence[str],
    reading: StudyReading,
) -> NextVersion:
    """A version made after another with some changes; all else is held, and each layer keeps its weight unless that is changed.

    Args:
        seen: The version that was cooked, from all sides.
        changes: One or more.
        faulty: Layers with something wrong, by id.
        taken: Ids of the versions there are.
        reading: The study, with compositions and families.
    """
    parent = seen.version
    fresh = copied(parent, _name(parent.name, taken), taken)
    version, formula = replace(fresh, origin=parent.origin), seen.formula
    done: list[str] = []
    not_done: list[str] = []
    for change in changes:
        layer = next((one for one in formula.layers if one.layer_id == change.layer_id), None)
        if layer is None or change.what in {"plan", "do"}:
            continue
        changed = _changed(layer, change, faulty.get(change.layer_id), reading)
        if changed is None:
            not_done.append(f"{change.layer}: nothing of it serves for this; see the note.")
            continue
        solved = _held(formula, layer, changed, seen, reading)
        formula = replace(formula, layers=tuple(solved if one is layer else one for one in formula.layers))
        done += _moved(layer, solved)
    notes = list(parent.notes)
    for change in changes:
        text = f"{change.words} Why: {change.why}.".replace("Δ", "")[:_LONGEST_NOTE]
        notes.append(VersionNote(id=fresh_id("from a trial", [one.id for one in notes]), kind=NoteKind.COOK, text=text))
    written = written_version(replace(version, notes=tuple(notes)), seen.formula, formula)
    moved = {after.layer_id for before, after in zip(seen.formula.layers, formula.layers, strict=True) if after is not before}
    return NextVersion(version=_held_to(written, formula, moved, reading), done=tuple(done), not_done=tuple(not_done))


def _held_to(version: Version, formula: Formula, moved: Collection[str], reading: StudyReading) -> Version:
    """A version whose targets of the layers that were changed are what those layers are now: solving must not undo a change."""
    if not version.targets or not moved:
        return version
    now = {one.id: one for one in targets_of(formula, reading.pantry)}
    targets = tuple(now.get(one.id, one) if one.layer in moved or one.layer is None else one for one in version.targets)
    return replace(version, targets=targets)


def _name(parent: str, taken: Sequence[str]) -> str:
    """“Faithful, try 2”, or whichever number no version has yet."""
    stem, _, number = parent.rpartition(", try ")
    stem, first = (stem, int(number) + 1) if stem and number.isdigit() else (parent, 2)
    names = (f"{stem[: LONGEST_NAME - 12]}, try {at}" for at in range(first, first + len(taken) + 1))
    return next((name for name in names if fresh_id(name, ()) not in taken), f"{stem[: LONGEST_NAME - 12]}, try {first}")


def _changed(layer: FormulaLayer, change: Change, faulty: Faulty | None, reading: StudyReading) -> FormulaLayer | None:
    """A layer with a change made in it, the changed lines fixed; None where nothing of it serves."""
    if change.what == "heat":
        return _hotter(layer, change.by, faulty)
    if change.what == "weight":
        to = faulty.original_g if faulty is not None else None
        return _times(layer, to / layer.finished_g) if to is not None and layer.finished_g > 0 else None
    if change.what == "coat":
        return _times(layer, 1 + change.by / 100)
    if change.what == "sweet":
        lines = [one for one in layer.ingredients if one.role == "sweet-bulk" and one.grams > 0]
        return _lines(layer, {one.line_id: one.grams * (1 + change.by / 100) for one in lines}) if lines else None
    return _of_a_kind(layer, change, reading)


def _of_a_kind(layer: FormulaLayer, change: Change, reading: StudyReading) -> FormulaLayer | None:
    roles, comes_in, gives = _ROLES[change.what]
    by_g = change.by / 100 * layer.added_g
    line = _largest(layer, roles)
    if line is None:
        food = reading.pantry.by_id.get(comes_in)
        if food is None or by_g <= 0:
            return None
        line = FormulaIngredient(
            ingredient_id=food.id,
            name=food.name,
            role=roles[0],
            grams=0.0,
            line_id=fresh_id("line", [one.line_id for one in layer.ingredients]),
        )
        layer = replace(layer, ingredients=(*layer.ingredients, line))
    wanted = {line.line_id: max(0.0, line.grams + by_g)}
    other = _largest(layer, gives)
    if other is not None:
        wanted[other.line_id] = max(0.0, other.grams - by_g)
    return _lines(layer, wanted)


def _largest(layer: FormulaLayer, roles: Sequence[str]) -> FormulaIngredient | None:
    for role in roles:
        lines = [one for one in layer.ingredients if one.role == role and one.grams > 0]
        if lines:
            return max(lines, key=lambda one: one.grams)
    return None


def _lines(layer: FormulaLayer, wanted: Mapping[str, float]) -> FormulaLayer:
    """Lines with other amounts, fixed there."""
    lines = tuple(
        replace(one, grams=wanted[one.line_id], locked=True, part=None, least_g=0.0) if one.line_id in wanted else one
        for one in layer.ingredients
    )
    return replace(layer, ingredients=lines)


def _times(layer: FormulaLayer, by: float) -> FormulaLayer:
    lines = tuple(replace(one, grams=one.grams * by, least_g=one.least_g * by) for one in layer.ingredients)
    return replace(layer, ingredients=lines, water_lost_g=layer.water_lost_g * by)


def _hotter(layer: FormulaLayer, by_c: float, faulty: Faulty | None) -> FormulaLayer | None:
    """A layer cooked further or less far: so much more or less water leaves it; None where nobody knows how much that is."""
    step = faulty.step if faulty is not None else None
    if step is None or step.boil is None or step.heat is None or not step.boil.known or step.boil.left_g <= 0:
        return None
    aim = step.heat.sea_level_c if step.heat.sea_level_c is not None else step.heat.aim_c
    now, then = mass_at_c(step.boil, aim), mass_at_c(step.boil, aim + by_c)
    if now is None or then is None:
        return None
    more = (now - then) / step.boil.left_g * layer.finished_g
    lost = layer.water_lost_g + more
    if lost < 0:
        return None
    cooked = replace(layer, water_lost_g=lost)
    return _times(cooked, layer.finished_g / cooked.finished_g) if cooked.finished_g > 0 else None


def _held(formula: Formula, before: FormulaLayer, changed: FormulaLayer, seen: Overview, reading: StudyReading) -> FormulaLayer:
    """A changed layer with the rest solved: it weighs what it weighed, the version's rules hold, and all else moves least."""
    if not any(one.locked and not was.locked for one, was in _pairs(changed, before)):
        return changed  # all of it moved together: nothing is left to solve
    targets = [one for one in seen.targets if one.layer_id == before.layer_id and one.what is Property.MASS and one.counts]
    limits = limits_held(seen.version, formula, reading)
    room = Room(free=[before.layer_id], widened=True, limits=limits, before={before.layer_id: before}, explain=False)
    asked = replace(formula, layers=tuple(changed if one.layer_id == before.layer_id else one for one in formula.layers))
    found = solve(asked, targets, room, reading)
    if isinstance(found, Solved):
        layer = next(one for one in found.formula.layers if one.layer_id == before.layer_id)
    else:
        layer = _scaled_rest(changed, before)
    return _unlocked(layer, before)


def _pairs(changed: FormulaLayer, before: FormulaLayer) -> Sequence[tuple[FormulaIngredient, FormulaIngredient]]:
    was = {one.line_id: one for one in before.ingredients}
    return [(one, was.get(one.line_id, replace(one, locked=False))) for one in changed.ingredients]


def _scaled_rest(changed: FormulaLayer, before: FormulaLayer) -> FormulaLayer:
    """What is free made larger or smaller so that the layer weighs what it weighed."""
    fixed = {one.line_id for one, was in _pairs(changed, before) if one.locked}
    rest = sum(one.grams for one in changed.ingredients if one.line_id not in fixed)
    over = changed.finished_g - before.finished_g
    by = max(0.0, (rest - over) / rest) if rest > _LEAST_G else 1.0
    lines = tuple(one if one.line_id in fixed else replace(one, grams=one.grams * by) for one in changed.ingredients)
    return replace(changed, ingredients=lines)


def _unlocked(layer: FormulaLayer, before: FormulaLayer) -> FormulaLayer:
    """Lines are locked as they were: a change that was tried is no decision for ever."""
    locked: Callable[[str], bool] = {one.line_id: one.locked for one in before.ingredients}.get  # type: ignore[assignment]
    return replace(layer, ingredients=tuple(replace(one, locked=bool(locked(one.line_id))) for one in layer.ingredients))


def _moved(before: FormulaLayer, after: FormulaLayer) -> list[str]:
    was = {one.line_id: one.grams for one in before.ingredients}
    lines = [(one.name, was.get(one.line_id, 0.0), one.grams) for one in after.ingredients]
    moved = [f"{name} {now:.3g} g, was {then:.3g}" for name, then, now in lines if abs(now - then) > max(_LEAST_G, 0.005 * then)]
    words = [f"{before.name}: {'; '.join(moved)}"] if moved else []
    if abs(after.finished_g - before.finished_g) > _LEAST_G:
        words.append(f"{before.name}: {after.finished_g:.2f} g a piece, was {before.finished_g:.2f}")
    if abs(after.water_lost_g - before.water_lost_g) > _LEAST_G:
        words.append(f"{before.name}: {after.water_lost_g:.2f} g of water driven off, was {before.water_lost_g:.2f}")
    return words
