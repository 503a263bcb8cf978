"""What a layer may become under rules: the families, and for each the ingredients that are on offer."""

import itertools
import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from fern_match.core.adapt.bench import PROTEIN, SWEET, Bench
from fern_match.core.adapt.swaps import Swap, System, becomes, shade, swaps, swaps_for, systems
from fern_match.core.families import BOUGHT, FROM_PARTS, Family
from fern_match.core.families.admission import CHOCOLATE, Grade, is_of_chocolate, opened_families, role_of
from fern_match.core.food import Ingredient, Nutrient
from fern_match.core.formulate import (
    SMALL_ROLES,
    TASTED_ROLES,
    FormulaIngredient,
    FormulaLayer,
    candidates,
)
from fern_match.core.formulate.solving.pose import serves

_MOST_LINES = 20
_SYRUPY = 12.0  # g water in 100 g
_DRY = 6.0  # g water in 100 g: more makes a coat seize
# Roles by which a layer would be what it never was.
_NO_USUAL = frozenset({"cocoa-solids", "fruit-solids", "seed-solids", "nut-solids", "colour"})
_FRUIT, _MADE_OF = "fruit-solids", 0.5  # share from which a kind is made of it, and asked for as that [g/g]
_TOLD = 0.01  # of a layer, from which a line is tasted as what it is
_COCOA, _BROWN = "cocoa-solids", frozenset({"dark", "milk"})  # what a closed chocolate of these shades is opened with
_LIQUIDS = frozenset({"dairy-liquid", "plant-liquid"})  # roles of what is boiled with sugar
_LIQUID = 20.0  # g water in 100 g
_BY_THE_MILLIGRAM = "intense-sweetener"
_MIX, _MIXED = "sucralose-stevia-mix", ("sucralose-powder", "stevia-reb-a")  # one line for two that hide each other's aftertaste
_INTENSE = ("stevia-reb-a", "monk-fruit-extract")  # where there may be no mix: two, for the same reason
_MOST_WAYS = 24  # ways to take one swap for each line that gives way, that are priced
_INSTEAD_OF_SUGAR = SWEET | {_BY_THE_MILLIGRAM}
_SWEETENED = frozenset({"sweet-bulk", "doctor-sugar", CHOCOLATE, _BY_THE_MILLIGRAM})  # roles of a layer that is sweetened
_TASTED = TASTED_ROLES | {"cocoa-solids", "salt"}
# Of what a layer tastes of that stays at least: where a rule is about an amount its own may be what it limits.
_TASTED_LEAST, _TASTED_LEAST_BESIDE = 0.3, 0.7
_REQUIRED, _TELLS, _LITTLE_TELLS = 0.5, 0.03, 1e-4  # of what there is now, and of the layer, that a required ingredient makes
_LABELLED_VEGAN = "vegan-"  # how ids of the pantry's twins begin that are sure to be of plants
EMULSIFIER = "emulsifier"
_FLOWS = 0.003  # of a coat from its parts that is emulsifier at least [g/g]
_OF_GLASS = ("isomalt", "polydextrose")  # of sugarless sweeteners what makes a hard glass
_PRESENT = 0.5  # of its starting ratio that a system’s own stand-in is used at least: by it proposals differ


def kinds_for(layer: FormulaLayer, system: System | None, bench: Bench) -> list[list[Family]]:
    """The family itself, its variants that the system can sweeten, and chocolates from their parts.

    In two groups, the second for where nothing of the first fits: what is cooked without sugar becomes a family that is made
    so, as the sugar family's windows do not hold for it.
    """
    own = bench.families.by_id.get(layer.family)
    if own is None:
        return [[], []]
    if bench.short and all(_may_stay(line, bench) for line in layer.ingredients):  # all that is asked of it is more of something
        return [[own, *(bench.families[one] for one in becomes(own.id))], []]
    kinds = list(bench.families.variants_of(own.id))
    if is_of_chocolate(own):
        kinds += opened_families(bench.families, own.roles[0])
    wanted = [
        one
        for one in dict.fromkeys(one.id for one in kinds)
        if (one == own.id or not one.startswith(("aerated", "home-milk")))
        and _suits(bench.families[one], own, bench)
        and (one == own.id or _sweetened_by(bench.families[one], system))
        and (one == own.id or not _brings_fruit(bench.families[one], layer, bench))
    ]
    found = [bench.families[one] for one in wanted]
    if bench.short:
        found += [bench.families[one] for one in becomes(own.id) if one not in wanted]
    if is_of_chocolate(own):  # bought before made: nobody grinds chocolate as fine at home
        bought = [one for one in found if is_of_chocolate(one)]
        return [bought, [one for one in found if one not in bought]]
    made_for = _made_for(found, system, bench) if own.heated and bench.of_sugar else []
    return [made_for, [one for one in found if one not in made_for]]


def _brings_fruit(family: Family, layer: FormulaLayer, bench: Bench) -> bool:
    """Whether a kind cannot be without a fruit that the layer has none of: a milk ganache tastes of no raspberry."""
    fruit = next((role for role in family.roles if role.name == _FRUIT and not role.optional), None)
    if fruit is None or fruit.typical >= _MADE_OF:
        return False
    return all(serves(line, family, bench.families) != _FRUIT for line in layer.ingredients)


def _may_stay(line: FormulaIngredient, bench: Bench) -> bool:
    food = bench.pantry.by_id.get(line.ingredient_id)
    return food is None or bench.allowed(food, None)


def _suits(family: Family, own: Family, bench: Bench) -> bool:
    if family.id == own.id or family.made == BOUGHT:
        return True
    diet = family.diet
    if bench.of_sugar:
        return "sugar-free" in diet or "keto" in diet or (family.made == FROM_PARTS and (diet == "plain" or bench.of_animals))
    if not _sugary(family) and _sugary(own):
        return False
    if bench.of_animals:
        return "vegan" in diet or family.made == FROM_PARTS
    return "gluten-free" in diet or diet == "plain"


def _sugary(family: Family) -> bool:
    return "sugar-free" not in family.diet and "keto" not in family.diet


def _made_for(kinds: Sequence[Family], system: System | None, bench: Bench) -> list[Family]:
    """Families that are made under such rules: under keto those named for it, or where there are none what is sugar-free.

    Where protein is asked for beside, the sugar family's windows take more of it than what is sugar-free.
    """
    keto = any(rule.is_of_net_carbohydrate for rule in bench.rules)
    diets = ["keto"] * keto + ["sugar-free"] * (not (keto and bench.short))
    by_diet = ([one for one in kinds if diet in one.diet] for diet in diets)
    named = next((found for found in by_diet if found), [])
    return [one for one in kinds if one in named or (system is not None and one.id in system.families)]


def _sweetened_by(family: Family, system: System | None) -> bool:
    """Whether a system may use a family: some are made for one system."""
    return not any(family.id in one.families for one in systems()) or (system is not None and family.id in system.families)


def _intense(family: Family, system: System | None, bench: Bench) -> Sequence[str]:
    """What makes a layer sweeter by the milligram: one mix, or sucralose alone in hard sugar, which asks for more of it.

    Where either may not be used, what there is of plants beside it.
    """
    may = {key for key in (_MIX, *_MIXED, *_INTENSE) if key in bench.pantry and bench.allowed(bench.pantry[key], system)}
    if "hard" in family.sorts and _MIXED[0] in may:
        return (_MIXED[0],)
    if may.issuperset((_MIX, *_MIXED)):
        return (_MIX,)
    return [key for key in dict.fromkeys((*_MIXED, *_INTENSE)) if key in may][:2]


def offered(
    layer: FormulaLayer,
    family: Family,
    system: System | None,
    bench: Bench,
    only: Mapping[str, str] | None = None,
    *,
    own_first: bool = False,
) -> tuple[FormulaIngredient, ...]:
    """What a layer may be made from: what stays, what stands in for the rest, and what the family usually has.

    Args:
        layer: Of the version.
        family: That it is to be of.
        system: Whose stand-ins are on offer.
        bench: The rules.
        only: Ingredient -> the one swap that takes its place; any that goes elsewhere.
        own_first: Whether a line takes its system's own stand-in alone, where there is one: not three powders for one.
    """
    offer = _Offer(layer, family, system, bench, only or {}, own_first=own_first)
    for line in layer.ingredients:
        if line.locked:
            offer.add_own(line)
    for key in sorted(key for where, key in bench.required if where == layer.layer_id):
        offer.add_required(key)
    if bench.of_sugar and offer.admits.keys() & _SWEETENED - {CHOCOLATE}:  # nothing dissolves in bought chocolate alone
        for key in _intense(family, system, bench):
            offer.add(key, _BY_THE_MILLIGRAM, strange=True)
    for line in layer.ingredients:
        if not line.locked:
            offer.add_own(line)
    offer.add_sweeteners()
    offer.add_emulsifier()
    for line in sorted(layer.ingredients, key=lambda one: -one.grams):
        food = bench.pantry.by_id.get(line.ingredient_id)
        stays = food is not None and bench.allowed(food, system)
        if not stays or bench.of_sugar or bench.short:
            offer.add_for(line, only_more=stays and not bench.of_sugar)
    if family.id != layer.family:
        offer.add_usual()
    served = {serves(one, family, bench.families) for one in offer.found.values()}
    kept = {serves(one, family, bench.families) for key, one in offer.found.items() if key in offer.own}
    there = {serves(one, family, bench.families) for one in layer.ingredients} if family.id == layer.family else None
    needed = {role.name for role in family.roles if not role.optional and (there is None or role.name in there)}
    called_for = (needed | (offer.cocoa & offer.admits.keys())) - served  # what a version does without, it can do without
    other = family.id != layer.family and not offer.another_kind and bench.hold is None
    strange = {role.name for role in family.roles if role.optional} & offer.strange
    for one in candidates(layer, family, bench.pantry, bench.families):
        # what is there serves: nothing else is called for
        settled = bench.of_sugar and one.role == _BY_THE_MILLIGRAM
        if one.role in called_for or (other and one.role not in kept | strange and not settled):
            offer.add(one.ingredient_id, one.role)
    return tuple(offer.found.values())


@dataclass(frozen=True, slots=True)
class OneEach:
    """A way to replace what may not stay by one swap each."""

    swaps: Mapping[str, str]  # ingredient -> swap
    mixed: int  # lines mixed from several things though one that is bought stands in


def one_each(layer: FormulaLayer, family: Family, system: System | None, bench: Bench) -> list[OneEach]:
    """Ways to replace what may not stay by one swap each; none where no line has a choice.

    Args:
        layer: Of the version.
        family: That it is to be of.
        system: Whose stand-ins are on offer.
        bench: The rules.
    """
    offer = _Offer(layer, family, system, bench, {})
    choices: dict[str, list[str]] = {}
    mixed: set[str] = set()
    for line in layer.ingredients:
        food = bench.pantry.by_id.get(line.ingredient_id)
        if food is None or line.locked or bench.allowed(food, system):
            continue
        swapped = offer.swaps_of(line)
        shades = offer.other_shades(line, {key for swap in swapped for key in swap.to})
        allowed = [swap for swap in swapped if any(offer.may(key) and key not in shades for key in swap.to)]
        if allowed:
            choices[line.ingredient_id] = [swap.id for swap in allowed]
        if any(len(swap.to) == 1 for swap in allowed):
            mixed.update(swap.id for swap in allowed if len(swap.to) > 1)
    if (
        not choices
        or math.prod(len(found) for found in choices.values()) > _MOST_WAYS
        or all(len(found) == 1 for found in choices.values())
    ):
        return []
    ways = (dict(zip(choices, taken, strict=True)) for taken in itertools.product(*choices.values()))
    return [OneEach(way, sum(swap in mixed for swap in way.values())) for way in ways]


def takes_more(layer: FormulaLayer, bench: Bench) -> bool:
    """Whether a layer can hold more of what a version is short of: by a swap for one of its lines, or as another kind."""
    family = bench.families.by_id.get(layer.family)
    if family is None:
        return False
    stand_ins = {
        key
        for line in layer.ingredients
        for swap in swaps_for(line.ingredient_id, family.id)
        if swap.kind == "p"
        for key in swap.to
        if key in bench.pantry and role_of(bench.families, family, key) is not None
    }
    return bool(becomes(family.id) or stand_ins)


def gives_taste(line: FormulaIngredient, food: Ingredient | None) -> bool:
    """Whether a layer tastes of a line: by its role, or by what it is where no role takes it, such as lime juice in a fondant."""
    return line.role in TASTED_ROLES or (not line.role and food is not None and "flavour" in food.functions)


class _Offer:
    """What is on offer for a layer in one family."""

    def __init__(
        self,
        layer: FormulaLayer,
        family: Family,
        system: System | None,
        bench: Bench,
        only: Mapping[str, str],
        *,
        own_first: bool = False,
    ) -> None:
        self.family, self.system, self.bench, self.only, self.own_first = family, system, bench, only, own_first
        self.found: dict[str, FormulaIngredient] = {}
        self.foreign = _foreign(layer, system, bench)
        self.admits = {role.name: role.admits for role in family.roles}
        self.own = {line.ingredient_id: line.grams for line in layer.ingredients}
        self.finished_g = layer.finished_g
        before = bench.families.by_id.get(layer.family)
        self.own_roles = {role.name for role in before.roles} if before is not None else set()
        self.protein = system.id if system is not None and system.of == PROTEIN else _first_protein(bench)
        self.another_kind = family.id in becomes(layer.family)
        self.plain = not bench.of_sugar and _sugary(family)
        self.for_vegans = bench.calls_for("v")
        told = {serves(one, family, bench.families) for one in layer.ingredients if one.grams > _TOLD * layer.finished_g}
        self.cocoa = {_COCOA} if before is not None and before.chocolate in _BROWN else set()
        self.strange = _NO_USUAL - told - self.cocoa
        limited = any(rule.limit is not None for rule in bench.rules)
        self.tasted_least = _TASTED_LEAST if limited else _TASTED_LEAST_BESIDE

    def add_required(self, key: str) -> None:
        """Offers what must be used: about half of what there is now, or as much as tells."""
        now = self.own.get(key, 0.0)
        food = self.bench.pantry.by_id.get(key)
        little = food is not None and food.category in SMALL_ROLES  # categories bear the names of roles
        least = _REQUIRED * now if now > 0 else (_LITTLE_TELLS if little else _TELLS) * self.finished_g
        self.add(key, "", least, strange=True, rich=True, whatever=True)

    def add_own(self, line: FormulaIngredient) -> None:
        """Offers what is there already: of what a layer tastes of some stays, and it may be rich, being little."""
        food = self.bench.pantry.by_id.get(line.ingredient_id)
        if food is None or (line.unread and self.bench.allowed(food, None, rich=True, asking=True)):
            # nobody knows what it is, or how much of it there is: it stays as it is, and the question with it
            self.found[line.ingredient_id] = replace(line, role=self._role(line.ingredient_id, line.role), locked=True)
            return
        tasted = line.role in _TASTED or gives_taste(line, food)
        if line.locked and line.grams > 0 and self.bench.allowed(food, None, rich=True):
            self.found[line.ingredient_id] = replace(line, role=self._role(line.ingredient_id, line.role))  # fixed is fixed
        elif self.bench.allowed(food, self.system):
            stays = tasted and (line.role in self.admits or line.role not in self.own_roles)  # where it has a place
            self.add(line.ingredient_id, line.role, self.tasted_least * line.grams if stays else 0.0)
        elif self._stays_with_a_question(line, food):
            self.found[line.ingredient_id] = replace(line, role=self._role(line.ingredient_id, line.role), grams=0.0)
        elif tasted:
            self.add(line.ingredient_id, line.role, rich=True)

    def _stays_with_a_question(self, line: FormulaIngredient, food: Ingredient) -> bool:
        """Whether what its maker must be asked about may stay: nothing that is sure stands in for it."""
        if not self.bench.doubtful(food) or not self.bench.allowed(food, self.system, asking=True):
            return False
        return not any(
            key in self.bench.pantry and self.bench.allowed(self.bench.pantry[key], self.system)
            for swap in swaps_for(line.ingredient_id, self.family.id)
            if self._goes(swap)
            for key in swap.to
        )

    def add(
        self, key: str, role_name: str, least: float = 0.0, *, strange: bool = False, rich: bool = False, whatever: bool = False
    ) -> None:
        """Offers an ingredient, in a role of the family where it has one.

        Args:
            key: Of the ingredient.
            role_name: It is meant for.
            least: To be used at least [g].
            strange: Whether it may come in though no role takes it.
            rich: Whether it may hold much of what a rule limits.
            whatever: Whether it comes in though it belongs to another system.
        """
        food = self.bench.pantry.by_id.get(key)
        if food is None or key in self.found or len(self.found) >= _MOST_LINES:
            return
        if not (self._may_by_required(food) if whatever else self._may(food, rich=rich)):
            return
        role = self._role(key, role_name)
        wet = self.family.place == "coat" and (food.per_100_g.get(Nutrient.WATER) or 0.0) > _DRY  # water makes chocolate seize
        if (wet or not (role or strange)) and key not in self.own and not whatever:
            return
        self.found[key] = FormulaIngredient(ingredient_id=key, name=food.name, role=role, grams=0.0, least_g=least)

    def _may(self, food: Ingredient, *, rich: bool) -> bool:
        """Whether an ingredient may be used by the rules, and goes with the system and with a layer that keeps its sugar."""
        instead_of_sugar = food.category in _INSTEAD_OF_SUGAR or food.polyol_kind is not None
        called_for = self.for_vegans or self.bench.without_milk
        needless = food.id.startswith(_LABELLED_VEGAN) and not called_for  # its like is on offer
        if self.family.traits.glass and instead_of_sugar and not self._of_glass(food):
            return False
        if food.id in self.foreign or ((needless or (self.plain and instead_of_sugar)) and food.id not in self.own):
            return False
        return self.bench.allowed(food, self.system, rich=rich)

    def _of_glass(self, food: Ingredient) -> bool:
        """Whether a sweetener sets as glass: it is listed, or no powder; what grains by itself breaks what is clear."""
        listed = any(food.id in admits for admits in self.admits.values())
        return listed or food.id in self.own or food.polyol_kind is None

    def _may_by_required(self, food: Ingredient) -> bool:
        return self.bench.allowed(food, None, rich=True) or self.bench.doubtful(food)

    def _role(self, key: str, wanted: str) -> str:
        """The role an ingredient has in the family: the one it is meant for, or one that lists it; empty where none takes it."""
        best = role_of(self.bench.families, self.family, key)
        if wanted in _LIQUIDS and key not in self.admits.get(wanted, ()) and self._is_dry(key):
            return best[0].name if best is not None and best[0].name not in _LIQUIDS else ""
        if wanted not in self.admits:
            return best[0].name if best is not None else ""
        if best is not None and best[1] is Grade.LISTED and key not in self.admits[wanted]:
            return best[0].name
        return wanted

    def _is_dry(self, key: str) -> bool:
        """Whether it is no liquid: a fat or a nut paste that comes in for cream does not boil down with the sugar."""
        food = self.bench.pantry.by_id.get(key)
        return food is not None and (food.per_100_g.get(Nutrient.WATER) or 0.0) < _LIQUID

    def add_sweeteners(self) -> None:
        """Offers the system's own sweeteners and fibres; in a hard sugar what makes a glass, whatever the system."""
        glass = self.family.traits.glass
        for key, role_name in _sweeteners(self.family, self.system, self.bench):
            self.add(key, role_name)
        if self.bench.of_sugar and glass:
            for key in _OF_GLASS:
                self.add(key, "sweet-bulk", strange=True, whatever=True)

    def add_emulsifier(self) -> None:
        """Offers what lets a coat from its parts flow, and asks for it: without it takes a third more fat to coat."""
        if self.family.place == "coat":
            for key in self.admits.get(EMULSIFIER, ()):
                if key in self.bench.pantry and self.bench.allowed(self.bench.pantry[key], self.system):
                    self.add(key, EMULSIFIER, _FLOWS * self.finished_g)
                    return

    def add_for(self, line: FormulaIngredient, *, only_more: bool = False) -> None:
        """Offers what stands in for a line; of a plant system its own is used to a good part, so that proposals differ.

        Args:
            line: That gives way, or makes room.
            only_more: Whether it may stay as it is, and only makes room for what there is to be more of.
        """
        system = self.system
        swapped = [swap for swap in self.swaps_of(line) if swap.kind == "p" or not only_more]
        other_shades = self.other_shades(line, {key for swap in swapped for key in swap.to})
        for swap in swapped:
            wanted = system is not None and swap.system == system.id and swap.kind != "p" and not self.bench.of_sugar
            for key in swap.to:
                if key in other_shades:
                    continue
                share = swap.ratio.get(key, 0.0) / 100
                least = _PRESENT * share * line.grams if wanted and key == swap.to[0] else 0.0
                self.add(key, line.role, least, strange=line.role not in self.own_roles)
                wanted = False

    def swaps_of(self, line: FormulaIngredient) -> list[Swap]:
        """The swaps that may take a line's place."""
        found = [swap for swap in swaps_for(line.ingredient_id, self.family.id) if self._goes(swap)]
        if self.own_first and self.system is not None:
            shades = self.other_shades(line, {key for swap in found for key in swap.to})
            theirs = [one for one in found if one.system == self.system.id and one.kind != "p" and self.may(one.to[0])]
            found = [one for one in theirs if one.to[0] not in shades] or found
        wanted = self.only.get(line.ingredient_id)
        return [swap for swap in found if wanted in {None, swap.id}]

    def may(self, key: str) -> bool:
        """Whether an ingredient may come in."""
        return key in self.bench.pantry and self._may(self.bench.pantry[key], rich=False)

    def other_shades(self, line: FormulaIngredient, keys: Collection[str]) -> frozenset[str]:
        """Chocolates that nobody takes for a white, milk or dark one while one of its own shade is on offer."""
        pantry = self.bench.pantry
        wanted = shade(pantry.by_id.get(line.ingredient_id))
        shades = {key: shade(pantry[key]) for key in keys if key in pantry and self.bench.allowed(pantry[key], self.system)}
        if wanted is None or wanted not in shades.values():
            return frozenset()
        return frozenset(key for key, one in shades.items() if one not in {None, wanted})

    def add_usual(self) -> None:
        """Offers what each role of another family is usually served by, and what stands in for that.

        Of a family of another kind only what holds it together: it is to taste as before. In a straight swap only what that
        family cannot be without.
        """
        held = self.bench.hold is not None
        served = {serves(one, self.family, self.bench.families) for one in self.found.values()} if held else set()
        for role in self.family.roles:
            if role.name == _BY_THE_MILLIGRAM and self.bench.of_sugar:  # that is settled
                continue
            if self.another_kind and (role.name in _TASTED or role.typical <= 0):
                continue
            if (held and (role.optional or role.name in served)) or (role.optional and role.name in self.strange):
                continue
            usual = [key for key in role.admits if key in self.bench.pantry]
            for key in usual[:1]:
                if not self.bench.allowed(self.bench.pantry[key], self.system):
                    for swap in swaps_for(key, self.family.id):
                        for other in swap.to if self._goes(swap) else ():
                            self.add(other, role.name)
            for key in [one for one in usual if self.bench.allowed(self.bench.pantry[one], self.system)][:1]:
                self.add(key, role.name)

    def _goes(self, swap: Swap) -> bool:
        """Whether a swap goes with the system."""
        system = self.system
        if not self.bench.calls_for(swap.kind):
            return False
        if swap.kind == "p":
            return swap.system in {"", self.protein}
        return not swap.system or system is None or swap.system == system.id or _across(swap, system, self.bench)


def _foreign(layer: FormulaLayer, system: System | None, bench: Bench) -> frozenset[str]:
    """What only other systems of the same kind stand in with, and is not in the layer anyhow: so proposals differ in kind."""
    if system is None or bench.of_sugar:
        return frozenset()
    rivals = {one.id for one in systems() if one.of == system.of} - {system.id}
    theirs = {key for swap in swaps() if swap.system in rivals for key in swap.to}
    if system.of == PROTEIN:
        ours = {key for swap in swaps() if swap.system == system.id for key in swap.to}
        return frozenset(theirs - ours - {line.ingredient_id for line in layer.ingredients})
    ours = {key for swap in swaps() if swap.system not in rivals for key in swap.to}
    return frozenset(theirs - ours - {line.ingredient_id for line in layer.ingredients})


def _first_protein(bench: Bench) -> str:
    """The protein that comes in beside other rules: the first that they all allow; one, not several powders at once."""
    held = (
        (one.id, [bench.pantry[key] for key in sorted(one.members) if key in bench.pantry])
        for one in systems()
        if one.of == PROTEIN
    )
    return next((key for key, foods in held if any(bench.allowed(food, None) for food in foods)), "")


def _sweeteners(family: Family, system: System | None, bench: Bench) -> list[tuple[str, str]]:
    """A system's own sweeteners and fibres, by what they do in a family: powders are bulk, syrups keep from graining."""
    if not bench.of_sugar or system is None:
        return []
    names = {role.name for role in family.roles}
    found = []
    for key in sorted(system.members):
        food = bench.pantry.by_id.get(key)
        if food is None or food.category not in SWEET:
            continue
        wet = (food.per_100_g.get(Nutrient.WATER) or 0.0) > _SYRUPY
        wanted = "doctor-sugar" if wet else "sweet-bulk"
        best = role_of(bench.families, family, key)
        if best is not None and (best[1] is Grade.LISTED or wanted not in names):
            wanted = best[0].name
        if wanted in names:
            found.append((key, wanted))
    return found


def _across(swap: Swap, system: System, bench: Bench) -> bool:
    """Under a sugar rule stand-ins of any plant system go with any sweetener: where milk is kept out, or holds too much sugar."""
    plants = bench.of_animals or bench.without_milk_sugar
    return bench.of_sugar and plants and swap.system in {one.id for one in systems() if one.of != system.of}
