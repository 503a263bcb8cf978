"""Proposals: a version worked out anew under rules, once for each system that can carry it.

Worked example: a caramel under sugar-free in the US: cream and butter stay, sugar and syrup give way to maltitol and its syrup
(one proposal), to allulose and fibre (another); each layer is solved alone for its family, then the piece for the limit it
shares.
"""

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace

from fern_match.core.adapt.rules import Breach, Rule, amount_for, breaches, measured, not_approved
from fern_match.core.adapt.swaps import Swap, System, load_per_gram, swaps, swaps_for, systems
from fern_match.core.families import Families, Family
from fern_match.core.families.admission import CHOCOLATE, Grade, best_role, opened_families
from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.formulate import (
    Formula,
    FormulaIngredient,
    FormulaLayer,
    PieceLimit,
    Property,
    Room,
    Solved,
    Target,
    candidates,
    cost_of,
    solve,
)
from fern_match.core.formulate.properties import amount_of
from fern_match.core.study.reading import StudyReading

MOST_PROPOSALS = 3
_SWEET = frozenset({"polyol", "rare-sugar", "fibre"})
_RICH = {"sugars": 0.15, "added sugars": 0.02, "net carbohydrate": 0.45}  # from which an ingredient is not worth trying [g/g]
_FREE_OF_ANIMALS = frozenset({"vegan", "vegan-keto-sugar-free"})
_MOST_LINES = 16
_SYRUPY = 12.0  # g water in 100 g
_DRY = 6.0  # g water in 100 g: more makes a coat seize
_MOST_SWEETNESS = 0.08  # g of sugar equivalents by intense sweeteners in a g of a layer: more turns bitter
_INTENSE = ("sucralose-powder", "stevia-reb-a")
_LEAST_G = 1e-5
_WIDER = (1.4, 2.0, 4.0, 10.0, 30.0)  # how far a limit that cannot be met is widened, to find the nearest that can
_LOAD_ALLOWED = 0.999  # of a single laxative dose, in a serving
_INSIDE = 1e-7
_GAP, _SECONDS = 0.02, 0.5
_BY_THE_GRAIN = frozenset({"flavour", "salt", "intense-sweetener", "emulsifier", "leavening", "gelling", "colour", "acid"})
_WORTH = 0.003  # of the piece: less of an ingredient makes no other proposal
_PRESENT = 0.5  # of its starting ratio that a system’s own stand-in is used at least: by it proposals differ
_LEAST_SWEET = 0.5  # of the version's sweetness, below which a proposal is only made where there is no other
_NEAR = 3.0  # of a miss, below which nothing else is tried
_PARTS = (0.9, 3.0)  # of a layer's share of what the piece may hold
_ATTEMPTS = ((True, _PARTS[:1]), (True, _PARTS), (False, _PARTS[:1]), (False, _PARTS))  # families made for it first; parts
_DROPPED = frozenset({Property.MILK_SOLIDS, Property.SUGARS, Property.FIBRE, Property.WATER})


@dataclass(frozen=True, slots=True, kw_only=True)
class AdaptedLine:
    """One line of a proposal: what it stands in for, and the swap it rests on; neither where it was there or is arithmetic."""

    ingredient_id: str
    name: str
    grams: float
    instead_of: tuple[str, ...]
    swap: Swap | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposal:
    """A whole version under the rules."""

    name: str
    system: str
    why: str
    formula: Formula
    lines: Mapping[str, tuple[AdaptedLine, ...]]  # by layer
    targets: tuple[Target, ...]
    miss: float
    load: float  # share of a single laxative dose in a serving
    cost: float | None
    doubtful: tuple[str, ...]  # ingredient ids that depend on their maker


@dataclass(frozen=True, slots=True, kw_only=True)
class Unmet:
    """A rule that cannot be met, and the nearest that can."""

    rule: str
    because: str
    nearest: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Adapted:
    """What adapting gave."""

    breaches: tuple[Breach, ...]  # of the version as it is
    proposals: tuple[Proposal, ...]
    unmet: Unmet | None


@dataclass(frozen=True, slots=True)
class _Bench:
    """What every trial needs."""

    rules: tuple[Rule, ...]
    reading: StudyReading
    pantry: Pantry
    families: Families
    serving_g: float
    forbidden: frozenset[str]
    required: frozenset[str]
    # Layers solved alone, by layer, family, system and part of the limit: further attempts ask for the same ones again.
    solved: dict[tuple[str, str, str, float], Solved | None] = field(default_factory=dict, init=False, compare=False)

    @property
    def of_sugar(self) -> bool:
        return any(rule.is_of_sugar for rule in self.rules)

    @property
    def of_animals(self) -> bool:
        return any(rule.excludes == "animal" or rule.excluded == "milk" for rule in self.rules)

    def allowed(self, food: Ingredient, system: System | None) -> bool:
        """Whether an ingredient may be used in a proposal of a system."""
        if food.id in self.forbidden or not_approved(food.id, self.reading.study.region):
            return False
        if any(rule.forbids(food) or rule.doubts(food) for rule in self.rules):
            return False
        if not self.of_sugar:
            return True
        if any(measured(food, rule.measure) > _RICH[rule.measure] for rule in self._sugar_rules if rule.id != "reduced-sugar"):
            return False
        bulk = food.category in _SWEET or (food.category == "chocolate" and (food.polyol_kind is not None or "-100" in food.id))
        return not bulk or system is None or not system.members or food.id in system.members

    @property
    def _sugar_rules(self) -> tuple[Rule, ...]:
        return tuple(rule for rule in self.rules if rule.is_of_sugar)


def adapted(
    formula: Formula,
    targets: Sequence[Target],
    rules: Sequence[Rule],
    *,
    reading: StudyReading,
    pantry: Pantry,
    families: Families,
    serving_g: float,
    forbidden: Collection[str] = (),
    required: Collection[str] = (),
) -> Adapted:
    """Up to three versions under rules, each of another system, the nearest to the version's own targets first.

    Args:
        formula: The version to adapt.
        targets: What it is held to; those that a rule makes pointless are let go.
        rules: All of which hold.
        reading: The study.
        pantry: Compositions.
        families: Windows and variants.
        serving_g: What a serving weighs [g], above 0.
        forbidden: Ingredients that must not be used.
        required: Ingredients that must stay where they are.
    """
    resolved = tuple(_resolved(rule, formula, pantry) for rule in rules)
    bench = _Bench(resolved, reading, pantry, families, serving_g, frozenset(forbidden), frozenset(required))
    found = breaches(formula, resolved, pantry, serving_g)
    held = _held_to(targets, bench)
    proposals = [one for system in _systems(bench) for one in [_proposal(formula, held, system, bench)] if one is not None]
    different = _different(_worth_eating(formula, sorted(proposals, key=lambda one: one.miss), pantry))
    unmet = _unmet(formula, held, bench) if not different else None
    return Adapted(breaches=found, proposals=tuple(different[:MOST_PROPOSALS]), unmet=unmet)


def _resolved(rule: Rule, formula: Formula, pantry: Pantry) -> Rule:
    """A rule that compares with the version, as a limit in grams a piece."""
    if rule.basis != "share" or rule.limit is None:
        return rule
    whole = replace(rule, basis="piece")
    got, _ = amount_for(formula, whole, pantry, formula.piece_g)
    return replace(whole, limit=got * (1 - rule.limit))


def _held_to(targets: Sequence[Target], bench: _Bench) -> tuple[Target, ...]:
    """The version's own targets without the label's, and without what the rule is about."""
    kept = [one for one in targets if isinstance(one.what, Property) and one.what not in _DROPPED]
    if bench.of_animals or bench.of_sugar:
        kept = [replace(one, weight=0.3 * one.weight) if one.what is Property.PROTEIN else one for one in kept]
    return tuple(_wider(one) for one in kept)


def _wider(target: Target) -> Target:
    """Fat within 2 g in 100 g and sweetness within 5 %: what a rule may move."""
    if target.what is Property.SWEETNESS:
        room = max(target.tolerance, 0.05 * target.wanted)
        return replace(target, low=max(0.0, target.wanted - room), high=target.wanted + room)
    return target


def _systems(bench: _Bench) -> list[System | None]:
    kind = "sugar" if bench.of_sugar else "vegan" if bench.of_animals else ""
    region = bench.reading.study.region
    return [one for one in systems() if one.of == kind and not any(not_approved(key, region) for key in one.members)] or [None]


def _proposal(
    formula: Formula, targets: Sequence[Target], system: System | None, bench: _Bench, *, quick: bool = False
) -> Proposal | None:
    """A system's version, by the first attempt that comes near; quickly: by the one that finds something most often."""
    named = replace(formula, name=system.name if system is not None else "Without it")
    tried: list[Solved] = []
    for grouped, parts in _ATTEMPTS[-1:] if quick else _ATTEMPTS:
        if tried and not grouped:
            break
        solved = _of_layers(named, targets, system, bench, parts, grouped=grouped)
        tried += [solved] if solved is not None else []
        if solved is not None and solved.miss < _NEAR:
            break
    if not tried:
        return None
    solved = min(tried, key=lambda one: one.miss)
    name = named.name
    found = _without_crumbs(solved.formula, _LEAST_G)
    if breaches(found, bench.rules, bench.pantry, bench.serving_g):
        return None
    return Proposal(
        name=name,
        system=system.id if system is not None else "",
        why=system.why if system is not None else "",
        formula=found,
        lines={
            layer.layer_id: _lines(layer, next(one for one in formula.layers if one.layer_id == layer.layer_id))
            for layer in found.layers
        },
        targets=solved.targets,
        miss=solved.miss,
        load=load_of(found, bench.pantry, bench.serving_g),
        cost=cost_of(found.layers, bench.pantry),
        doubtful=tuple(
            dict.fromkeys(
                line.ingredient_id
                for layer in found.layers
                for line in layer.ingredients
                if any(rule.doubts(bench.pantry[line.ingredient_id]) for rule in bench.rules)
            )
        ),
    )


def _of_layers(
    formula: Formula,
    targets: Sequence[Target],
    system: System | None,
    bench: _Bench,
    parts: Sequence[float],
    *,
    grouped: bool,
) -> Solved | None:
    """Each layer's best choice, then all layers together; where those do not share a limit, everything that was on offer."""
    chosen, offered = [], []
    for layer in formula.layers:
        option = _best_layer(formula, layer, targets, system, bench, parts, grouped=grouped)
        if option is None:
            return None
        chosen.append(option[0])
        offered.append(option[1])
    solved = _together(replace(formula, layers=tuple(chosen)), targets, bench)
    if solved is not None:
        return solved
    solved = _together(replace(formula, layers=tuple(offered)), targets, bench)
    return _together(_without_crumbs(solved.formula), targets, bench) or solved if solved is not None else None


def load_of(formula: Formula, pantry: Pantry, serving_g: float) -> float:
    """Polyols, allulose and fibre of a serving, as a share of what often upsets a stomach; 1 is a single dose.

    Args:
        formula: As read.
        pantry: Compositions.
        serving_g: What a serving weighs [g].
    """
    load = sum(
        line.grams * load_per_gram(pantry[line.ingredient_id])
        for layer in formula.layers
        for line in layer.ingredients
        if line.ingredient_id in pantry
    )
    return load * serving_g / formula.piece_g if formula.piece_g > 0 else 0.0


def _together(begun: Formula, targets: Sequence[Target], bench: _Bench) -> Solved | None:
    """All layers solved at once, for what the piece shares a limit of; None where nothing fits."""
    room = Room(free=[layer.layer_id for layer in begun.layers], keep=False, limits=_limits(begun, targets, bench), explain=False)
    solved = solve(begun, targets, room, reading=bench.reading, pantry=bench.pantry, families=bench.families)
    return solved if solved.impossible is None else None


def _without_crumbs(formula: Formula, share: float = _WORTH) -> Formula:
    """A formula without lines that are too little to weigh; sweeteners by the milligram stay.

    Args:
        share: Of its layer, from which a line counts [g/g].
    """

    def counts(line: FormulaIngredient, layer: FormulaLayer) -> bool:
        least = _LEAST_G if line.role in _BY_THE_GRAIN else max(_LEAST_G, share * layer.added_g)
        return line.grams > (_LEAST_G if share <= _LEAST_G else least)

    return replace(
        formula,
        layers=tuple(
            replace(layer, ingredients=tuple(line for line in layer.ingredients if counts(line, layer)))
            for layer in formula.layers
        ),
    )


def _best_layer(
    formula: Formula,
    layer: FormulaLayer,
    targets: Sequence[Target],
    system: System | None,
    bench: _Bench,
    parts: Sequence[float],
    *,
    grouped: bool = True,
) -> tuple[FormulaLayer, FormulaLayer] | None:
    """The family and ingredients that come nearest for one layer, and all that was on offer for it.

    A layer in which nothing is touched stays as it is.
    """
    own = [one for one in targets if one.layer_id == layer.layer_id]
    if _untouched(layer, bench, system):
        return layer, layer
    kinds = _kinds(layer, system, bench)
    for group in kinds if grouped else [[one for kind in kinds for one in kind]]:
        best: tuple[float, FormulaLayer, FormulaLayer] | None = None
        for family in group:
            lines = _offered(layer, family, system, bench)
            if not lines:
                continue
            trial = replace(layer, family=family.id, ingredients=lines, water_lost_g=0.0)
            tried = replace(formula, layers=tuple(trial if one is layer else one for one in formula.layers))
            solved = _tried(tried, trial, own, formula.piece_g, system, bench, parts)
            if solved is None:
                continue
            made = next(one for one in solved.formula.layers if one.layer_id == layer.layer_id)
            made = replace(made, ingredients=tuple(line for line in made.ingredients if line.grams > _LEAST_G))
            cost = solved.miss + 0.2 * len(made.ingredients) + (0.0 if family.id == layer.family else 0.5)
            if best is None or cost < best[0]:
                best = (cost, made, trial)
        if best is not None:
            return best[1], best[2]
    return None


def _tried(
    tried: Formula,
    trial: FormulaLayer,
    own: Sequence[Target],
    piece_g: float,
    system: System | None,
    bench: _Bench,
    parts: Sequence[float],
) -> Solved | None:
    """A layer solved alone, with the first of some parts of the piece's limits that is enough."""
    for part in parts if any(rule.limit is not None for rule in bench.rules) else parts[:1]:
        key = (trial.layer_id, trial.family, system.id if system is not None else "", part)
        if key not in bench.solved:
            limits = _layer_limits(trial, own, piece_g, bench, part)
            room = Room(free=[trial.layer_id], choose=True, explain=False, limits=limits, gap=_GAP, seconds=_SECONDS)
            found = solve(tried, own, room, reading=bench.reading, pantry=bench.pantry, families=bench.families)
            bench.solved[key] = found if found.impossible is None else None
        solved = bench.solved[key]
        if solved is not None:
            return solved
    return None


def _untouched(layer: FormulaLayer, bench: _Bench, system: System | None) -> bool:
    """Whether a layer may stay: nothing forbidden in it, and nothing that a limit is about."""
    for line in layer.ingredients:
        food = bench.pantry.by_id.get(line.ingredient_id)
        if food is None or not bench.allowed(food, system):
            return False
        if bench.of_sugar and any(
            measured(food, rule.measure) * line.grams > 0.01 * layer.finished_g for rule in bench.rules if rule.measure
        ):
            return False
    return True


def _kinds(layer: FormulaLayer, system: System | None, bench: _Bench) -> list[list[Family]]:
    """The family itself, its variants that the system can sweeten, and chocolates from their parts.

    In two groups, the second for where nothing of the first fits: what is cooked without sugar becomes a family that is made
    so, as the sugar family's windows do not hold for it.
    """
    own = bench.families.by_id.get(layer.family)
    if own is None:
        return [[], []]
    kinds = list(bench.families.variants_of(own.id))
    if [role.name for role in own.roles] == [CHOCOLATE]:
        kinds += opened_families(bench.families, own.roles[0])
    wanted = [
        one
        for one in dict.fromkeys(one.id for one in kinds)
        if not one.startswith(("aerated", "home-milk"))
        and _suits(bench.families[one], own, bench)
        and (one == own.id or _sweetened_by(bench.families[one], system))
    ]
    found = [bench.families[one] for one in wanted]
    made_for = [one for one in found if _made_for(one, system, bench)] if own.heated and bench.of_sugar else []
    return [made_for, [one for one in found if one not in made_for]]


def _suits(family: Family, own: Family, bench: _Bench) -> bool:
    if family.id == own.id:
        return True
    diet = family.diet
    if bench.of_sugar:
        return "sugar-free" in diet or "keto" in diet or ("-open" in family.id and (diet == "plain" or bench.of_animals))
    if bench.of_animals:
        return "vegan" in diet or "-open" in family.id
    return "gluten-free" in diet or diet == "plain"


def _made_for(family: Family, system: System | None, bench: _Bench) -> bool:
    if system is not None and family.id in system.families:
        return True
    diet = "keto" if any(rule.measure == "net carbohydrate" for rule in bench.rules) else "sugar-free"
    return diet in family.diet


def _sweetened_by(family: Family, system: System | None) -> bool:
    """Whether a system may use a family: some are made for one system."""
    return not any(family.id in one.families for one in systems()) or (system is not None and family.id in system.families)


def _offered(layer: FormulaLayer, family: Family, system: System | None, bench: _Bench) -> tuple[FormulaIngredient, ...]:
    """What a layer may be made from: what stays, what stands in for the rest, and what the family usually has."""
    found: dict[str, FormulaIngredient] = {}
    foreign = _foreign(layer, system, bench)
    admits = {role.name: role.admits for role in family.roles}
    names = admits.keys()
    own = {line.ingredient_id for line in layer.ingredients}
    dry = family.place == "coat"  # water makes chocolate seize

    def offer(key: str, role_name: str, least: float = 0.0) -> None:
        food = bench.pantry.by_id.get(key)
        if food is None or key in found or key in foreign or len(found) >= _MOST_LINES or not bench.allowed(food, system):
            return
        best = best_role(bench.families, family.roles, key)
        if role_name not in names:
            role_name = best[0].name if best is not None else ""
        elif best is not None and best[1] is Grade.LISTED and key not in admits[role_name]:
            role_name = best[0].name
        strange = not role_name or (dry and (food.per_100_g.get(Nutrient.WATER) or 0.0) > _DRY)
        if strange and key not in own:
            return
        found[key] = FormulaIngredient(ingredient_id=key, name=food.name, role=role_name, grams=0.0, least_g=least)

    if bench.of_sugar:
        for key in _INTENSE:
            offer(key, "intense-sweetener")
    tasted = {"flavour", "nut-solids", "seed-solids", "fruit-solids", "coconut-solids", "cocoa-solids", "salt"}
    for line in layer.ingredients:
        offer(
            line.ingredient_id,
            line.role,
            0.3 * line.grams if line.role in tasted or line.ingredient_id in bench.required else 0.0,
        )
    for key, role_name in _sweeteners(family, system, bench):
        offer(key, role_name)
    for line in sorted(layer.ingredients, key=lambda one: -one.grams):
        food = bench.pantry.by_id.get(line.ingredient_id)
        stays = food is not None and bench.allowed(food, system)
        if stays and not bench.of_sugar:
            continue
        for swap in swaps_for(line.ingredient_id, family.id):
            if swap.system and system is not None and swap.system not in {system.id, ""} and not _across(swap, system, bench):
                continue
            wanted = system is not None and swap.system == system.id and not bench.of_sugar
            for key in swap.to:
                share = swap.ratio.get(key, 0.0) / 100
                offer(key, line.role, _PRESENT * share * line.grams if wanted and key == swap.to[0] else 0.0)
                wanted = False
    for one in candidates(layer, family, bench.pantry, bench.families):
        offer(one.ingredient_id, one.role)
    return tuple(found.values())


def _foreign(layer: FormulaLayer, system: System | None, bench: _Bench) -> frozenset[str]:
    """What only other systems of the same kind stand in with, and is not in the layer anyhow: so proposals differ in kind."""
    if system is None or bench.of_sugar:
        return frozenset()
    rivals = {one.id for one in systems() if one.of == system.of} - {system.id}
    theirs = {key for swap in swaps() if swap.system in rivals for key in swap.to}
    ours = {key for swap in swaps() if swap.system not in rivals for key in swap.to}
    return frozenset(theirs - ours - {line.ingredient_id for line in layer.ingredients})


def _sweeteners(family: Family, system: System | None, bench: _Bench) -> list[tuple[str, str]]:
    """A system's own sweeteners and fibres, by what they do in a family: powders are bulk, syrups keep from graining."""
    if not bench.of_sugar or system is None:
        return []
    names = {role.name for role in family.roles}
    found = []
    for key in sorted(system.members):
        food = bench.pantry.by_id.get(key)
        if food is None or food.category not in _SWEET:
            continue
        wet = (food.per_100_g.get(Nutrient.WATER) or 0.0) > _SYRUPY
        wanted = "doctor-sugar" if wet else "sweet-bulk"
        best = best_role(bench.families, family.roles, key)
        if best is not None and (best[1] is Grade.LISTED or wanted not in names):
            wanted = best[0].name
        if wanted in names:
            found.append((key, wanted))
    return found


def _across(swap: Swap, system: System, bench: _Bench) -> bool:
    """Under a sugar rule and a vegan one together, stand-ins of any plant system go with any sweetener."""
    return bench.of_sugar and bench.of_animals and swap.system in {one.id for one in systems() if one.of != system.of}


def _layer_limits(layer: FormulaLayer, own: Sequence[Target], piece_g: float, bench: _Bench, room: float) -> list[PieceLimit]:
    """Intense sweeteners by what turns bitter; of what the piece shares a limit, the layer's part by its weight and some room."""
    finished = next((one.wanted for one in own if one.what is Property.MASS), layer.finished_g)
    limits = [_bitter(layer.layer_id, layer.name, finished)]
    for rule in bench.rules:
        if rule.limit is not None and rule.measure:
            most = room * _limit_of_piece(rule, piece_g, bench) * finished / piece_g
            weigh = _weigher(rule.measure)
            limits.append(PieceLimit(id=f"{rule.id} guide", words="", weigh=weigh, most=most, layer_id=layer.layer_id))
    return limits


def _limit_of_piece(rule: Rule, piece_g: float, bench: _Bench) -> float:
    """A rule's limit for one piece [g]."""
    scale = {"serving": bench.serving_g, "100 g": 100.0}.get(rule.basis, piece_g)
    return (rule.limit or 0.0) * piece_g / scale


def _bitter(layer_id: str, name: str, finished_g: float) -> PieceLimit:
    return PieceLimit(
        id=f"{layer_id} intense",
        words=f"intense sweeteners in {name} at most 8 % of sugar's sweetness",
        weigh=lambda food: (food.sweetness or 0.0) if food.category == "intense-sweetener" else 0.0,
        most=_MOST_SWEETNESS * finished_g,
        layer_id=layer_id,
    )


def _limits(formula: Formula, targets: Sequence[Target], bench: _Bench) -> tuple[PieceLimit, ...]:
    """What the whole piece must hold to."""
    weights = {one.layer_id: one.wanted for one in targets if one.what is Property.MASS}
    masses = {layer.layer_id: weights.get(layer.layer_id, layer.finished_g) for layer in formula.layers}
    piece_g = sum(masses.values())
    limits = [_bitter(layer.layer_id, layer.name, masses[layer.layer_id]) for layer in formula.layers]
    for rule in bench.rules:
        if rule.limit is None or not rule.measure:
            continue
        scale = {"serving": bench.serving_g, "100 g": 100.0}.get(rule.basis, piece_g)
        limits.append(
            PieceLimit(
                id=f"{rule.id} limit",
                words=f"{rule.measure} at most {rule.limit:g} g a {rule.basis}",
                weigh=_weigher(rule.measure),
                most=_limit_of_piece(rule, piece_g, bench) - _INSIDE,
                step=0.5 * piece_g / scale,
                moved=f"{rule.measure} allowed to {rule.limit + 0.5:g} g a {rule.basis}",
            )
        )
    if bench.of_sugar and bench.serving_g > 0:
        limits.append(
            PieceLimit(
                id="load",
                words="polyols and fibre of a serving below what often upsets a stomach",
                weigh=load_per_gram,
                most=_LOAD_ALLOWED * piece_g / bench.serving_g,
            )
        )
    return tuple(limits)


def _weigher(measure: str) -> Callable[[Ingredient], float]:
    return lambda food: measured(food, measure)


def _lines(layer: FormulaLayer, before: FormulaLayer) -> tuple[AdaptedLine, ...]:
    """Each line with what it stands in for: what was there and is gone, or is less, and a swap ties to it."""
    was = {line.ingredient_id: line.grams for line in before.ingredients}
    now = {line.ingredient_id: line.grams for line in layer.ingredients}
    gone = [key for key, grams in was.items() if now.get(key, 0.0) < 0.6 * grams]
    found = []
    for line in layer.ingredients:
        swap: Swap | None = None
        instead: tuple[str, ...] = ()
        if line.ingredient_id not in was:
            tied = [(one, key) for key in gone for one in swaps_for(key, layer.family) if line.ingredient_id in one.to]
            tied = tied or [(one, key) for key in gone for one in swaps_for(key, before.family) if line.ingredient_id in one.to]
            if tied:
                swap = tied[0][0]
                instead = tuple(dict.fromkeys(key for one, key in tied))
        found.append(
            AdaptedLine(ingredient_id=line.ingredient_id, name=line.name, grams=line.grams, instead_of=instead, swap=swap)
        )
    return tuple(found)


def _worth_eating(before: Formula, found: list[Proposal], pantry: Pantry) -> list[Proposal]:
    """Without what loses more than half of its sweetness, where there is something else."""

    def sweetness(formula: Formula) -> float:
        return amount_of(formula.layers, Property.SWEETNESS, pantry) / formula.piece_g if formula.piece_g > 0 else 0.0

    return [one for one in found if sweetness(one.formula) >= _LEAST_SWEET * sweetness(before)] or found


def _different(found: Sequence[Proposal]) -> list[Proposal]:
    """Proposals that are not of the same ingredients."""
    kept: list[Proposal] = []
    for one in found:
        if all(_differ(one.formula, other.formula) for other in kept):
            kept.append(one)
    return kept


def _differ(a: Formula, b: Formula) -> bool:
    """Whether one holds something worth a line that the other does not."""
    names = []
    for formula in (a, b):
        least = _WORTH * formula.piece_g
        names.append(
            {(layer.layer_id, line.ingredient_id) for layer in formula.layers for line in layer.ingredients if line.grams > least}
        )
    return bool(names[0] ^ names[1])


def _unmet(formula: Formula, targets: Sequence[Target], bench: _Bench) -> Unmet:
    """Which rule stands in the way, and what can be reached: each is let go in turn, a limit is widened step by step."""
    for rule in bench.rules:
        others = tuple(one for one in bench.rules if one is not rule)
        if rule.limit:
            for times in _WIDER:
                wider = replace(rule, limit=round(rule.limit * times, 2))
                trial = replace(bench, rules=(*others, wider))
                if any(_proposal(formula, targets, system, trial, quick=True) is not None for system in _systems(trial)):
                    wanted = f"{rule.measure.capitalize()} cannot be brought to {rule.limit:g} g a {rule.basis}"
                    return Unmet(
                        rule=rule.id,
                        because=f"{wanted} here; {wider.limit:g} g can be reached.",
                        nearest=f"{rule.id}:{wider.limit:g}",
                    )
        elif others and any(
            _proposal(formula, targets, system, replace(bench, rules=others), quick=True) is not None
            for system in _systems(replace(bench, rules=others))
        ):
            return Unmet(
                rule=rule.id,
                because=f"{rule.name} cannot be met together with the other rules with what the pantry holds.",
                nearest=", ".join(one.id for one in others),
            )
    stuck = [
        layer.name
        for layer in formula.layers
        if all(_best_layer(formula, layer, targets, system, bench, _PARTS) is None for system in _systems(bench))
    ]
    which = (
        f"{stuck[0]} has no stand-ins in the pantry that keep" if stuck else "No stand-ins in the pantry keep the layers together"
    )
    return Unmet(rule=bench.rules[0].id, because=f"{which} within what {'its' if stuck else 'a'} family takes.", nearest="")
