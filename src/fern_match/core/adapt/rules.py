"""Rules: what must not be in a piece, and how much of something it may hold at most, or must at least.

Worked examples: net carbohydrate of 40 g carbohydrate with 12 g fibre, 8 g erythritol and 5 g allulose: 40 - 12 - 8 - 5 = 15 g.
Protein at 20 % of the energy of a piece of 180 kcal: 36 kcal, 9 g of protein at 4 kcal a gram.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache

from fern_match.core.data import rows
from fern_match.core.errors import CoreError
from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.food.nutrients import salt_g
from fern_match.core.food.together import NUTS_TOGETHER, OF_ANIMALS, TREE_NUTS, may_hold, unexplained
from fern_match.core.formulate import Formula, FormulaIngredient, FormulaLayer
from fern_match.core.formulate.record.diet import vegan_in
from fern_match.core.formulate.record.properties import row_per_gram
from fern_match.core.label.rows import Region, RowId

_NUTS = TREE_NUTS | NUTS_TOGETHER
_PEANUTS = frozenset({"peanut", "peanuts"})
_SAME = {
    "peanuts": _PEANUTS,
    "nuts": _NUTS,
    "nuts and peanuts": _NUTS | _PEANUTS,
    "gluten": frozenset({"gluten", "wheat"}),
}
_LEAST_G = 1e-6
OWN_MEASURES = {  # what a limit of one's own can be about
    "fat": Nutrient.FAT,
    "saturates": Nutrient.SATURATES,
    "carbohydrate": Nutrient.CARBOHYDRATE,
    "sugars": Nutrient.SUGARS,
    "fibre": Nutrient.FIBRE,
    "protein": Nutrient.PROTEIN,
    "polyols": Nutrient.POLYOLS,
    "salt": Nutrient.SODIUM,
}
ENERGY = "energy"
OF_ENERGY = "energy"  # the basis of a limit that is a share of the energy
_KCAL_OF_PROTEIN = 4.0  # a gram, in every region's factors
_OFF = {"net carbohydrate": 0.5, "net carbohydrate, all polyols off": 1.0, "net carbohydrate, polyols counted": 0.0}
_MEASURED = {  # what must be known of an ingredient to hold it to a limit
    "added sugars": (Nutrient.ADDED_SUGARS,),
    **dict.fromkeys(_OFF, (Nutrient.CARBOHYDRATE,)),
    ENERGY: (Nutrient.FAT, Nutrient.CARBOHYDRATE, Nutrient.PROTEIN, Nutrient.FIBRE, Nutrient.POLYOLS, Nutrient.ALCOHOL),
    **{what: (nutrient,) for what, nutrient in OWN_MEASURES.items()},
}


SET = "set"
NONE_DECLARED: Mapping[str, frozenset[str]] = {}


@dataclass(frozen=True, slots=True)
class RuleSet:
    """Ingredients that a rule leaves out together, and those whose makers must be asked."""

    name: str
    forbids: tuple[str, ...]  # id:one, category:one, or over:figure:amount in 100 g
    asks: tuple[str, ...]
    source: str
    promises_not: str


@cache
def rule_sets() -> Mapping[str, RuleSet]:
    """Rules that leave out a set, by id.

    Source: data/rule_sets.csv.
    """
    return {
        row["id"]: RuleSet(
            row["name"],
            tuple(one for one in row["forbids"].split("|") if one),
            tuple(one for one in row["asks"].split("|") if one),
            row["source"],
            row["promises_not"],
        )
        for row in rows("rule_sets.csv")
    }


def rule_set(key: str) -> RuleSet:
    """One of them, by the id of its rule."""
    return rule_sets()[key]


def _is_of(terms: Sequence[str], food: Ingredient) -> bool:
    """Whether an ingredient is one of a set's; where a figure is not known see `_lacks_a_figure`."""
    for term in terms:
        kind, _, rest = term.partition(":")
        if kind == "over":
            column, _, most = rest.partition(":")
            if (food.per_100_g.get(Nutrient(column)) or 0.0) > float(most):
                return True
        elif rest == (food.id if kind == "id" else food.category):
            return True
    return False


def _lacks_a_figure(key: str, food: Ingredient) -> bool:
    """Whether nobody knows a figure that a set is about: then the ingredient is neither in it nor out of it."""
    columns = (term.split(":")[1] for term in rule_set(key).forbids if term.startswith("over:"))
    return any(food.per_100_g.get(Nutrient(column)) is None for column in columns)


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
    region: Region
    excludes: str = ""  # "animal", "allergen", "ingredient" or "category"
    excluded: str = ""  # the allergen, the ingredient or the category
    measure: str = ""  # of a limit: net carbohydrate, added sugars, or what a limit of one's own is about
    basis: str = ""  # piece, serving, 100 g, or share of the original
    limit: float | None = None
    least_basis_g: float = 0.0  # the law's reference amount: a smaller serving counts as this much, a larger one does for a least
    variant_of: str = ""  # the rule that counts the same in another way
    no_more: str = ""  # what a version may not have more of than before, for the claim's sake
    claim: bool = False  # whether a label may claim it by law, so that the limit is not one's own to move
    whole: float | None = None  # what a version holds, where the limit began as a share of that [g]
    least: bool = False  # whether the limit is the least there must be, not the most there may be

    @property
    def asked(self) -> str:
        """How to ask for this limit; empty where a share would be left that is no reduction."""
        if self.whole is None or self.limit is None:
            where = "" if self.claim or self.basis in {"piece", OF_ENERGY} else f"/{self.basis.replace(' ', '')}"
            return self.id if self.limit is None else f"{self.id}:{self.limit:g}{where}"
        less = 1 - self.limit / self.whole if self.whole > 0 else 0.0
        return f"{self.id}:{less:.2f}" if less > 0 else ""

    def forbids(self, food: Ingredient) -> str:
        """Why an ingredient may not be used: a sentence; empty where it may, or only depends on the maker."""
        if self.excludes == "animal" and food.vegan == "no":
            return f"{food.name} is of animal origin."
        if self.excludes == "allergen" and not self.named.isdisjoint(food.allergens):
            return f"{food.name} holds {self.excluded}."
        if self.excludes == "ingredient" and food.id == self.excluded:
            return f"{food.name} is to be left out."
        if self.excludes == "category" and food.category == self.excluded:
            return f"{food.name} is of a kind that is to be left out."
        if self.excludes == SET and _is_of(rule_set(self.excluded).forbids, food):
            return f"{food.name} is what “{self.name}” leaves out."
        return ""

    @property
    def named(self) -> frozenset[str]:
        """The allergens it keeps out, by the names of the tables."""
        return _SAME.get(self.excluded, frozenset({self.excluded}))

    def doubts(self, food: Ingredient) -> bool:
        """Whether the rule depends on the maker of an ingredient, or on a figure or an allergen of it that nobody has entered."""
        if self.excludes == "animal" and vegan_in(food, self.region) == "check":
            return True
        if self.excludes == SET and (_is_of(rule_set(self.excluded).asks, food) or _lacks_a_figure(self.excluded, food)):
            return True
        if self.excludes == "allergen" and not food.allergens_known:
            asked = may_hold(food)
            if not asked or not self.named.isdisjoint(asked):
                return True
        needed = {*_MEASURED.get(self.measure, ()), *(_MEASURED[ENERGY] if self.basis == OF_ENERGY else ())}
        return any(food.per_100_g.get(nutrient) is None for nutrient in needed)

    def measured(self, food: Ingredient) -> float:
        """What a gram of an ingredient adds to what the rule limits [g/g, or kcal/g of energy].

        Net carbohydrate is total carbohydrate less fibre, erythritol and allulose, and half, all or none of other polyols.

        Source: a convention of the diet; data/rules.csv; energy by the region's factors.
        """
        if self.measure == ENERGY:
            return row_per_gram(food, RowId.ENERGY_KCAL, self.region)
        if self.measure in OWN_MEASURES:
            return salt_g(_share(food, Nutrient.SODIUM)) if self.measure == "salt" else _share(food, OWN_MEASURES[self.measure])
        if self.measure == "added sugars":
            return _share(food, Nutrient.ADDED_SUGARS)
        if food.category == "acid":  # burnt as it is, and no sugar: diets leave it out of the count
            return 0.0
        counted_off = 1.0 if food.polyol_kind == "erythritol" else _OFF[self.measure]
        polyols = _share(food, Nutrient.POLYOLS) * counted_off
        total = _share(food, Nutrient.CARBOHYDRATE) - _share(food, Nutrient.FIBRE) - polyols - _share(food, Nutrient.ALLULOSE)
        return max(0.0, total)

    def short_by(self, food: Ingredient) -> float:
        """What a gram of an ingredient takes from, or with a minus adds to, the least that must be there.

        Of a share of the energy: the share's kcal of its energy less those of its protein [kcal/g], so that together they are 0
        or less where the share is reached. Of anything else what it holds, with a minus [g/g].
        """
        if self.basis != OF_ENERGY:
            return -self.measured(food)
        kcal = row_per_gram(food, RowId.ENERGY_KCAL, self.region)
        return (self.limit or 0.0) / 100 * kcal - _KCAL_OF_PROTEIN * self.measured(food)

    def is_missed(self, got: float) -> bool:
        """Whether an amount on the rule's basis is beyond the limit."""
        limit = self.limit or 0.0
        return got < limit - _LEAST_G if self.least else got > limit + _LEAST_G

    @property
    def bound(self) -> str:
        """“at most” or “at least”."""
        return "at least" if self.least else "at most"

    @property
    def step(self) -> float:
        """How far its limit is moved to see what that gives, in its unit."""
        size = 10.0 if self.measure == ENERGY else 1.0 if self.basis == OF_ENERGY else 0.5
        return -size if self.least else size

    @property
    def unit(self) -> str:
        """Of its limit."""
        return "%" if self.basis == OF_ENERGY else "kcal" if self.measure == ENERGY else "g"

    @property
    def a_basis(self) -> str:
        """What its limit is for: “a piece”, “a serving”, “in 100 g”, “of the energy”."""
        if self.basis == OF_ENERGY:
            return "of the energy"
        if self.least and self.least_basis_g:
            return f"a serving ({self.least_basis_g:g} g of a larger one)"
        least = f" of {self.least_basis_g:g} g or more" if self.least_basis_g else ""
        return "in 100 g" if self.basis == "100 g" else f"a {self.basis}{least}"

    def basis_g(self, piece_g: float, serving_g: float) -> float:
        """What the amount weighs that its limit is for [g]."""
        serving = max(serving_g, self.least_basis_g)
        if self.least and self.least_basis_g:
            serving = min(serving_g, self.least_basis_g)
        return {"serving": serving, "100 g": 100.0}.get(self.basis, piece_g)

    @property
    def is_of_sugar(self) -> bool:
        """Whether it limits sugar in one way or another; of energy, sugar is what gives way first."""
        return self.measure in {"sugars", "added sugars", ENERGY} or self.is_of_net_carbohydrate

    @property
    def is_of_net_carbohydrate(self) -> bool:
        """Whether it limits what is left of carbohydrate, by any way of counting."""
        return self.measure in _OFF


@dataclass(frozen=True, slots=True, kw_only=True)
class Breach:
    """Something in a version that breaks a rule, or may."""

    rule: str
    layer_id: str | None
    ingredient_id: str | None
    sentence: str
    doubtful: bool = False  # ask the maker
    whose: str = ""  # of a doubtful one, the ingredient and its layer
    ask: str = ""  # what to ask its maker
    name: str = ""  # of the ingredient, where the pantry can take the answer


def in_lines_of(formula: Formula, declared: Mapping[str, frozenset[str]]) -> Mapping[str, frozenset[str]]:
    """The label's allergens with those of their ingredients that a copy of the original has; of none that it has, nobody knows.

    Args:
        formula: The copy: nothing has gone from it, however a kitchen stands in for what the label names.
        declared: Allergens, each with the ingredients of which the label says so and the pantry does not.
    """
    lines = {line.ingredient_id for layer in formula.layers for line in layer.ingredients if line.there}
    return {one: foods & lines for one, foods in declared.items()}


def held_in(formula: Formula, pantry: Pantry) -> frozenset[str]:
    """The allergens that the ingredients of a version hold by the pantry.

    Args:
        formula: As read.
        pantry: Compositions.
    """
    lines = {line.ingredient_id for layer in formula.layers for line in layer.ingredients if line.there}
    return frozenset(allergen for key in lines if key in pantry for allergen in pantry[key].allergens)


def still_lost(formula: Formula, pantry: Pantry, declared: Mapping[str, frozenset[str]]) -> Mapping[str, frozenset[str]]:
    """Of the label's allergens those that no line of a version holds by the pantry, but for those whose lines are all gone.

    Args:
        formula: As read.
        pantry: Compositions.
        declared: Allergens, each with the lines it goes with, see `in_lines_of`; with none where nobody knows.
    """
    lines = {line.ingredient_id for layer in formula.layers for line in layer.ingredients if line.there}
    lost = (one for one in unexplained(declared, held_in(formula, pantry)) if not declared[one] or declared[one] & lines)
    return {one: declared[one] & lines for one in lost}


def unfound(
    formula: Formula, rules: Sequence[Rule], pantry: Pantry, declared: Mapping[str, frozenset[str]]
) -> tuple[Breach, ...]:
    """Allergens that rules are against, that the original's label declares, and that no line of a version holds by the pantry.

    Args:
        formula: As read.
        rules: Asked for.
        pantry: Compositions.
        declared: Allergens of the label, see `still_lost`.
    """
    lost = still_lost(formula, pantry, declared)
    found: list[Breach] = []
    for rule in rules:
        against = rule.named if rule.excludes == "allergen" else OF_ANIMALS if rule.excludes == "animal" else frozenset()
        for one in sorted(against.intersection(lost)):
            names = " and ".join(sorted(pantry[key].name for key in lost[one] if key in pantry))
            sentence = (
                f"The label says {one} of what stands here as {names}; the pantry does not. Write your own ingredient for it."
                if names
                else f"The original’s label declares {one}, and no line of this version holds it by the pantry. Find where it is."
            )
            found.append(Breach(rule=rule.id, layer_id=None, ingredient_id=None, sentence=sentence, doubtful=True))
    return tuple(found)


def breaches(
    formula: Formula,
    rules: Sequence[Rule],
    pantry: Pantry,
    serving_g: float,
    declared: Mapping[str, frozenset[str]] = NONE_DECLARED,
) -> tuple[Breach, ...]:
    """What in a version breaks rules, where it is, and what only may: ask the maker.

    Args:
        formula: As read.
        rules: Asked for.
        pantry: Compositions.
        serving_g: What a serving weighs [g], above 0.
        declared: Allergens of the label, of a copy of the original, each with the ingredients of which it says so and the pantry
            does not.
    """
    found = [*unfound(formula, rules, pantry, in_lines_of(formula, declared))]
    for rule in (one for asked in rules for one in resolved(asked, formula, pantry)):
        found += [
            breach
            for layer in formula.layers
            for line in layer.ingredients
            if line.grams > _LEAST_G or line.unread
            for breach in _by_line(rule, layer, line, pantry.by_id.get(line.ingredient_id))
        ]
        if rule.limit is not None and rule.measure:
            got, limit = amount_for(formula, rule, pantry, serving_g)
            if rule.is_missed(got):
                wanted = "are asked for" if rule.least else "are allowed"
                wanted = f"{rule.bound} {limit:.3g} {rule.unit} {rule.a_basis} {wanted}"
                sentence = f"{rule.measure.capitalize()} {got:.3g} {rule.unit}, where {wanted}."
                found.append(Breach(rule=rule.id, layer_id=None, ingredient_id=None, sentence=sentence))
    return tuple(found)


def _by_line(rule: Rule, layer: FormulaLayer, line: FormulaIngredient, food: Ingredient | None) -> list[Breach]:
    """How a line breaks a rule, or may; at most one."""
    why = rule.forbids(food) if food is not None else ""
    if food is not None and not why and not rule.doubts(food):
        return []
    ask = _questions().get(line.ingredient_id, "") if rule.excludes and not why else ""
    if rule.excludes == "allergen" and not why and food is not None:
        ask = f"whether it holds {rule.excluded}, and traces of it"
    if food is None:
        words = f"{line.name} is not in the pantry, so nothing is known of it."
    elif why:
        words = why
    elif rule.excludes:
        words = f"{food.name} depends on its maker: ask{' ' if ask else ''}{ask}."
    else:
        words = f"{food.name} does not say its {rule.measure}."
    return [
        Breach(
            rule=rule.id,
            layer_id=layer.layer_id,
            ingredient_id=line.ingredient_id,
            sentence=f"{layer.name}: {words}",
            doubtful=not why,
            whose=f"{line.name if food is None else food.name} in {layer.name}",
            ask=ask,
            name=food.name if food is not None and rule.excludes in {"animal", "allergen"} and not why else "",
        )
    ]


def amount_for(formula: Formula, rule: Rule, pantry: Pantry, serving_g: float) -> tuple[float, float]:
    """What a version holds of what a rule limits, and the limit, both on the rule's basis [g, or kcal; % of the energy].

    Args:
        formula: As read.
        rule: One with a limit.
        pantry: Compositions.
        serving_g: What a serving weighs [g], above 0.
    """
    known = [
        (line.grams, pantry[line.ingredient_id])
        for layer in formula.layers
        for line in layer.ingredients
        if line.ingredient_id in pantry
    ]
    total = sum(grams * rule.measured(food) for grams, food in known)
    if rule.basis == OF_ENERGY:
        kcal = sum(grams * row_per_gram(food, RowId.ENERGY_KCAL, rule.region) for grams, food in known)
        return (100 * _KCAL_OF_PROTEIN * total / kcal if kcal > 0 else 0.0), rule.limit or 0.0
    basis = rule.basis_g(formula.piece_g, serving_g)
    return (total / formula.piece_g * basis if formula.piece_g > 0 else 0.0), rule.limit or 0.0


def resolved(rule: Rule, formula: Formula, pantry: Pantry) -> tuple[Rule, ...]:
    """A rule that compares with the version, as limits in grams or kcal a piece; any other as it is.

    Worked example: 30 % less sugars of 20 g are at most 14 g; where the law asks for no more energy, what there is now is one
    more limit.

    Args:
        rule: As asked for.
        formula: The version.
        pantry: Compositions.
    """
    if rule.basis != "share" or rule.limit is None:
        return (rule,)
    whole = replace(rule, basis="piece")
    got, _ = amount_for(formula, whole, pantry, formula.piece_g)
    limited = replace(whole, limit=got * (1 - rule.limit), whole=got)
    if not rule.no_more:
        return (limited,)
    beside = replace(whole, id=f"{rule.id}-{rule.no_more}", measure=rule.no_more, no_more="", claim=False)
    now, _ = amount_for(formula, beside, pantry, formula.piece_g)
    return limited, replace(beside, limit=now, whole=now)


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


@cache
def _questions() -> dict[str, str]:
    """What to ask the maker of an ingredient, by its id.

    Source: data/ask_maker.csv.
    """
    return {key: row["ask"] for row in rows("ask_maker.csv") for key in row["ingredients"].split("|")}


@cache
def _approvals() -> tuple[tuple[frozenset[str], frozenset[str], str], ...]:
    return tuple(
        (frozenset(row["ingredients"].split("|")), frozenset(row["not_in"].split("|")), row["why"])
        for row in rows("approvals.csv")
    )
