"""One study as an estimation problem: parts, unknowns, tree and evidence, in arrays."""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from fern_match.core.estimate.recipe_tree import Floats, Node, RecipeTree, TreePlan, peak_logit
from fern_match.core.families import Family, Role, strength
from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.food.nutrients import NUTRIENT_TITLES
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer, Place, Whereabouts
from fern_match.core.study.whereabouts import Slot

WATER = "water"
_SOLIDS = (Nutrient.FAT, Nutrient.CARBOHYDRATE, Nutrient.PROTEIN, Nutrient.ASH, Nutrient.ALCOHOL)
_NEEDED = frozenset({Nutrient.WATER, Nutrient.SUGARS, Nutrient.FIBRE, Nutrient.POLYOLS, Nutrient.SODIUM, *_SOLIDS})
LAYER_SHARE_SD = 0.7  # prior of a layer's share about the usual [log]
_TWINS = 0.93  # correlation of layers of one family in one piece: 0.26 of the log between them
_BODY, _MID_SURFACE = 0.86, 0.93  # of a coated piece's footprint, its body's; of its surface, the middle of its coat's
_LOST_REACH, _MOST_LOST = 1.5, 0.9  # how far beyond the usual most water may boil off, and never more than this [g/g]
_SURE_SD = 1.2  # of the log weight of an ingredient that is surely there, beside others of its role
_BRACKET_SD = 1.5  # of the log weight of an ingredient that a bracket surely puts there, beside others of its role


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """One ingredient in one layer: what the particles hold an amount of."""

    layer: int
    ingredient_id: str
    role: str
    item: str | None  # the statement's key; None where the family implies it
    opened: str | None = None  # the open family whose chocolate this is a part of


@dataclass(slots=True)
class Problem:
    """All that the sampler needs to know about one study."""

    reading: StudyReading
    layers: tuple[tuple[Layer, Family], ...]
    parts: tuple[Part, ...]
    tree: RecipeTree
    unknowns: int
    share_at: int  # first unknown of the layer shares
    mass_at: int  # the mean piece's mass
    lost_at: tuple[int, ...]  # per layer, the unknown of its water lost; -1 where nothing is heated
    knife_at: int  # share left on the knife; -1 where nothing sticky was weighed
    porosity_at: tuple[int, ...]  # per layer, the unknown of its air; -1 where no thickness was measured
    area_at: int  # the footprint that stacked layers share; -1 where no thickness was measured
    area_centre: float  # log of the footprint about which it is looked for [cm2]
    area_sd: float
    surface_cm2: float  # of the whole piece, for coats; 0 where its size is not known
    porosity: Floats  # [layers, 3], low, typical and high of the family [share of the volume]
    mass_centre_g: float
    usual_log_share: Floats  # [layers, 1]
    share_root: Floats  # [layers, layers], from the unknowns of the layer shares to their logs
    lost_most: Floats  # [layers, 1], g per g as added
    lost_centre: Floats  # [layers, 1]
    moisture: Floats  # [layers, 2], window of the finished layer [g/g]
    water: Floats  # [parts, 1], water of the ingredient [g/g]
    in_layer: Floats  # [layers, parts], 1 where the part is in the layer
    layer_of_part: NDArray[np.intp]  # [parts]
    assumed: tuple[str, ...] = ()  # sentences on what was taken for granted

    @property
    def pantry(self) -> Pantry:
        """Where compositions come from."""
        return self.reading.pantry


@dataclass(slots=True)
class _Draft:
    """Parts and nodes as they are laid out."""

    plan: TreePlan
    unknowns: int
    parts: list[Part] = field(default_factory=list)
    shared: dict[tuple[str, str, str], int] = field(default_factory=dict)  # one bracket in two layers has one recipe

    def unknown(self, key: tuple[str, str, str] | None = None) -> int:
        """A fresh unknown, or the one already given to this key."""
        if key is not None and key in self.shared:
            return self.shared[key]
        self.unknowns += 1
        if key is not None:
            self.shared[key] = self.unknowns - 1
        return self.unknowns - 1


@dataclass(frozen=True, slots=True)
class _Entry:
    """A part on its way into the tree."""

    ingredient_id: str
    item: str | None
    slot: Slot
    odds: float = 0.0
    sure: bool = False  # whether it is surely there, whatever else is


def build_problem(reading: StudyReading, mass_centre_g: float) -> Problem:
    """The problem of a study with at least one layer.

    Args:
        reading: The study as read; its build must not be empty.
        mass_centre_g: Where the mean piece's mass is looked for [g].
    """
    layers = reading.build
    count = len(layers)
    draft = _Draft(TreePlan(), count + 1)
    assumed: list[str] = []
    for index, (layer, family) in enumerate(layers):
        entries = _entries(reading, layer)
        entries += _implied(reading, layer, family, entries, assumed)
        _lay_out(draft, index, entries)
    lost_at = tuple(
        draft.unknown(_lost_key(reading, layer)) if family.heated and family.water_lost_most > 0 else -1
        for layer, family in layers
    )
    knife_at = draft.unknown() if _sticky_weighed(reading) else -1
    measured = {one.layer for one in reading.thicknesses if one.millimetres}
    porosity_at = tuple(draft.unknown() if layer.id in measured else -1 for layer, _ in layers)
    area_at = draft.unknown() if measured else -1
    footprint, area_sd, surface = _size(reading, mass_centre_g)
    in_layer = np.zeros((count, len(draft.parts)))
    in_layer[[part.layer for part in draft.parts], np.arange(len(draft.parts))] = 1.0
    families = [family for _, family in layers]
    return Problem(
        reading=reading,
        layers=layers,
        parts=tuple(draft.parts),
        tree=RecipeTree(draft.plan, draft.unknowns),
        unknowns=draft.unknowns,
        share_at=0,
        mass_at=count,
        lost_at=lost_at,
        knife_at=knife_at,
        porosity_at=porosity_at,
        area_at=area_at,
        area_centre=math.log(footprint),
        area_sd=area_sd,
        surface_cm2=surface,
        porosity=np.array([(family.porosity_low, family.porosity_typical, family.porosity_high) for family in families]),
        mass_centre_g=mass_centre_g,
        usual_log_share=np.log([[family.traits.usual_weight] for family in families]),
        share_root=_share_root([family.id for family in families]),
        lost_most=np.array([[_lost_most(family)] for family in families]),
        lost_centre=np.array([[peak_logit(0, family.water_lost_typical, _lost_most(family))] for family in families]),
        moisture=np.array([(family.moisture_low, family.moisture_high) for family in families]),
        water=np.array([[_water(reading.pantry[part.ingredient_id]) / 100] for part in draft.parts]),
        in_layer=in_layer,
        layer_of_part=np.array([part.layer for part in draft.parts], dtype=np.intp),
        assumed=(*assumed, *_looked_for(reading), *_assumed_figures(reading.pantry[part.ingredient_id] for part in draft.parts)),
    )


def _water(food: Ingredient) -> float:
    """Water of an ingredient [g per 100 g]; where that is not known, what its other figures leave."""
    known = food.per_100_g.get(Nutrient.WATER)
    if known is not None:
        return known
    return max(0.0, 100.0 - sum(food.per_100_g.get(part) or 0.0 for part in _SOLIDS))


def _assumed_figures(foods: Iterable[Ingredient]) -> list[str]:
    """What an estimate takes for figures that are not known, a sentence for each ingredient."""
    said = {}
    for food in foods:
        lacks = [title.lower() for nutrient, title, _ in NUTRIENT_TITLES if nutrient in _NEEDED and not food.knows(nutrient)]
        if lacks:
            left = f" Its water is taken as the {_water(food):.3g} g in 100 g that its other figures leave."
            counted = left if "water" in lacks else ""
            said[food.id] = (
                f"{food.name} has no figure for {', '.join(lacks)}: label rows that need it are not used as evidence.{counted}"
            )
    return list(said.values())


def _size(reading: StudyReading, mass_g: float) -> tuple[float, float, float]:
    """The footprint to expect [cm2], how unsure it is [log], and the piece's surface [cm2]; 0 where no size was measured.

    Without a size the footprint is that of a block about half as high as it is wide, and very unsure.
    """
    box = reading.size.box_mm
    if box is None:
        return 1.6 * (mass_g / 1.2) ** (2 / 3), 0.5, 0.0
    length, width, height = (side / 10 for side in box)
    coated = any(layer.place is Place.COAT for layer, _ in reading.build)
    return (_BODY if coated else 1.0) * length * width, 0.08, _MID_SURFACE * 2 * (length * width + (length + width) * height)


def _share_root(family_ids: Sequence[str]) -> Floats:
    """The root of the shares' prior covariance: each layer is about as heavy as is usual, twins about as heavy as each other."""
    same = np.array([[one == other for other in family_ids] for one in family_ids], dtype=float)
    return np.asarray(LAYER_SHARE_SD * np.linalg.cholesky(_TWINS * same + (1 - _TWINS) * np.eye(len(family_ids))))


def _lost_most(family: Family) -> float:
    """The most water a layer can lose [g/g]: makers boil further than our working ranges."""
    return min(_MOST_LOST, _LOST_REACH * family.water_lost_most)


def _lost_key(reading: StudyReading, layer: Layer) -> tuple[str, str, str] | None:
    """What layers that share one recipe call their water lost."""
    recipe = next((one.slot.recipe for one in reading.placing.placings if one.layer_id == layer.id and one.slot), None)
    return (recipe, "water", "lost") if recipe is not None and recipe.startswith("family ") else None


def _entries(reading: StudyReading, layer: Layer) -> list[_Entry]:
    return [
        _Entry(reading.ingredient_of[placing.item], placing.item, placing.slot, placing.odds, placing.where is Whereabouts.YES)
        for placing in reading.placing.placings
        if placing.layer_id == layer.id and placing.where is not Whereabouts.NO and placing.slot is not None
    ]


def _implied(reading: StudyReading, layer: Layer, family: Family, entries: Sequence[_Entry], assumed: list[str]) -> list[_Entry]:
    """Water that boils off unlisted, and the usual ingredient of a required role that no name serves."""
    opened = reading.placing.opened.get(layer.id)
    nothing_named = not entries
    recipe = next((entry.slot.recipe for entry in entries), None)
    implied = []
    for role in family.roles:
        served = any(entry.slot.role is role or entry.slot.within is role for entry in entries)
        if served:
            continue
        if role.name == WATER:
            usual = family.heated and (nothing_named is False or role.typical > 0)
            if usual:
                implied.append(_Entry(role.default_id, None, Slot(layer_id=layer.id, role=role, recipe=recipe)))
        elif reading.ingredient_of and reading.all_known and entries:
            continue  # every name is known, and none serves: it does without
        elif not role.optional or (nothing_named and role.typical > 0):
            implied.append(_Entry(role.default_id, None, Slot(layer_id=layer.id, role=role, recipe=recipe)))
            if reading.ingredient_of and not role.optional:
                assumed.append(_assumption(reading, layer, role))
    if opened is not None:
        implied += _implied_in_chocolate(reading, layer, opened, entries, assumed)
    return implied


def _implied_in_chocolate(
    reading: StudyReading, layer: Layer, opened: Family, entries: Sequence[_Entry], assumed: list[str]
) -> list[_Entry]:
    inside = [entry for entry in entries if entry.slot.opened is opened]
    if not inside:
        return []
    implied = []
    for role in opened.roles:
        if role.optional or any(entry.slot.role is role for entry in inside) or reading.all_known:
            continue
        slot = Slot(
            layer_id=layer.id,
            role=role,
            opened=opened,
            within=inside[0].slot.within,
            in_compound=inside[0].slot.in_compound,
            recipe=inside[0].slot.recipe,
        )
        implied.append(_Entry(role.default_id, None, slot))
        assumed.append(_assumption(reading, layer, role))
    return implied


def _assumption(reading: StudyReading, layer: Layer, role: Role) -> str:
    food = reading.pantry[role.default_id].name.lower()
    said = f"{layer.name}: no name on the statement serves as {role.name.replace('-', ' ')}; {food} was assumed"
    if role.default_id in reading.ingredient_of.values():
        return f"{said}, though the statement names it elsewhere. Say whether it is in {layer.name} as well."
    return f"{said}."


def _looked_for(reading: StudyReading) -> list[str]:
    """Names that no role takes, and where they are looked for."""
    return [
        f"No layer is usually made with “{key.rpartition(' > ')[2]}”; it was looked for in {' and '.join(layers)}."
        for key, layers in reading.anywhere.items()
    ]


def _lay_out(draft: _Draft, index: int, entries: Sequence[_Entry]) -> None:
    """One layer's nodes: roles, an opened chocolate's roles, ingredients."""
    top = draft.plan.new_group()
    outer: dict[str, list[_Entry]] = {}
    for entry in entries:
        outer.setdefault((entry.slot.within or entry.slot.role).name, []).append(entry)
    for within in outer.values():
        role = within[0].slot.within or within[0].slot.role
        whole = _whole_recipe(within)
        path = _role_path(draft, (), _at_strength(role, within), top, whole, within, alone=len(outer) == 1)
        opened = [entry for entry in within if entry.slot.opened is not None]
        if opened:  # brackets say what the chocolate is made of; a bought one beside them is left out
            _lay_out_opened(draft, index, path, opened)
        else:
            _split(draft, index, path, within, role)


def _whole_recipe(entries: Sequence[_Entry]) -> str | None:
    """The recipe that a layer shares as a whole with its twins; a bracket shared by two kinds of layer is not that."""
    recipe = entries[0].slot.recipe
    return recipe if recipe is not None and (recipe.startswith("family ") or entries[0].slot.opened is None) else None


def _lay_out_opened(draft: _Draft, index: int, path: tuple[int, ...], entries: Sequence[_Entry]) -> None:
    inner_group = draft.plan.new_group()
    inner: dict[str, list[_Entry]] = {}
    for entry in entries:
        inner.setdefault(entry.slot.role.name, []).append(entry)
    for same_role in inner.values():
        role = same_role[0].slot.role
        role_at = _at_strength(role, same_role)
        inner_path = _role_path(
            draft, path, role_at, inner_group, same_role[0].slot.recipe, same_role, alone=len(inner) == 1, inner=True
        )
        _split(draft, index, inner_path, same_role, role)


def _at_strength(role: Role, entries: Sequence[_Entry]) -> Role:
    """The role's window for the ingredients that serve it here: dried egg white does the work of much fresh."""
    most = max(strength(role, entry.ingredient_id) for entry in entries)
    if most == 1.0 or any(entry.slot.opened is not None for entry in entries if entry.slot.role is not role):
        return role
    return replace(role, least=role.least * most, typical=role.typical * most, most=min(1.0, role.most * most))


def _role_path(
    draft: _Draft,
    path: tuple[int, ...],
    role: Role,
    group: int,
    recipe: str | None,
    entries: Sequence[_Entry],
    *,
    alone: bool,
    inner: bool = False,
) -> tuple[int, ...]:
    """The path down to a role; a role without siblings adds no node.

    Args:
        inner: Whether it is a role of an opened chocolate.
    """
    if alone:
        return path
    unknown = draft.unknown((recipe, "inner" if inner else "role", role.name) if recipe is not None else None)
    least = 0.0 if role.optional else role.least
    odds = max(entry.odds for entry in entries)
    node = Node(group=group, unknown=unknown, least=least, typical=role.typical, most=role.most, is_role=True, odds=odds)
    return (*path, draft.plan.add(node))


def _split(draft: _Draft, index: int, path: tuple[int, ...], entries: Sequence[_Entry], role: Role) -> None:
    """The ingredients of a role; one alone adds no node."""
    group = draft.plan.new_group()
    for entry in entries:
        recipe = entry.slot.recipe
        if len(entries) > 1:
            key = (recipe, role.name, entry.item or entry.ingredient_id) if recipe is not None else None
            node = Node(
                group=group,
                unknown=draft.unknown(key),
                odds=entry.odds,
                strength=math.log(strength(role, entry.ingredient_id)),
                sd=_BRACKET_SD if entry.slot.in_compound is not None else _SURE_SD if entry.sure else 0.0,
            )
            draft.plan.paths.append((*path, draft.plan.add(node)))
        else:
            draft.plan.paths.append(path)
        draft.parts.append(
            Part(
                layer=index,
                ingredient_id=entry.ingredient_id,
                role=role.name,
                item=entry.item,
                opened=entry.slot.opened.id if entry.slot.opened else None,
            )
        )


def _sticky_weighed(reading: StudyReading) -> bool:
    weighed = {layer for weighing in reading.weighings if weighing.grams for layer in weighing.layers}
    return any(layer.id in weighed and family.traits.sticky for layer, family in reading.build)
