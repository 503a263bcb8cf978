"""Which role of a family an ingredient can serve: by the family's own list, or as kin of what is listed."""

from collections.abc import Collection, Mapping
from enum import IntEnum
from functools import cache

from fern_match.core.data import rows
from fern_match.core.families.tables import Families, Family, Role

CHOCOLATE = "chocolate"


def is_of_chocolate(family: Family) -> bool:
    """Whether a family is chocolate as it is bought, and nothing else."""
    return [role.name for role in family.roles] == [CHOCOLATE]


# Which opened families a closed chocolate can stand for, by what its id begins with.
_OPENED: Mapping[str, tuple[str, ...]] = {
    "dark": ("dark-coat-open", "sugar-free-dark-coat-open"),
    "semi": ("dark-coat-open", "sugar-free-dark-coat-open"),
    "milk": ("milk-coat-open", "sugar-free-milk-coat-open", "plant-milk-coat-open"),
    "white": ("white-coat-open", "plant-milk-coat-open", "plant-white-coat-open"),
    "caramelised": ("white-coat-open",),
    "compound": ("compound-coat-open",),
    "vegan": ("plant-milk-coat-open",),
    "sugar": ("sugar-free-dark-coat-open", "sugar-free-milk-coat-open"),
}
# Roles whose ingredients do each other's work: plant cream for cream, syrup for sugar in what is boiled.
_ROLE_KIN: Mapping[str, tuple[str, ...]] = {
    "dairy-liquid": ("plant-liquid",),
    "plant-liquid": ("dairy-liquid",),
    "nut-solids": ("seed-solids",),
    "seed-solids": ("nut-solids",),
    "flour": ("crumb",),
    "fibre-bulk": ("sweet-bulk",),
    "sweet-bulk": ("fibre-bulk", "doctor-sugar"),
    "doctor-sugar": ("humectant",),
    "humectant": ("doctor-sugar",),
}
_VACANT_ROLE = 3.0  # cost of a required role that nothing on the statement serves
_KIN_ROLE = 1.2  # cost of one that only kin serves
_OUTSIDER = 1.0  # cost of an ingredient that is known to be in the component and has no role
_MISSING_USUAL = 0.25  # cost of an optional role that is usually there and is not


_MOST_REMEMBERED = 20_000


class Grade(IntEnum):
    """How well a role takes an ingredient."""

    NONE = 0
    KIN = 1  # serves this role in some other family
    LISTED = 2


@cache
def alike(ingredient_id: str) -> frozenset[str]:
    """An ingredient and those that labels, or cooks, do not tell from it (`data/alike.csv`)."""
    return frozenset({ingredient_id}).union(*(group for group in _groups() if ingredient_id in group))


@cache
def _groups() -> tuple[frozenset[str], ...]:
    return tuple(frozenset(row["ingredients"].split("|")) for row in rows("alike.csv"))


def grade(known: Families, role: Role, ingredient_id: str) -> Grade:
    """How well a role takes an ingredient."""
    same = alike(ingredient_id)
    if not same.isdisjoint(role.admits):
        return Grade.LISTED
    names = {role.name, *_ROLE_KIN.get(role.name, ())}
    return Grade.KIN if any(not names.isdisjoint(known.roles_served.get(one, ())) for one in same) else Grade.NONE


def is_usual(role: Role, ingredient_id: str) -> bool:
    """Whether an ingredient, or one that is not told from it, is what a role usually is."""
    return role.default_id in alike(ingredient_id)


def best_role(known: Families, roles: Collection[Role], ingredient_id: str) -> tuple[Role, Grade] | None:
    """The role that takes an ingredient best, the first of equals; None when none does."""
    served = known.roles_served.get(ingredient_id, frozenset())
    ranked = [(role, grade(known, role, ingredient_id)) for role in roles]
    best = max(ranked, key=lambda pair: (pair[1], pair[0].name in served), default=None)
    return best if best is not None and best[1] > Grade.NONE else None


def role_of(known: Families, family: Family, ingredient_id: str) -> tuple[Role, Grade] | None:
    """The role of a family that takes an ingredient best, the first of equals; None when none does. Looked up once."""
    if known.by_id.get(family.id) is not family:
        return best_role(known, family.roles, ingredient_id)
    key = (family.id, ingredient_id)
    if key not in known.roles_found:
        if len(known.roles_found) > _MOST_REMEMBERED:
            known.roles_found.clear()
        known.roles_found[key] = best_role(known, family.roles, ingredient_id)
    found: tuple[Role, Grade] | None = known.roles_found[key]
    return found


def opened_families(known: Families, role: Role) -> tuple[Family, ...]:
    """The families that describe a role's chocolate by its ingredients instead of as one bought thing.

    Args:
        role: A role named chocolate; any other opens into nothing.
    """
    if role.name != CHOCOLATE:
        return ()
    opened: dict[str, Family] = {}
    for admitted in role.admits:
        for family_id in _OPENED.get(admitted.split("-")[0], ()):
            opened.setdefault(family_id, known[family_id])
    return tuple(opened.values())


def stands_for(chocolate_id: str, opened: Family) -> bool:
    """Whether a bought chocolate is what an opened family describes by its ingredients."""
    return opened.id in _OPENED.get(chocolate_id.split("-", maxsplit=1)[0], ())


def all_opened_families(known: Families) -> tuple[Family, ...]:
    """Every family that describes a chocolate by its ingredients."""
    names = dict.fromkeys(name for kinds in _OPENED.values() for name in kinds)
    return tuple(known[name] for name in names)


def misfit(known: Families, family: Family, ingredient_ids: Collection[str], *, complete: bool) -> float:
    """How badly a family explains ingredients; 0 is perfect.

    Args:
        ingredient_ids: What the statement names for it.
        complete: Whether these and no others make the component (its own bracket), so that each needs a role.
    """
    key = (family.id, tuple(sorted(ingredient_ids)), complete)
    cost = known.remembered.get(key)
    if cost is None:
        if len(known.remembered) > _MOST_REMEMBERED:
            known.remembered.clear()
        cost = known.remembered[key] = _misfit(known, family, ingredient_ids, complete=complete)
    return cost


def _misfit(known: Families, family: Family, ingredient_ids: Collection[str], *, complete: bool) -> float:
    cost = 0.0
    for role in family.roles:
        served = grade_of(known, role, ingredient_ids)
        if served is Grade.LISTED or role.name == "water":
            continue
        if role.optional:
            cost += _MISSING_USUAL if role.typical > 0.02 else 0.0
        else:
            cost += _KIN_ROLE if served is Grade.KIN else _VACANT_ROLE
    if complete:
        cost += sum(_OUTSIDER * (1 - _taken(known, family, name) / 2) for name in ingredient_ids)
    return cost


def grade_of(known: Families, role: Role, ingredient_ids: Collection[str]) -> Grade:
    """How well a role is served by what is named together; a chocolate also by its own parts.

    Args:
        ingredient_ids: What the statement names for the component.
    """
    served = max((grade(known, role, name) for name in ingredient_ids), default=Grade.NONE)
    if served is Grade.NONE and role.name == CHOCOLATE and opened_families(known, role):
        return _grade_opened(known, role, ingredient_ids)
    return served


def _taken(known: Families, family: Family, ingredient_id: str) -> float:
    best = role_of(known, family, ingredient_id)
    if best is not None:
        return float(best[1])
    opened = [role_of(known, inner, ingredient_id) for role in family.roles for inner in opened_families(known, role)]
    return float(max((found[1] for found in opened if found is not None), default=Grade.NONE))


def _grade_opened(known: Families, role: Role, ingredient_ids: Collection[str]) -> Grade:
    costs = [
        sum(
            max((grade(known, inner, name) for name in ingredient_ids), default=Grade.NONE) is Grade.NONE
            for inner in opened.roles
            if not inner.optional
        )
        for opened in opened_families(known, role)
    ]
    return Grade.LISTED if costs and min(costs) == 0 else Grade.NONE
