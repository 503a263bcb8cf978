"""Changes: kept, merged, undone, done again; any revision returned to."""

import json
from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass
from typing import Any, Generic

from sqlalchemy import func, select, update
from sqlalchemy.orm import Session

from fern_match.core.errors import CoreError
from fern_match.core.families import Families
from fern_match.core.food import Pantry
from fern_match.core.history import Clashes, changes, clash_of, differences, merged
from fern_match.core.house import House
from fern_match.core.names import Names
from fern_match.core.record import Count, NotFitting, check_limits, fields_of, refers_to, targets, without
from fern_match.core.record.parts import PartKey, part_types, parts_of, whole_of
from fern_match.exchange.match_file import MOST_MATCH_BYTES
from fern_match.store.contents import Packed, keep
from fern_match.store.database import CannotKeep, Database
from fern_match.store.moments import root_of, row_of
from fern_match.store.pointing import changed_since, chosen, places_of, point_all, pointers_at
from fern_match.store.tables import ChangeRow, ContentRow, PartRow, TreeRow
from fern_match.store.trees import (
    HOUSE,
    Kept,
    NewTree,
    Whole,
    assembled,
    counts,
    create,
    house,
    now,
    pointers,
    revision_of,
)

_MOST_ASKED = 12  # more say nothing more
_ATTEMPTS = 50  # a save whose tree was changed while it was worked out is worked out anew


class NothingThere(CoreError):
    """There is nothing to undo or redo."""


@dataclass(eq=False)
class Stale(CoreError):
    """A request was made on a revision that is no longer the newest."""

    made_on: int
    newest: int

    def __str__(self) -> str:
        return (
            f"This was changed in another window since (revision {self.newest}; yours was made on {self.made_on}). "
            "Nothing was overwritten; what you typed is still here."
        )


@dataclass(eq=False)
class Clash(CoreError):
    """Two windows changed the same things; the user decides."""

    clashes: Clashes
    revision: int  # the newest, which the questions are about

    def __str__(self) -> str:
        told = "; ".join(f"{one.title}: yours {one.mine}, there {one.theirs}" for one in self.clashes.fields)
        return f"The same was changed in another window. {told}. Nothing was overwritten; what you typed is still here."


@dataclass(frozen=True, slots=True, kw_only=True)
class Keeper(Generic[Whole]):
    """Keeps the changes of one tree. Everything slow is worked out between transactions, never inside one."""

    database: Database
    tree_id: str
    whole: type[Whole]
    pantry: Pantry
    families: Families
    line: Callable[[Whole], Any]  # what the list shows of a tree, as JSON values
    # what two changes of one thing are made on, where it stands in the tree only once it was changed
    grounded: Callable[[Whole, Collection[Whole]], Whole] = lambda base, _: base
    unsound: Callable[[Whole], Collection[PartKey]] = lambda _: ()  # parts whose figures cannot be true together

    def save(
        self,
        made_on: int,
        change: Callable[[Whole], Whole],
        touching: Collection[PartKey] | None = None,
        *,
        decided_on: int | None = None,
    ) -> Kept[Whole]:
        """Keeps a change; one made on an older revision is merged with what came since.

        Args:
            made_on: The revision the change was made on.
            change: What it does to a whole that holds at least the parts it touches.
            touching: Those parts; None for all.
            decided_on: The revision up to which the user has decided for this change wherever both touched a thing.

        Raises:
            NotKnown: there is no such tree.
            Clash: the same was changed since; nothing is written.
            Stale: the revision it was made on is not known.
            NotFitting: the outcome holds more than it may.
        """
        for _ in range(_ATTEMPTS):
            with self.database.reading() as session:
                states = self._states(session, made_on, decided_on, touching)
            after = _tidied(states.base, change(states.base))
            beyond: list[PartKey] = self._beyond(states.base, after, touching)
            if beyond:  # what refers to what goes may stand in other parts
                touching = [*(touching or ()), *beyond]
                continue
            if made_on != states.revision:
                after = self._merged(states, after)
            if after == states.newest:
                return Kept(id=self.tree_id, revision=states.revision, whole=after)
            step = _Step(cause="change", words=self._words(states.newest, after))
            places = places_of(after) if touching is None else {}
            kept = self._write(states.revision, states.newest, after, step, places)
            if kept is not None:
                return kept
        raise CannotKeep("So many others are writing that this could not be kept yet. Try again.")

    def undo(self, made_on: int) -> Kept[Whole]:
        """The state before the last change, as a new revision.

        Args:
            made_on: The revision the user was looking at.

        Raises:
            Stale: another window wrote since.
            NothingThere: the tree is as it was made.
        """
        with self.database.reading() as session:
            here = self._here(session, made_on)
            root = root_of(session, here)
            if root.undo_to is None:
                raise NothingThere("There is nothing to undo: this is how it was made.")
            target = root_of(session, row_of(session, self.tree_id, root.undo_to))
            states = self._then_and_now(session, root.undo_to)
        step = _Step(cause="undo", of=root.number, undo_to=target.undo_to, redo_to=here.number)
        return self._written(made_on, states, step)

    def redo(self, made_on: int) -> Kept[Whole]:
        """What the last undo took back, as a new revision.

        Args:
            made_on: The revision the user was looking at.

        Raises:
            Stale: another window wrote since.
            NothingThere: nothing was undone.
        """
        with self.database.reading() as session:
            here = self._here(session, made_on)
            if here.redo_to is None:
                raise NothingThere("There is nothing to redo: nothing was undone since the last change.")
            there = row_of(session, self.tree_id, here.redo_to)
            root = root_of(session, there)
            states = self._then_and_now(session, there.number)
        step = _Step(cause="redo", of=root.number, undo_to=root.undo_to, redo_to=there.redo_to)
        return self._written(made_on, states, step)

    def return_to(self, made_on: int, number: int) -> Kept[Whole]:
        """The state of an earlier revision, as a change that can itself be undone.

        Args:
            made_on: The revision the user was looking at.
            number: The revision.

        Raises:
            Stale: another window wrote since.
            NotKnown: there is no such revision.
        """
        with self.database.reading() as session:
            self._here(session, made_on)
            row_of(session, self.tree_id, number)
            states = self._then_and_now(session, number)
        words = self._words(states.newest, states.target)
        return self._written(made_on, states, _Step(cause="return", of=number, words=words))

    def _words(self, before: Whole, after: Whole) -> tuple[str, ...]:
        """What changed, in sentences."""
        names = Names.of(self.pantry, self.families, before, after)
        return changes(self.grounded(before, (after,)), self.grounded(after, (before,)), names)

    def _beyond(self, base: Whole, after: Whole, touching: Collection[PartKey] | None) -> list[PartKey]:
        """Parts beyond those that a change touches which may refer to what it removes."""
        gone = {kind for kind, _ in targets(base).keys() - targets(after).keys()}
        kinds = [kind for kind, part in part_types(self.whole).items() if gone & set(refers_to(part))]
        if touching is None or not kinds:
            return []
        with self.database.reading() as session:
            there = pointers(session, self.tree_id)
        return [key for key in there if key.kind in kinds and key.kind != key.id and key not in touching]

    # --- states ------------------------------------------------------------------------------------------------------------

    def _states(
        self, session: Session, made_on: int, decided_on: int | None, touching: Collection[PartKey] | None
    ) -> "_States[Whole]":
        """All states that a save needs, each with the parts it touches and those that changed since it was made."""
        if self.tree_id == HOUSE and session.get(TreeRow, HOUSE) is None:
            usual: Any = house(session).whole
            return _States(revision=0, newest=usual, base=usual, seen=None)
        newest = revision_of(session, self.tree_id, self.whole)
        present = pointers(session, self.tree_id)
        wanted = None if touching is None else changed_since(session, self.tree_id, made_on).union(touching)

        def state(number: int) -> Whole:
            then = present if number == newest else pointers_at(session, self.tree_id, number, present)
            return assembled(session, self.whole, chosen(then, wanted))

        if made_on != newest and session.get(ChangeRow, (self.tree_id, made_on)) is None:
            raise Stale(made_on, newest)
        decided = decided_on is not None and made_on < decided_on <= newest
        return _States(
            revision=newest,
            newest=state(newest),
            base=state(made_on),
            seen=state(decided_on) if decided and decided_on is not None else None,
        )

    def _merged(self, states: "_States[Whole]", after: Whole) -> Whole:
        """A change on an older state brought onto the newest, first over what the user has decided about."""
        names = Names.of(self.pantry, self.families, states.base, states.newest, after)
        base = states.base
        if states.seen is not None:
            decided = merged(self.grounded(base, (after, states.seen)), after, states.seen, names, prefer_mine=True)
            assert not isinstance(decided, Clashes)
            base, after = states.seen, self._made_sound(decided, after)
        base = self.grounded(base, (after, states.newest))
        outcome = merged(base, after, states.newest, names)
        if isinstance(outcome, Clashes):
            raise Clash(outcome, states.revision)
        broken = set(self.unsound(outcome)) - set(self.unsound(after)) - set(self.unsound(states.newest))
        if broken:
            raise Clash(_of_parts(broken, after, states.newest, names), states.revision)
        return outcome

    def _made_sound(self, decided: Whole, mine: Whole) -> Whole:
        """What was decided, with mine as a whole where both together cannot be."""
        broken, own = set(self.unsound(decided)), parts_of(mine)
        if not broken:
            return decided
        parts = [(key, own.get(key, part) if key in broken else part) for key, part in parts_of(decided).items()]
        return whole_of(self.whole, parts)

    def _here(self, session: Session, made_on: int) -> ChangeRow:
        newest = revision_of(session, self.tree_id, self.whole)
        if newest != made_on:
            raise Stale(made_on, newest)
        return row_of(session, self.tree_id, newest)

    def _then_and_now(self, session: Session, number: int) -> "_Return[Whole]":
        """The states now and at a revision, as far as they differ."""
        present = pointers(session, self.tree_id)
        then = pointers_at(session, self.tree_id, number, present)
        wanted = {key for key in present.keys() | then.keys() if present.get(key) != then.get(key)}
        return _Return(
            newest=assembled(session, self.whole, chosen(present, wanted)),
            target=assembled(session, self.whole, chosen(then, wanted)),
            positions={key: one.position for key, one in then.items()},
        )

    # --- writing -----------------------------------------------------------------------------------------------------------

    def _written(self, made_on: int, states: "_Return[Whole]", step: "_Step") -> Kept[Whole]:
        kept = self._write(made_on, states.newest, states.target, step, states.positions)
        if kept is None:
            with self.database.reading() as session:
                raise Stale(made_on, revision_of(session, self.tree_id, self.whole))
        return kept

    def _write(
        self, newest: int, before: Whole, after: Whole, step: "_Step", positions: Mapping[PartKey, int]
    ) -> Kept[Whole] | None:
        """Writes what differs as the next revision; None where another change came first."""
        old, new = parts_of(before), parts_of(after)
        fresh = {key: part for key, part in new.items() if old.get(key) != part}
        for part in fresh.values():
            check_limits(part)
        packed = {key: Packed(part) for key, part in fresh.items()}
        line = json.dumps(self.line(after), ensure_ascii=False)
        with self.database.writing() as session:
            if newest == 0:
                self._begin(session)
            moved = session.scalar(
                update(TreeRow)
                .where(TreeRow.id == self.tree_id, TreeRow.revision == newest, TreeRow.deleted_at.is_(None))
                .values(revision=newest + 1, changed_at=now(), line=line)
                .returning(TreeRow.revision)
            )
            if moved is None:
                return None
            keep(session, packed.values())
            point_all(session, self.tree_id, moved, old, new, packed, positions)
            root = root_of(session, row_of(session, self.tree_id, newest)).number
            session.add(
                ChangeRow(
                    tree_id=self.tree_id,
                    number=moved,
                    saved_at=now(),
                    cause=step.cause,
                    of=step.of,
                    words=json.dumps(step.words, ensure_ascii=False),
                    undo_to=root if step.cause in {"change", "return"} else step.undo_to,
                    redo_to=step.redo_to,
                )
            )
            session.flush()
            _check_size(session, self.tree_id, self.whole)
        return Kept(id=self.tree_id, revision=moved, whole=after)

    def _begin(self, session: Session) -> None:
        """Makes the house where it is not kept yet, so that its first change can be undone."""
        if session.get(TreeRow, self.tree_id) is None:
            create(session, NewTree.of(House(), {}), self.tree_id, revision=0)


@dataclass(frozen=True, slots=True, kw_only=True)
class _States(Generic[Whole]):
    """What a save is worked out from."""

    revision: int  # the newest
    newest: Whole
    base: Whole  # what the change was made on
    seen: Whole | None  # what the user has decided about


@dataclass(frozen=True, slots=True, kw_only=True)
class _Return(Generic[Whole]):
    """The state now, the one to go to, and where its parts stood."""

    newest: Whole
    target: Whole
    positions: Mapping[PartKey, int]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Step:
    """What a new revision says of itself, and where undo and redo lead from it."""

    cause: str
    of: int | None = None
    words: tuple[str, ...] = ()
    undo_to: int | None = None
    redo_to: int | None = None


def _of_parts(keys: Collection[PartKey], mine: Any, theirs: Any, names: Names) -> Clashes:
    """What is to be asked where two changes are each sound and together are not: all that differs in those parts."""
    sides = [
        whole_of(type(mine), [(key, part) for key, part in parts_of(side).items() if key in keys or key.kind == key.id])
        for side in (theirs, mine)
    ]
    differing = (one for one in differences(*sides) if one.path[0].spec.name in {key.kind for key in keys})
    asked = [clash_of(one, names) for one in differing if not one.path[-1].spec.silent]
    return Clashes(tuple(asked[:_MOST_ASKED]))


def _tidied(base: Any, after: Any) -> Any:
    """A changed whole without what hung on the things it removed."""
    for kind, target in targets(base):
        if (kind, target) not in targets(after):
            after = without(after, kind, target)
    return after


def _check_size(session: Session, tree_id: str, whole: type) -> None:
    """Refuses more parts of a kind, or more content, than a file could bring in again."""
    found = counts(session, tree_id)
    for spec in fields_of(whole):
        limit = spec.shape.limit
        if isinstance(limit, Count) and found.get(spec.name, 0) > limit.most:
            raise NotFitting(spec.name, f"{spec.title.capitalize()}: {found[spec.name]} of them; at most {limit.most} are kept.")
    size = session.scalar(
        select(func.sum(ContentRow.size)).join(PartRow, PartRow.hash == ContentRow.hash).where(PartRow.tree_id == tree_id)
    )
    if (size or 0) > MOST_MATCH_BYTES:
        raise NotFitting("", f"With this it would hold more than {MOST_MATCH_BYTES / 1e6:g} MB, the most that one match keeps.")
