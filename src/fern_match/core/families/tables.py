"""The family tables: `data/families.csv`, `data/family_roles.csv` and `data/traits.csv` as typed values."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache, cached_property
from typing import Any

from fern_match.core.data import rows
from fern_match.core.errors import NotKnown
from fern_match.core.record import digest


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

    @property
    def is_whole(self) -> bool:
        """Whether it is all there is to a layer: the chocolate of a bought coat, a bought wafer, nuts."""
        return self.typical >= _WHOLE


_WHOLE = 0.9  # usual share from which nothing beside a role matters [g/g]
_WET = 0.06  # water in the finished component, from which it is no dry or fatty mass [g/g]
UNKNOWN_TEXTURE, UNKNOWN_TONE = "smooth", "#c9bda8"  # of a layer whose family no table knows


@dataclass(frozen=True, slots=True, kw_only=True)
class Traits:
    """How a family looks on a cut face and behaves at the bench."""

    texture: str
    tone: str  # colour, #rrggbb
    sticky: bool  # leaves some of itself on the knife
    boiled: bool  # made from a boiling syrup, where its family is heated
    all_in_pan: bool  # all of it is in the pan as the boil ends: its moisture is that of the pan
    usual_weight: float  # beside its neighbours' [relative]
    left_on_tools: float  # share of what was made that stays on pan, bowl and spatula [g/g]
    glass: bool  # whether it is a hard glass of sugar
    crisp_to: float | None  # water activity up to which it stays crisp; None of what is not crisp
    words: tuple[str, ...]  # what labels call it


FROM_PARTS, BOUGHT = "from parts", "bought"


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
    porosity_low: float  # volume share of air or voids
    porosity_typical: float
    porosity_high: float
    water_activity: tuple[float, float] | None  # low, high of the finished component
    diet: str
    made: str  # "from parts" of a chocolate whose parts are weighed, "bought", or empty: made as usual
    chocolate: str  # white, milk or dark; empty of what is none
    grained: bool  # whether its sucrose has crystallised, so that its syrup is saturated and no more
    sorts: frozenset[str]  # what it counts as for rules that hold for several families: "baked", "compound"; its root's too
    roles: tuple[Role, ...]
    traits: Traits
    note: str

    @property
    def wet(self) -> bool:
        """Whether a syrup or another watery phase runs through it, in which a polyol is to stay dissolved."""
        clear = not self.grained and self.traits.texture not in {"grain", "pieces"}
        return clear and self.place != "coat" and self.moisture_typical >= _WET


@dataclass(frozen=True)
class Families:
    """Families by id."""

    by_id: Mapping[str, Family]

    def __reduce__(self) -> tuple[Any, ...]:
        """Sent by name where they are those that ship, else by what they are made of, without what was remembered of them."""
        return (standard_families, ()) if self is standard_families() else (Families, (self.by_id,))

    def __getitem__(self, family_id: str) -> Family:
        try:
            return self.by_id[family_id]
        except KeyError:
            raise NotKnown("family", family_id) from None

    def __contains__(self, family_id: object) -> bool:
        return family_id in self.by_id

    def all(self) -> Iterable[Family]:
        """Every family, in the table's order."""
        return self.by_id.values()

    def root_of(self, family_id: str) -> str:
        """The family that a variant, or a variant of a variant, descends from; itself when it is no variant.

        Raises:
            NotKnown: no family has this id.
        """
        parent = self[family_id].variant_of
        return family_id if parent is None else self.root_of(parent)

    def variants_of(self, family_id: str) -> tuple[Family, ...]:
        """The family itself, then all that share its root.

        Raises:
            NotKnown: no family has this id.
        """
        root = self.root_of(family_id)
        others = (other for other in self.all() if self.root_of(other.id) == root and other.id != family_id)
        return (self[family_id], *others)

    @cached_property
    def remembered(self) -> dict[tuple[str, tuple[str, ...], bool], float]:
        """Misfits counted once: a study asks for the same ones at every change."""
        return {}

    @cached_property
    def roles_found(self) -> dict[tuple[str, str], Any]:
        """By family and ingredient: the role that takes it best, looked up once."""
        return {}

    @cached_property
    def roles_served(self) -> Mapping[str, frozenset[str]]:
        """Ingredient id -> names of the roles that some family lists it for."""
        served: dict[str, set[str]] = {}
        for family in self.all():
            for role in family.roles:
                for ingredient_id in role.admits:
                    served.setdefault(ingredient_id, set()).add(role.name)
        return {key: frozenset(names) for key, names in served.items()}

    @cached_property
    def key(self) -> str:
        """A fingerprint of every figure, for results that rest on them."""
        return digest(self.by_id)


@cache
def standard_families() -> Families:
    """The families that ship with the product: recalled working ranges (data/README.md)."""
    roles: dict[str, list[Role]] = {}
    for row in rows("family_roles.csv"):
        roles.setdefault(row["family"], []).append(_role(row))
    table = {row["id"]: row for row in rows("families.csv")}
    looks = {row["family"]: _traits(row) for row in rows("traits.csv")}
    return Families(
        {key: _family(row, tuple(roles[key]), _inherited(key, table, looks), _sorts(key, table)) for key, row in table.items()}
    )


def strength(role: Role, ingredient_id: str) -> float:
    """How much of an ingredient does the work of its role's usual one [g/g]; 1 unless a table says otherwise.

    Worked example: agar in a role whose window is written for gelatine is worth five times its weight, so 0.2 g do the work of a
    gram; where the window is written for agar, 1 g.

    Source: data/strengths.csv, and data/work.csv for what gels and what foams (approximate).
    """
    known = _strengths().get((role.name, ingredient_id))
    own, usual = _work().get((role.name, ingredient_id)), _work().get((role.name, role.default_id))
    if own is not None and usual is not None:
        return usual / own
    return known if known is not None else 1.0


@cache
def _work() -> Mapping[tuple[str, str], float]:
    """What a gram does in a function, beside a gram of what the function is measured by: role and ingredient -> factor."""
    return {(row["role"], row["ingredient"]): float(row["factor"]) for row in rows("work.csv")}


@dataclass(frozen=True, slots=True)
class ChocolateRule:
    """A least content that the law asks of a chocolate."""

    family: str
    region: str  # US, EU or UK
    what: str  # cocoa, dry cocoa without its fat, cocoa butter, milk, milk fat or fat
    minimum: float  # of the chocolate [g/g]


@cache
def chocolate_rules() -> tuple[ChocolateRule, ...]:
    """Least contents of chocolates by open family and region.

    In the UK milk chocolate may hold less cocoa and more milk: of both kinds the lower figures stand.

    Source: Directive 2000/36/EC, Annex I A 3 to 6; Cocoa and Chocolate Products (England) Regulations 2003; 21 CFR 163.123, .124,
    .130. Verify the current text.
    """
    return tuple(
        ChocolateRule(row["family"], row["region"], row["what"], float(row["minimum_pct"]) / 100)
        for row in rows("chocolate_rules.csv")
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class BuildSign:
    """Ingredients that speak for a layer of a family where no bracket names it."""

    family: str
    place: str
    needs: tuple[frozenset[str], ...]  # one of each group
    without: frozenset[str]  # none of these
    weight: float  # how strongly, beside other signs


@cache
def build_signs() -> tuple[BuildSign, ...]:
    """Every sign; rough, a proposal to be corrected."""
    return tuple(
        BuildSign(
            family=row["family"],
            place=row["place"],
            needs=tuple(frozenset(group.split("|")) for group in row["needs"].split(";")),
            without=frozenset(name for name in row["without"].split("|") if name),
            weight=float(row["weight"]),
        )
        for row in rows("build_signs.csv")
    )


def search_words(family_id: str) -> tuple[str, ...]:
    """Everyday words under which people look for a family; none for most."""
    return _search_words().get(family_id, ())


@cache
def _search_words() -> Mapping[str, tuple[str, ...]]:
    return {row["family"]: tuple(row["words"].split("|")) for row in rows("search_words.csv")}


@cache
def _strengths() -> Mapping[tuple[str, str], float]:
    return {(row["role"], row["ingredient"]): float(row["share_of_usual"]) for row in rows("strengths.csv")}


def _sorts(key: str, table: Mapping[str, Mapping[str, str]]) -> frozenset[str]:
    own = frozenset(name for name in table[key]["sorts"].split("|") if name)
    parent = table[key]["variant_of"]
    return own | _sorts(parent, table) if parent else own


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
        all_in_pan=row["all_in_pan"] == "yes",
        usual_weight=float(row["usual_weight"]),
        left_on_tools=float(row["left_on_tools_pct"]) / 100,
        glass=row["glass"] == "yes",
        crisp_to=float(row["crisp_to"]) if row["crisp_to"] else None,
        words=tuple(row["words"].split("|")),
    )


def _family(row: Mapping[str, str], roles: tuple[Role, ...], traits: Traits, sorts: frozenset[str]) -> Family:
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
        porosity_low=float(row["porosity_low"] or 0.0),
        porosity_typical=float(row["porosity_typ"] or 0.0),
        porosity_high=float(row["porosity_high"] or 0.0),
        water_activity=(float(row["aw_low"]), float(row["aw_high"])) if row["aw_low"] else None,
        diet=row["diet"],
        made=row["made"],
        chocolate=row["chocolate"],
        grained=row["grained"] == "yes",
        sorts=sorts,
        roles=roles,
        traits=traits,
        note=row["note"],
    )
