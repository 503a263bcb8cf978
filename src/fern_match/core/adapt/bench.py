"""What every trial of an adaptation needs: rules, study, pantry, and which ingredients they allow."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

from fern_match.core.adapt.rules import ENERGY, Rule, not_approved
from fern_match.core.adapt.swaps import System, systems
from fern_match.core.families import Families
from fern_match.core.food import Ingredient, Pantry
from fern_match.core.formulate import SMALL_ROLES
from fern_match.core.study.reading import StudyReading

_MILK = "whole-milk"
_RICH = {"sugars": 0.15, "added sugars": 0.02}  # from which an ingredient is not worth trying [g/g]
_RICH_NET = 0.45  # the same of net carbohydrate
_BY_DEGREES = frozenset({"reduced-sugar", "at-most-sugars"})  # what is rich in sugar may still be used
PROTEIN = "protein"  # what systems are for that bring it in
SWEET = frozenset({"polyol", "rare-sugar", "fibre"})


def never() -> bool:
    """Nobody asks to stop."""
    return False


@dataclass(frozen=True, slots=True)
class Bench:
    """What every trial needs."""

    rules: tuple[Rule, ...]
    reading: StudyReading
    serving_g: float
    forbidden: frozenset[str]
    required: frozenset[tuple[str, str]]  # layer and ingredient
    short: bool = False  # whether the version has less of something than a rule asks for at least
    hold: float | None = None  # how far what the rules allow may move, relative; any way where None
    without_milk_sugar: bool = False  # whether plants may stand in for milk though no rule keeps it out
    allergens: frozenset[str] = frozenset()  # of the version and its label: what brings another has its price
    buys_chocolate: bool = False  # whether no chocolate is ground at home from its parts where one can be bought
    # What layers alone cost at least, by layer, family and what is on offer: systems ask for the same again.
    costs: dict[tuple[object, ...], float | None] = field(default_factory=dict, compare=False)
    # Whether an ingredient may be used, by it, the system and how it is asked: layers and families ask for the same again.
    allowances: dict[tuple[str, str, bool, bool], bool] = field(default_factory=dict, compare=False)
    should_stop: Callable[[], bool] = field(default=never, compare=False)  # asked before each solving

    @property
    def pantry(self) -> Pantry:
        """Compositions."""
        return self.reading.pantry

    @property
    def families(self) -> Families:
        """Windows and variants."""
        return self.reading.families

    def under(self, rules: Sequence[Rule]) -> "Bench":
        """The same under other rules."""
        return replace(self, rules=tuple(rules), costs={}, allowances={})

    def without(self, key: str) -> "Bench":
        """The same with an ingredient less."""
        return replace(self, forbidden=self.forbidden | {key}, allowances={})

    def holding(self, room: float) -> "Bench":
        """The same, with what the rules allow held near its amount: a straight swap."""
        return replace(self, hold=room, costs={})

    def with_plants(self) -> "Bench":
        """The same, with plants on offer for milk."""
        return replace(self, without_milk_sugar=True)

    def buying(self) -> "Bench":
        """The same, with no chocolate ground at home where one can be bought."""
        return replace(self, buys_chocolate=True)

    @property
    def of_sugar(self) -> bool:
        """Whether a rule limits sugar."""
        return any(rule.is_of_sugar for rule in self.rules)

    @property
    def of_animals(self) -> bool:
        """Whether a rule keeps milk out."""
        return any(rule.excludes == "animal" or rule.excluded == "milk" for rule in self.rules)

    @property
    def without_milk(self) -> bool:
        """Whether a rule leaves out plain milk, for whatever of it."""
        milk = self.pantry.by_id.get(_MILK)
        return milk is not None and any(rule.forbids(milk) for rule in self.rules)

    def allowed(self, food: Ingredient, system: System | None, *, rich: bool = False, asking: bool = False) -> bool:
        """Whether an ingredient may be used in a proposal of a system.

        Args:
            food: Of the pantry.
            system: Of the proposal.
            rich: Whether it may hold so much of what a rule limits that it is seldom worth trying.
            asking: Whether it may depend on its maker.
        """
        key = (food.id, system.id if system is not None else "", rich, asking)
        if key not in self.allowances:
            self.allowances[key] = self._allowed(food, system, rich=rich, asking=asking)
        return self.allowances[key]

    def _allowed(self, food: Ingredient, system: System | None, *, rich: bool, asking: bool) -> bool:
        if food.id in self.forbidden or not_approved(food.id, self.reading.study.region):
            return False
        if any(rule.forbids(food) or (rule.doubts(food) and not asking) for rule in self.rules):
            return False
        if not self.of_sugar or food.category == "intense-sweetener":  # counted by the milligram
            return True
        if (
            not rich
            and food.category not in SMALL_ROLES
            and any(
                rule.measured(food) > _RICH.get(rule.measure, _RICH_NET)
                for rule in self._sugar_rules
                if rule.id not in _BY_DEGREES and rule.measure != ENERGY
            )
        ):
            return False
        unsweet = food.category == "chocolate" and (food.polyol_kind is not None or food.sweetness == 0)
        bulk = food.category in SWEET or unsweet
        return not bulk or system is None or not system.members or food.id in system.members

    def calls_for(self, kind: str) -> bool:
        """Whether the rules call for a kind of swap: plants for animals, sugarless for sugar, protein, and so on.

        Args:
            kind: v of plants, s and k of sweetness, g, n and l of gluten, nuts and lactose, p of protein.
        """
        if kind == "p":
            return self.short
        if kind == "v":  # plants stand in where animals may not, and nowhere else
            return self.of_animals or self.without_milk_sugar
        if kind in {"s", "k"}:
            return self.of_sugar
        return kind not in {"g", "n", "l"} or any(rule.excludes not in {"", "animal"} for rule in self.rules)

    def doubtful(self, food: Ingredient) -> bool:
        """Whether all that stands against an ingredient is that its maker must be asked."""
        if food.id in self.forbidden or not_approved(food.id, self.reading.study.region):
            return False
        return any(rule.doubts(food) for rule in self.rules) and not any(rule.forbids(food) for rule in self.rules)

    @property
    def _sugar_rules(self) -> tuple[Rule, ...]:
        return tuple(rule for rule in self.rules if rule.is_of_sugar)


def systems_for(bench: Bench) -> list[System | None]:
    """The systems that can carry the rules where they are used; one of none where no rule needs one."""
    return [system for system, why in _systems(bench) if not why] or [None]


def barred_systems(bench: Bench) -> list[tuple[System, str]]:
    """Systems that rest on what the region does not authorise, and the reason."""
    return [(system, why) for system, why in _systems(bench) if why]


def _systems(bench: Bench) -> list[tuple[System, str]]:
    kind = "sugar" if bench.of_sugar else "vegan" if bench.of_animals else PROTEIN if bench.short else ""
    region = bench.reading.study.region
    return [
        (one, next((why for key in sorted(one.members) for why in [not_approved(key, region)] if why), ""))
        for one in systems()
        if one.of == kind
    ]
