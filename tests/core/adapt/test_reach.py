"""Every swap of the table comes to something: there is a layer, a rule and a system under which its stand-ins are on offer."""

from collections.abc import Iterator

import pytest
from tests.bench import FAMILIES, PANTRY, layer, line

from fern_match.core.adapt import rules_of
from fern_match.core.adapt.bench import Bench
from fern_match.core.adapt.offer import kinds_for, offered
from fern_match.core.adapt.swaps import Swap, swaps, systems
from fern_match.core.families import Family
from fern_match.core.families.admission import best_role
from fern_match.core.formulate import FormulaLayer
from fern_match.core.label.rows import Region
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study

READING = StudyReading(Study(name="bench", region=Region.US), PANTRY)  # where allulose may be used
RULES = {
    "v": ["vegan"],
    "s": ["sugar-free", "no-added-sugar"],
    "k": ["keto", "reduced-sugar", "at-most-sugars:1"],
    "g": ["without-gluten"],
    "l": ["lactose-free", "without-milk"],
    "n": [
        "without-nuts", "without-peanuts", "without-soy", "without-sesame", "without-coconut", "without-egg",
        "without-palm", "without-alcohol", "kosher-style", "without-gelatine-and-alcohol",
    ],
    "p": ["high-protein"],
}  # fmt: skip
ANYWHERE = "granola"  # where what no role takes, such as marshmallow, is stirred in


def holding(key: str, family: Family) -> FormulaLayer | None:
    """A layer of a family with an ingredient that gives way; None where it has no place there."""
    taken = best_role(FAMILIES, family.roles, key)
    if taken is None and family.id != ANYWHERE:
        return None
    role = taken[0].name if taken is not None else ""
    others = [
        line(one.default_id, 10 * max(one.typical, 0.01), one.name)
        for one in family.roles
        if not one.optional and one.name != role
    ]
    return layer("a", family.id, line(key, 2.0, role), *others)


def trials(swap: Swap) -> Iterator[tuple[FormulaLayer, Bench, str]]:
    """Layers that hold what gives way, under rules that a swap of its kind is for, with that ingredient left out."""
    for key in (one for one in swap.of if one in PANTRY):
        for family in FAMILIES.all():
            made = holding(key, family)
            if made is None:
                continue
            for asked in RULES[swap.kind]:
                rules = rules_of([asked, f"without-{key}"], Region.US, PANTRY)
                bench = Bench(tuple(rules), READING, 40.0, frozenset(), frozenset(), short=swap.kind == "p")
                for system in [swap.system] if swap.system else ["", *(one.id for one in systems())]:
                    yield made, bench, system


@pytest.mark.parametrize("swap", swaps(), ids=lambda swap: swap.id)
def test_a_swap_is_reached(swap: Swap) -> None:
    """In a family that it is for; what its maker must be asked about is offered to nobody, and comes in where it is asked for."""
    by_id = {one.id: one for one in systems()}
    for made, bench, name in trials(swap):
        system = by_id.get(name)
        for group in kinds_for(made, system, bench):
            for family in group:
                if (swap.only and family.id not in swap.only) or family.id in swap.never:
                    continue
                ids = {one.ingredient_id for one in offered(made, family, system, bench)}
                if any(key in ids for key in swap.to if key != "water"):
                    return
    assert swap.kind == "v", f"{swap.id}: no layer is offered {', '.join(swap.to)}."
    assert all(PANTRY[key].vegan == "check" for key in swap.to), f"{swap.id}: no layer is offered {', '.join(swap.to)}."
