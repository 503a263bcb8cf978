"""The family tables: `data/families.csv`, `data/family_roles.csv` and `data/traits.csv` as typed values."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from fern_match.core.data import rows
from fern_match.core.errors import NotKnown


@dataclass(frozen=True, slots=True, kw_only=True)
class Role:
    """What a sum of ingredients does in a family, with the window of its share of the as-added mass."""

    name: str
    least: float  # share of the as-added mass [g/g]
    typical: float
    most: float
    optional: bool
    admits: tuple[str, ...]  # ingredient ids
    default_id: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Traits:
    """How a family looks on a cut face and behaves at the bench."""

    texture: str
    tone: str  # colour, #rrggbb
    sticky: bool  # leaves some of itself on the knife
    boiled: bool  # made from a boiling syrup, where its family is heated
    usual_weight: float  # beside its neighbours' [relative]
    left_on_tools: float  # share of what was made that stays on pan, bowl and spatula [g/g]
    words: tuple[str, ...]  # what labels call it


@dataclass(frozen=True, slots=True, kw_only=True)
class Family:
    """A kind of component, such as soft caramel, with its working ratios and limits."""

    id: str
    name: str
    variant_of: str | None
    place: str  # coat, stack, core, inclusion, topping or any
    heated: bool
    end_c: tuple[float, float, float] | None  # low, typical, high: where its heating ends, at sea level [degC]
    water_lost_typical: float  # g driven off per g as added
    water_lost_most: float
    moisture_low: float  # of the finished component [g/g]
    moisture_typical: float
    moisture_high: float
    porosity_typical: float  # volume share of air or voids
    diet: str
    roles: tuple[Role, ...]
    traits: Traits
    note: str


@cache
def families() -> Mapping[str, Family]:
    """Every family by id, in the table's order."""
    roles: dict[str, list[Role]] = {}
    for row in rows("family_roles.csv"):
        roles.setdefault(row["family"], []).append(_role(row))
    table = {row["id"]: row for row in rows("families.csv")}
    looks = {row["family"]: _traits(row) for row in rows("traits.csv")}
    return {key: _family(row, tuple(roles[key]), _inherited(key, table, looks)) for key, row in table.items()}


def family(family_id: str) -> Family:
    """One family.

    Args:
        family_id: Such as `soft-caramel`.

    Raises:
        NotKnown: no family has this id.
    """
    try:
        return families()[family_id]
    except KeyError:
        raise NotKnown("family", family_id) from None


def root_of(family_id: str) -> str:
    """The family that a variant, or a variant of a variant, descends from; itself when it is no variant.

    Args:
        family_id: Such as `sugar-free-dark-coat-open`.

    Raises:
        NotKnown: no family has this id.
    """
    parent = family(family_id).variant_of
    return family_id if parent is None else root_of(parent)


def variants_of(family_id: str) -> tuple[Family, ...]:
    """The family itself, then all that share its root.

    Args:
        family_id: Any member.

    Raises:
        NotKnown: no family has this id.
    """
    root = root_of(family_id)
    return (
        family(family_id),
        *(other for other in families().values() if root_of(other.id) == root and other.id != family_id),
    )


def strength(role: str, ingredient_id: str) -> float:
    """How much of an ingredient does the work of its role's usual one [g/g]; 1 unless the table says otherwise.

    Args:
        role: A role's name.
        ingredient_id: Which ingredient.
    """
    return _strengths().get((role, ingredient_id), 1.0)


@dataclass(frozen=True, slots=True)
class ChocolateRule:
    """A least content that the law asks of a chocolate."""

    family: str
    region: str  # US, or EU for the EU and UK
    what: str  # cocoa, cocoa butter, milk, milk fat or fat
    minimum: float  # of the chocolate [g/g]


@cache
def chocolate_rules() -> tuple[ChocolateRule, ...]:
    """Least contents of chocolates by open family and region.

    Source: Directive 2000/36/EC; 21 CFR 163.123, .124, .130.
    """
    return tuple(
        ChocolateRule(row["family"], row["region"], row["what"], float(row["minimum_pct"]) / 100)
        for row in rows("chocolate_rules.csv")
    )


@cache
def _strengths() -> Mapping[tuple[str, str], float]:
    return {(row["role"], row["ingredient"]): float(row["share_of_usual"]) for row in rows("strengths.csv")}


def _inherited(key: str, table: Mapping[str, Mapping[str, str]], looks: Mapping[str, Traits]) -> Traits:
    while key not in looks:
        key = table[key]["variant_of"]
    return looks[key]


def _role(row: Mapping[str, str]) -> Role:
    return Role(
        name=row["role"],
        least=float(row["min_pct"]) / 100,
        typical=float(row["typ_pct"]) / 100,
        most=float(row["max_pct"]) / 100,
        optional=row["optional"] == "yes",
        admits=tuple(row["admits"].split("|")),
        default_id=row["default_id"],
    )


def _traits(row: Mapping[str, str]) -> Traits:
    return Traits(
        texture=row["texture"],
        tone=row["tone"],
        sticky=row["sticky"] == "yes",
        boiled=row["boiled"] == "yes",
        usual_weight=float(row["usual_weight"]),
        left_on_tools=float(row["left_on_tools_pct"]) / 100,
        words=tuple(row["words"].split("|")),
    )


def _family(row: Mapping[str, str], roles: tuple[Role, ...], traits: Traits) -> Family:
    return Family(
        id=row["id"],
        name=row["name"],
        variant_of=row["variant_of"] or None,
        place=row["place"],
        heated=row["heated"] == "yes",
        end_c=(float(row["end_temp_c_low"]), float(row["end_temp_c_typ"]), float(row["end_temp_c_high"]))
        if row["end_temp_c_typ"]
        else None,
        water_lost_typical=float(row["water_lost_typ"]) / 100,
        water_lost_most=float(row["water_lost_max"]) / 100,
        moisture_low=float(row["moisture_low"]) / 100,
        moisture_typical=float(row["moisture_typ"]) / 100,
        moisture_high=float(row["moisture_high"]) / 100,
        porosity_typical=float(row["porosity_typ"] or 0.0),
        diet=row["diet"],
        roles=roles,
        traits=traits,
        note=row["note"],
    )
