"""Two changes made on one state: what differs comes together, the same thing asks, and so does what hangs on something removed.

Worked example: base has the layers coat and nuts. Mine weighs nuts, theirs removes nuts: neither may win unasked. Keeping mine
brings nuts back with all that hung on it; keeping theirs lets the weighing go.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Any, TypeVar

from fern_match.core.history.differences import ABSENT, Difference, Path, Step, by_id
from fern_match.core.history.words import title_of, value_of
from fern_match.core.names import Names
from fern_match.core.record import FieldSpec, Shape, fields_of, links, targets, without
from fern_match.core.record.shape import Kind

Whole = TypeVar("Whole")
_MOST_NAMED = 12  # clashes told by name; more say nothing more


@dataclass(frozen=True, slots=True)
class Clash:
    """One thing that both changed, differently; in words."""

    title: str
    mine: str
    theirs: str


@dataclass(frozen=True, slots=True)
class Clashes:
    """What has to be decided."""

    fields: tuple[Clash, ...]


@dataclass(slots=True)
class _Merge:
    """One merging: who wins where both changed a thing, and what has to be asked."""

    names: Names
    prefer_mine: bool
    clashes: list[Clash] = field(default_factory=list)

    def decided(self, path: Path, mine: Any, theirs: Any) -> Any:
        """Mine where that is preferred; else theirs for now, and a question."""
        if self.prefer_mine:
            return mine
        step = path[-1]
        shown = [_shown(step, value, other, self.names) for value, other in ((mine, theirs), (theirs, mine))]
        self.clashes.append(Clash(title_of(path, self.names), *shown))
        return theirs


def merged(base: Whole, mine: Whole, theirs: Whole, names: Names, *, prefer_mine: bool = False) -> Whole | Clashes:
    """Both changes in one match or house, or what both changed differently.

    Args:
        prefer_mine: Decide for mine wherever there would be a question.
    """
    merge = _Merge(names, prefer_mine)
    base, mine, theirs = _agreed_targets(base, mine, theirs, merge)
    together: Whole = _record(base, mine, theirs, (), merge)
    if merge.clashes:
        return Clashes(tuple(dict.fromkeys(merge.clashes))[:_MOST_NAMED])
    return together


# --- what hangs on something removed ---------------------------------------------------------------------------------------


def _agreed_targets(base: Whole, mine: Whole, theirs: Whole, merge: _Merge) -> tuple[Whole, Whole, Whole]:
    """The three states once it is agreed which of the things removed on one side and used on the other are gone."""
    known = targets(base)
    for target in known:
        gone_from_mine, gone_from_theirs = (target not in targets(side) for side in (mine, theirs))
        if gone_from_mine == gone_from_theirs:
            continue
        keeper = theirs if gone_from_mine else mine
        if targets(keeper)[target] == known[target] and _pointing(keeper, target) <= _pointing(base, target):
            continue  # removed here, left alone there
        kind, key = target
        if not merge.prefer_mine:
            used = "removed", "still used and changed"
            title = f"{merge.names.name(kind, key)} ({kind})"
            merge.clashes.append(Clash(title, *(used if gone_from_mine else used[::-1])))
        elif keeper is mine:
            base = without(base, kind, key)  # so that all of it counts as added by mine
        else:
            theirs = without(theirs, kind, key)
    return base, mine, theirs


def _pointing(whole: object, target: tuple[str, str]) -> frozenset[tuple[tuple[str, ...], str]]:
    """Everything that points at a target, with what it holds."""
    return frozenset((link.place, repr(link.holder)) for link in links(whole) if (link.kind, link.target) == target)


# --- records, mappings, lists ----------------------------------------------------------------------------------------------


def _record(base: Any, mine: Any, theirs: Any, path: Path, merge: _Merge) -> Any:
    """Field by field; the base may be absent where both added an entry of one id."""
    kept = _one_decision(base, mine, theirs, path, merge) if base is not ABSENT else {}
    for spec in fields_of(type(mine)):
        if spec.name in kept:
            continue
        was = getattr(base, spec.name) if base is not ABSENT else ABSENT
        kept[spec.name] = _value(
            was, getattr(mine, spec.name), getattr(theirs, spec.name), spec.shape, (*path, Step(spec)), merge
        )
    return type(mine)(**kept)


def _one_decision(base: Any, mine: Any, theirs: Any, path: Path, merge: _Merge) -> dict[str, Any]:
    """Fields that mean something only together and that both changed differently: an amount and what it is an amount of.

    Worked example: one window takes almond butter for the tahini of a line, another types 3 g: together that would be 3 g of
    almond butter, which nobody asked for.
    """
    groups: dict[str, list[FieldSpec]] = {}
    for spec in fields_of(type(mine)):
        if spec.together or spec.follows:
            groups.setdefault(spec.together or spec.follows, []).append(spec)
    decided: dict[str, Any] = {}
    for specs in groups.values():
        was, my, their = ([getattr(side, spec.name) for spec in specs] for side in (base, mine, theirs))
        if my in (was, their) or their == was:
            continue
        for spec, own, other in zip(specs, my, their, strict=True):
            asks = own != other and not spec.follows
            decided[spec.name] = (
                merge.decided((*path, Step(spec)), own, other) if asks else own if merge.prefer_mine or own == other else other
            )
    return decided


def _value(base: Any, mine: Any, theirs: Any, shape: Shape, path: Path, merge: _Merge) -> Any:
    if mine in (theirs, base):
        return theirs
    if theirs == base:
        return mine
    known = base if base is not ABSENT else None
    match shape.kind:
        case Kind.RECORD if mine is not None and theirs is not None:
            return _record(known if known is not None else ABSENT, mine, theirs, path, merge)
        case Kind.MAPPING:
            return _mapping(known or {}, mine, theirs, shape, path, merge)
        case Kind.SET:
            old = known or ()
            added = [member for member in mine if member not in old and member not in theirs]
            return tuple(sorted([member for member in theirs if member in mine or member not in old] + added))
        case Kind.ENTRIES:
            return _entries(known or (), mine, theirs, path, merge)
    return merge.decided(path, mine, theirs)


def _mapping(base: Any, mine: Any, theirs: Any, shape: Shape, path: Path, merge: _Merge) -> dict[Any, Any]:
    assert shape.inner is not None
    nested = shape.inner.kind is Kind.MAPPING
    spec = path[-1].spec
    before = path if path[-1].key is not None else path[:-1]
    nothing: Any = {} if nested else ABSENT
    kept = {}
    for key in dict.fromkeys((*theirs, *mine, *base)):
        here = (*before, Step(spec, key=str(key)))
        was, my, their = (side.get(key, nothing) for side in (base, mine, theirs))
        chosen = _value(was, my, their, shape.inner, here, merge)
        if chosen is not ABSENT and not (nested and not chosen):
            kept[key] = chosen
    return kept


def _entries(base: Sequence[Any], mine: Sequence[Any], theirs: Sequence[Any], path: Path, merge: _Merge) -> tuple[Any, ...]:
    old, own, other = by_id(base), by_id(mine), by_id(theirs)
    kept: dict[str, Any] = {}
    for key in dict.fromkeys((*other, *own, *old)):
        was, my, their = (side.get(key, ABSENT) for side in (old, own, other))
        entry, siblings = (my, mine) if my is not ABSENT else (their, theirs) if their is not ABSENT else (was, base)
        here = (*path[:-1], Step(path[-1].spec, key, entry, tuple(siblings)))
        if my in (their, was):
            chosen = their
        elif their == was:
            chosen = my
        elif ABSENT in (my, their):
            chosen = merge.decided(here, my, their)
        else:
            chosen = _record(was, my, their, here, merge)
        if chosen is not ABSENT:
            kept[key] = chosen
    here = (*path[:-1], Step(path[-1].spec, siblings=tuple({**old, **other, **own}.values())))
    order = _order(list(old), list(own), list(other), kept, here, merge)
    return tuple(kept[key] for key in order)


def _order(base: list[str], mine: list[str], theirs: list[str], kept: Iterable[str], path: Path, merge: _Merge) -> list[str]:
    """The order of the side that changed it, with what only the other has put in where it stood there."""
    alive = set(kept)
    shared = alive & set(base) & set(mine) & set(theirs)
    was, my, their = ([key for key in side if key in shared] for side in (base, mine, theirs))
    spine, other = theirs, mine
    if my not in (was, their) and (their == was or merge.decided(path, my, their) is my):
        spine, other = mine, theirs
    order = [key for key in spine if key in alive]
    for at, key in enumerate(other):
        if key in alive and key not in order:
            before = next((one for one in reversed(other[:at]) if one in order), None)
            order.insert(order.index(before) + 1 if before is not None else 0, key)
    return order


def clash_of(difference: Difference, names: Names) -> Clash:
    """A difference as a question: what was is theirs, what is now is mine."""
    step, theirs, mine = difference.path[-1], difference.was, difference.now
    shown = [_shown(step, value, other, names) for value, other in ((mine, theirs), (theirs, mine))]
    return Clash(title_of(difference.path, names), *shown)


def _shown(step: Step, value: Any, other: Any, names: Names) -> str:
    if value is ABSENT:
        return "taken away" if other is not ABSENT else "none"
    if value == "":
        return "taken away"
    return f"“{value_of(step, value, names)}”"
