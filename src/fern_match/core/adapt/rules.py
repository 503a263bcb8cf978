"""Rules: what must not be in a piece, and how much of something it may hold at most.

Worked example: net carbohydrate of 40 g carbohydrate with 12 g fibre, 8 g erythritol and 5 g allulose: 40 - 12 - 8 - 5 = 15 g.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache

from fern_match.core.data import rows
from fern_match.core.errors import CoreError
from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.formulate import Formula
from fern_match.core.label.rows import Region

WITHOUT = "without-"
AT_MOST = "at-most-"
_ALLERGENS = ("milk", "egg", "gluten", "wheat", "nuts", "peanuts", "soy", "sesame", "coconut", "sulphites")
_NUTS = frozenset({"almond", "brazil nut", "cashew", "hazelnut", "macadamia", "pecan", "pistachio", "walnut"})
_SAME = {"peanuts": frozenset({"peanut", "peanuts"}), "nuts": _NUTS, "gluten": frozenset({"gluten", "wheat"})}
_LEAST_G = 1e-6
_OWN = {  # what a limit of one's own can be about
    "fat": Nutrient.FAT,
    "saturates": Nutrient.SATURATES,
    "carbohydrate": Nutrient.CARBOHYDRATE,
    "sugars": Nutrient.SUGARS,
    "protein": Nutrient.PROTEIN,
    "polyols": Nutrient.POLYOLS,
    "salt": Nutrient.SODIUM,
}
_SALT = 2.5 / 1000  # g of salt for a mg of sodium
_SUGGESTED = 0.8  # of what the version holds
_MEASURED = {  # what must be known of an ingredient to hold it to a limit
    "sugars": (Nutrient.SUGARS,),
    "added sugars": (Nutrient.ADDED_SUGARS,),
    "net carbohydrate": (Nutrient.CARBOHYDRATE,),
    **{what: (nutrient,) for what, nutrient in _OWN.items()},
}


@dataclass(eq=False)
class BadRule(CoreError):
    """A rule that is not known, or a limit that is none."""

    sentence: str

    def __str__(self) -> str:
        return self.sentence


@dataclass(frozen=True, slots=True, kw_only=True)
class Rule:
    """One rule."""

    id: str
    name: str
    source: str
    promises_not: str
    excludes: str = ""  # "animal", an allergen, or "ingredient"
    excluded: str = ""  # the allergen or the ingredient
    measure: str = ""  # of a limit: net carbohydrate, added sugars, or what a limit of one's own is about
    basis: str = ""  # piece, serving, 100 g, or share of the original
    limit: float | None = None
    claim: bool = False  # whether a label may claim it by law, so that the limit is not one's own to move
    whole: float | None = None  # what a version holds, where the limit began as a share of that [g]

    @property
    def asked(self) -> str:
        """How to ask for this limit; empty where a share would be left that is no reduction."""
        if self.whole is None or self.limit is None:
            return self.id if self.limit is None else f"{self.id}:{self.limit:g}"
        less = 1 - self.limit / self.whole if self.whole > 0 else 0.0
        return f"{self.id}:{less:.2f}" if less > 0 else ""

    def forbids(self, food: Ingredient) -> str:
        """Why an ingredient may not be used: a sentence; empty where it may, or only depends on the maker."""
        if self.excludes == "animal" and food.vegan == "no":
            return f"{food.name} is of animal origin."
        if self.excludes == "allergen" and not _SAME.get(self.excluded, frozenset({self.excluded})).isdisjoint(food.allergens):
            return f"{food.name} holds {self.excluded}."
        if self.excludes == "ingredient" and food.id == self.excluded:
            return f"{food.name} is to be left out."
        return ""

    def doubts(self, food: Ingredient) -> bool:
        """Whether the rule depends on the maker of an ingredient, or on a figure of it that nobody has entered."""
        if self.excludes == "animal" and food.vegan not in {"yes", "no"}:
            return True
        return any(food.per_100_g.get(nutrient) is None for nutrient in _MEASURED.get(self.measure, ()))

    @property
    def a_basis(self) -> str:
        """What its limit is for: “a piece”, “a serving”, “in 100 g”."""
        return "in 100 g" if self.basis == "100 g" else f"a {self.basis}"

    def basis_g(self, piece_g: float, serving_g: float) -> float:
        """What the amount weighs that its limit is for [g]."""
        return {"serving": serving_g, "100 g": 100.0}.get(self.basis, piece_g)

    @property
    def is_of_sugar(self) -> bool:
        """Whether it limits sugar in one way or another."""
        return self.measure in {"sugars", "added sugars", "net carbohydrate"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Breach:
    """Something in a version that breaks a rule, or may."""

    rule: str
    layer_id: str | None
    ingredient_id: str | None
    sentence: str
    doubtful: bool = False  # ask the maker


def rules_of(asked: Sequence[str], region: Region, pantry: Pantry) -> tuple[Rule, ...]:
    """Rules by their ids: `vegan`, `keto`, `keto:4` (a limit in g), `sugar-free`, `without-milk`, `without-white-sugar`,
    `at-most-fat:5` (g a piece).

    Args:
        asked: Ids, each with a limit behind a colon where it has one.
        region: Whose limits.
        pantry: For rules that leave an ingredient out.

    Raises:
        BadRule: a rule is not known, a limit is no figure, or no rule is asked for.
    """
    if not asked:
        raise BadRule(f"Name at least one rule: {', '.join(rule_choices())}.")
    return tuple(_rule(one, region, pantry) for one in dict.fromkeys(asked))


def rule_choices() -> tuple[str, ...]:
    """Ids of the rules there are; any ingredient can be left out as well."""
    own = (f"{AT_MOST}{what}" for what in _OWN)
    return (*dict.fromkeys(row["id"] for row in rows("rules.csv")), *own, *(f"{WITHOUT}{name}" for name in _ALLERGENS))


def suggested_limits(formula: Formula, pantry: Pantry) -> dict[str, float]:
    """Limits of one's own to begin with, by their rules' ids: four fifths of what a version holds [g a piece].

    Args:
        formula: As read.
        pantry: Compositions.
    """
    found = {}
    for what in _OWN:
        rule = _own(what, 0.0)
        got, _ = amount_for(formula, rule, pantry, formula.piece_g)
        found[rule.id] = float(f"{_SUGGESTED * got:.2g}")
    return found


def shipped_rules(region: Region) -> tuple[Rule, ...]:
    """The rules of the table as they stand for a region.

    Args:
        region: Whose limits.
    """
    return tuple(_of_row(row) for row in rows("rules.csv") if _is_for(row, region))


def measured(food: Ingredient, measure: str) -> float:
    """What a gram of an ingredient adds to what a rule limits [g/g].

    Net carbohydrate is total carbohydrate less fibre, erythritol and allulose and half of other polyols.

    Source: a convention of the diet; data/rules.csv.
    """
    if measure in _OWN:
        return _share(food, _OWN[measure]) * (_SALT if measure == "salt" else 1.0)
    if measure == "added sugars":
        return _share(food, Nutrient.ADDED_SUGARS)
    polyols = _share(food, Nutrient.POLYOLS) * (1.0 if food.polyol_kind == "erythritol" else 0.5)
    total = _share(food, Nutrient.CARBOHYDRATE) - _share(food, Nutrient.FIBRE) - polyols - _share(food, Nutrient.ALLULOSE)
    return max(0.0, total)


def breaches(formula: Formula, rules: Sequence[Rule], pantry: Pantry, serving_g: float) -> tuple[Breach, ...]:
    """What in a version breaks rules, where it is, and what only may: ask the maker.

    Args:
        formula: As read.
        rules: Asked for.
        pantry: Compositions.
        serving_g: What a serving weighs [g], above 0.
    """
    found = []
    for rule in rules:
        for layer in formula.layers:
            for line in layer.ingredients:
                if line.grams <= _LEAST_G:
                    continue
                food = pantry.by_id.get(line.ingredient_id)
                if food is None:
                    sentence = f"{layer.name}: {line.name} is not in the pantry, so nothing is known of it."
                    found.append(
                        Breach(
                            rule=rule.id,
                            layer_id=layer.layer_id,
                            ingredient_id=line.ingredient_id,
                            sentence=sentence,
                            doubtful=True,
                        )
                    )
                    continue
                why = rule.forbids(food)
                if why or rule.doubts(food):
                    ask = "depends on its maker: ask." if rule.excludes else f"does not say its {rule.measure}."
                    sentence = f"{layer.name}: {why}" if why else f"{layer.name}: {food.name} {ask}"
                    found.append(
                        Breach(rule=rule.id, layer_id=layer.layer_id, ingredient_id=food.id, sentence=sentence, doubtful=not why)
                    )
        if rule.limit is not None and rule.measure:
            got, most = amount_for(formula, rule, pantry, serving_g)
            if got > most + _LEAST_G:
                sentence = f"{rule.measure.capitalize()} {got:.3g} g, where at most {most:.3g} g {rule.a_basis} are allowed."
                found.append(Breach(rule=rule.id, layer_id=None, ingredient_id=None, sentence=sentence))
    return tuple(found)


def amount_for(formula: Formula, rule: Rule, pantry: Pantry, serving_g: float) -> tuple[float, float]:
    """What a version holds of what a rule limits, and the limit, both on the rule's basis [g].

    Args:
        formula: As read.
        rule: One with a limit.
        pantry: Compositions.
        serving_g: What a serving weighs [g], above 0.
    """
    total = sum(
        line.grams * measured(pantry[line.ingredient_id], rule.measure)
        for layer in formula.layers
        for line in layer.ingredients
        if line.ingredient_id in pantry
    )
    basis = rule.basis_g(formula.piece_g, serving_g)
    return (total / formula.piece_g * basis if formula.piece_g > 0 else 0.0), rule.limit or 0.0


def not_approved(food_id: str, region: Region) -> str:
    """Why an ingredient is not used in a region; empty where it may be.

    Source: data/approvals.csv; verify the current text.
    """
    for key, where, why in _approvals():
        if food_id in key and region.value in where:
            return why
    return ""


def _share(food: Ingredient, nutrient: Nutrient) -> float:
    return (food.per_100_g.get(nutrient) or 0.0) / 100


def _rule(asked: str, region: Region, pantry: Pantry) -> Rule:
    key, _, limit = asked.partition(":")
    for row in rows("rules.csv"):
        if row["id"] == key and _is_for(row, region):
            rule = _of_row(row)
            return _with_limit(rule, _limit(asked, limit, most=1 if rule.basis == "share" else 1000)) if limit else rule
    if key.startswith(AT_MOST) and key.removeprefix(AT_MOST) in _OWN:
        if not limit:
            raise BadRule(f"“{asked}”: say how many grams a piece may hold at most, such as {key}:5.")
        return _own(key.removeprefix(AT_MOST), _limit(asked, limit))
    if key.startswith(WITHOUT):
        what = key.removeprefix(WITHOUT)
        if what in _ALLERGENS:
            return Rule(
                id=key,
                name=f"Without {what}",
                source="the pantry's allergens, on the cautious side",
                promises_not="no traces: read every packet, and do not rely on it for an allergy",
                excludes="allergen",
                excluded=what,
            )
        if what in pantry:
            return Rule(
                id=key,
                name=f"Without {pantry[what].name.lower()}",
                source="your own rule",
                promises_not="anything else",
                excludes="ingredient",
                excluded=what,
            )
    known = ", ".join(rule_choices())
    raise BadRule(f"“{asked}” is no rule known here. There are {known}, and {WITHOUT} with any ingredient's id.")


def _with_limit(rule: Rule, limit: float) -> Rule:
    """A rule with a limit of one's own; where it allows more than a claim does, it no longer bears the claim's name."""
    moved = replace(rule, limit=limit)
    if rule.claim and rule.limit is not None and (limit < rule.limit if rule.basis == "share" else limit > rule.limit):
        what = (
            f"{100 * limit:g} % less {rule.measure}"
            if rule.basis == "share"
            else f"At most {limit:g} g {rule.measure} {rule.a_basis}"
        )
        return replace(moved, name=what, source="your own limit", promises_not=f"no claim: it is not “{rule.name.lower()}”")
    return moved


def _own(what: str, limit: float) -> Rule:
    return Rule(
        id=f"{AT_MOST}{what}",
        name=f"At most {limit:g} g {what}",
        source="your own limit",
        promises_not="nothing that a label may claim",
        measure=what,
        basis="piece",
        limit=limit,
    )


def _is_for(row: Mapping[str, str], region: Region) -> bool:
    return not row["regions"] or region.value in row["regions"].split("|")


def _of_row(row: Mapping[str, str]) -> Rule:
    return Rule(
        id=row["id"],
        name=row["name"],
        source=row["source"],
        promises_not=row["promises_not"],
        excludes="animal" if row["kind"] == "no animal" else "",
        measure=row["measure"],
        basis=row["basis"],
        limit=float(row["limit"]) if row["limit"] else None,
        claim=row["claim"] == "yes",
    )


def _limit(asked: str, text: str, most: float = 1000) -> float:
    unit = "a share of what there is now, such as reduced-sugar:0.3" if most == 1 else "a figure in grams, such as keto:4"
    try:
        value = float(text)
    except ValueError:
        raise BadRule(f"“{asked}”: the limit is {unit}.") from None
    if not 0 <= value <= most:
        raise BadRule(f"“{asked}”: the limit is {unit}, from 0 to {most:g}.")
    return value


@cache
def _approvals() -> tuple[tuple[frozenset[str], frozenset[str], str], ...]:
    return tuple(
        (frozenset(row["ingredients"].split("|")), frozenset(row["not_in"].split("|")), row["why"])
        for row in rows("approvals.csv")
    )
