"""A restore: what a backup holds, beside what is here."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

from fern_match.core.food import Ingredient
from fern_match.core.house import House
from fern_match.core.kitchen import Kitchen
from fern_match.core.match import Match
from fern_match.core.record.parts import parts_of
from fern_match.store.changes import Keeper
from fern_match.store.contents import Packed
from fern_match.store.images import without_images
from fern_match.store.trees import NewTree, create, everything, house


@dataclass(frozen=True, slots=True, kw_only=True)
class Restored:
    """What a restore did."""

    added: int  # matches
    already_here: int
    ingredients: int  # of the backup's own pantry that were added
    ingredients_here: int  # that this house has by the same id; they stay as they are here
    kitchen_taken: bool
    words: str  # all of it in a sentence or two


def restore(keeper: Keeper[House], found: House, matches: Sequence[Match], line: Callable[[Match], Any]) -> Restored:
    """Adds every match that is not here in just this state, and what of the house is not here.

    The kitchen is taken where none was set up here; ingredients that this house lacks are added, those it has stay. All is packed
    before anything is written; all matches are kept, or none.

    Args:
        line: What the list shows of a match.
    """
    database = keeper.database
    packed = [(_hashes(without_images(match)[0]), NewTree.of(match, line(match))) for match in reversed(matches)]
    with database.writing() as session:  # looked at and added in one transaction: a second restore beside it finds them here
        _, here = everything(session)
        known = {_hashes(match) for match in here}
        fresh = [new for key, new in packed if key not in known]
        for new in fresh:
            create(session, new)
    with database.reading() as session:
        own = house(session)
    taken_kitchen = own.whole.kitchen == House().kitchen
    have = {food.id for food in own.whole.ingredients}
    added = tuple(food for food in found.ingredients if food.id not in have)
    keeper.save(own.revision, lambda now: _with(now, found.kitchen if taken_kitchen else now.kitchen, added))
    here_already, foods_here = len(matches) - len(fresh), len(found.ingredients) - len(added)
    taken = taken_kitchen and found.kitchen != House().kitchen
    foods = f" {len(added)} ingredients of its own pantry added" if added else ""
    foods += (
        f"{',' if added else ' Its own ingredients:'} {foods_here} are here already and stay as they are" if foods_here else ""
    )
    kitchen = (
        " Its kitchen was taken." if taken else " The kitchen stays as it is here." if found.kitchen != own.whole.kitchen else ""
    )
    return Restored(
        added=len(fresh),
        already_here=here_already,
        ingredients=len(added),
        ingredients_here=foods_here,
        kitchen_taken=taken,
        words=f"{len(fresh)} matches restored, {here_already} were already here.{foods}{'.' if foods else ''}{kitchen}",
    )


def _with(house: House, kitchen: Kitchen, added: Sequence[Ingredient]) -> House:
    have = {food.id for food in house.ingredients}
    return replace(house, kitchen=kitchen, ingredients=(*house.ingredients, *(food for food in added if food.id not in have)))


def _hashes(match: Match) -> tuple[str, ...]:
    return tuple(Packed(part).hash for part in parts_of(match).values())
