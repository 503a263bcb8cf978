"""Which layers a bracket of the statement describes: by its name, by what is inside, and by the kind of chocolate."""

import re
from collections.abc import Collection, Mapping, Sequence

from rapidfuzz import fuzz

from fern_match.core.families import Families, Family, Role
from fern_match.core.families.admission import CHOCOLATE, Grade, grade, misfit
from fern_match.core.label.statement import Statement, StatementItem
from fern_match.core.study.naming import is_chocolate, is_coating, is_compound
from fern_match.core.study.record import Layer, Meaning, Whereabouts

_LEAST_WORD_LIKENESS = 78.0
_NOT_CALLED_A_COAT = 1.5  # in misfit: a hazelnut cream with cocoa is made of nearly what a milk coat is made of
_MOST_MISFIT = 3.5  # a bracket that a layer explains better than this is its list, whatever it is called
_COCOA = frozenset({"cocoa mass", "cocoa butter", "chocolate liquor", "cocoa liquor"})
_COCOA_PARTS = frozenset({"cocoa-mass", "cocoa-butter"})
_LEAST_LIST = 3  # known names of a list that nobody took, for a layer to get it
_KINDS = (
    ("white", re.compile(r"white")),
    ("vegan", re.compile(r"vegan|\boat\b|\brice\b")),
    ("milk", re.compile(r"milk")),
    ("dark", re.compile(r"dark|plain|semi|bitter")),
)


def open_brackets(statement: Statement, meanings: Mapping[str, Meaning]) -> tuple[StatementItem, ...]:
    """The brackets that may be a layer's list, each within no other; those that hold parts are looked into.

    Args:
        meanings: Item key -> how its bracket is read.
    """
    found: list[StatementItem] = []

    def walk(items: Sequence[StatementItem]) -> None:
        for item in items:
            if item.items and meanings.get(item.key) is Meaning.LAYER:
                found.append(item)
            elif item.items:
                walk(item.items)

    walk(statement.items)
    return tuple(found)


def assigned_brackets(
    known: Families,
    brackets: Sequence[StatementItem],
    loose: Collection[str],
    ingredient_of: Mapping[str, str],
    layers: Sequence[tuple[Layer, Family]],
    said: Mapping[tuple[str, str], Whereabouts],
) -> dict[str, tuple[str, ...]]:
    """Each bracket to the layers it describes; the surest pairs first, one whole bracket to a layer and its twins.

    Args:
        brackets: As `open_brackets` returns them.
        loose: Ingredients that stand in none of them.
        ingredient_of: Leaf key -> ingredient id, for the leaves that are known.
        layers: The build with each layer's family.
        said: The user's own answers by (bracket's key, layer id); they win.
    """
    scores: list[tuple[float, str, str]] = []
    for item in brackets:
        if is_chocolate(item.name):
            continue
        inside = [ingredient_of[leaf.key] for leaf in item.leaves() if leaf.key in ingredient_of]
        for layer, family in layers:
            score = _bracket_score(known, item.name, inside, layer, family)
            if score > 0:
                scores.append((score, item.key, layer.id))
    listed = _with_own_list(brackets, scores, layers)
    given = _assigned_chocolates(known, brackets, loose, ingredient_of, [pair for pair in layers if pair[0].id not in listed])
    taken = {layer_id for fits in given.values() for layer_id in fits if _is_whole(layer_id, layers)}
    for (key, layer_id), where in said.items():
        if where is Whereabouts.YES:
            given[key] = (*given.get(key, ()), layer_id)
            taken.add(layer_id)
    for _, key, layer_id in sorted(scores, key=lambda entry: -entry[0]):
        if key not in given and layer_id not in taken and (key, layer_id) not in said:
            given[key] = (layer_id,)
            taken.add(layer_id)
    _to_the_free_ones(known, [item for item in brackets if item.key not in given], ingredient_of, layers, taken, given)
    for key, fits in given.items():
        twins = [
            layer.id
            for layer, family in layers
            if layer.id not in taken and any(_is_twin(layer, family, one, layers) for one in fits)
        ]
        given[key] = tuple(one for one in dict.fromkeys((*fits, *twins)) if said.get((key, one)) is not Whereabouts.NO)
    return {key: fits for key, fits in given.items() if fits}


def _to_the_free_ones(
    known: Families,
    brackets: Sequence[StatementItem],
    ingredient_of: Mapping[str, str],
    layers: Sequence[tuple[Layer, Family]],
    taken: set[str],
    given: dict[str, tuple[str, ...]],
) -> None:
    """Lists that nobody took, each to the layer without one that it fits least badly: a list is of some layer."""
    for item in brackets:
        inside = [ingredient_of[leaf.key] for leaf in item.leaves() if leaf.key in ingredient_of]
        free = [pair for pair in layers if pair[0].id not in taken and (pair[1].place == "coat") <= is_chocolate(item.name)]
        costs = {layer.id: misfit(known, family, inside, complete=True) for layer, family in free}
        best = min(costs, key=lambda one: costs[one], default=None)
        if len(inside) < _LEAST_LIST or best is None or costs[best] > 2 * _MOST_MISFIT:
            continue
        given[item.key] = (best,)
        taken.add(best)


def _with_own_list(
    brackets: Sequence[StatementItem], scores: Sequence[tuple[float, str, str]], layers: Sequence[tuple[Layer, Family]]
) -> set[str]:
    """Layers that a list of their own describes, with a chocolate opened in it or parts of one: no other chocolate is theirs."""
    holding = {item.key for item in brackets if any(part is not item and is_chocolate(part.name) for part in item.everything())}
    holding |= {item.key for item in brackets if _COCOA & {leaf.name for leaf in item.leaves()}}
    best: dict[str, tuple[float, str]] = {}
    for score, key, layer_id in scores:
        if key in holding:
            best[key] = max(best.get(key, (0.0, "")), (score, layer_id))
    whole = {layer.id for layer, _ in layers if _is_whole(layer.id, layers)}
    return {layer_id for _, layer_id in best.values()} - whole


def _is_twin(layer: Layer, family: Family, other_id: str, layers: Sequence[tuple[Layer, Family]]) -> bool:
    other, its_family = next((la, fa) for la, fa in layers if la.id == other_id)
    return other.id != layer.id and its_family.id == family.id


def _bracket_score(known: Families, head: str, inside: Sequence[str], layer: Layer, family: Family) -> float:
    words = max(fuzz.token_set_ratio(head, word) for word in (*family.traits.words, layer.name.lower()))
    cost = misfit(known, family, inside, complete=True)
    likeness = words / 25 if words >= _LEAST_WORD_LIKENESS else 0.0
    cost += _NOT_CALLED_A_COAT * (family.place == "coat" and not likeness and not is_coating(head))
    return likeness + max(0.0, _MOST_MISFIT - cost) if likeness or cost < _MOST_MISFIT else 0.0


def _assigned_chocolates(
    known: Families,
    brackets: Sequence[StatementItem],
    loose: Collection[str],
    ingredient_of: Mapping[str, str],
    layers: Sequence[tuple[Layer, Family]],
) -> dict[str, tuple[str, ...]]:
    """Bracketed chocolates to the layers that hold them: those of their kind first, then any that would go without."""
    chocolates = [item for item in brackets if is_chocolate(item.name)]
    open_to = [one for one in layers if not _holds_its_own(one[1], loose)]
    given = {item.key: _layers_of_kind(item, ingredient_of, open_to) for item in chocolates}
    served = {layer_id for fits in given.values() for layer_id in fits}
    for layer, family in layers:
        role = chocolate_role(family)
        if role is None or role.optional or layer.id in served or any(grade(known, role, name) is Grade.LISTED for name in loose):
            continue
        spare = [item for item in chocolates if not given[item.key]] or (
            chocolates if len(family.roles) == 1 or len(chocolates) == 1 else []
        )
        if spare:
            given[spare[0].key] = (*given[spare[0].key], layer.id)
    return {key: fits for key, fits in given.items() if fits}


def _is_whole(layer_id: str, layers: Sequence[tuple[Layer, Family]]) -> bool:
    """Whether chocolate is all there is to a layer."""
    family = next(family for layer, family in layers if layer.id == layer_id)
    return len(family.roles) == 1 or chocolate_role(family) is None


def _layers_of_kind(
    item: StatementItem, ingredient_of: Mapping[str, str], layers: Sequence[tuple[Layer, Family]]
) -> tuple[str, ...]:
    """Coats of a bracketed chocolate's kind, and layers that cannot do without chocolate of that kind."""
    inside = {ingredient_of[leaf.key] for leaf in item.leaves() if leaf.key in ingredient_of}
    kind = (
        "compound" if is_compound(item.name, inside) else next((kind for kind, words in _KINDS if words.search(item.name)), None)
    )
    matching = []
    for layer, family in layers:
        role = chocolate_role(family)
        kinds = _kinds_of(family, role)
        if kinds and (kind is None or kind in kinds) and (role is None or not role.optional):
            matching.append(layer.id)
    return tuple(matching)


def _holds_its_own(family: Family, loose: Collection[str]) -> bool:
    """Whether a filling's chocolate is told by its parts outside all brackets, so that no bracketed one need be in it."""
    return len(family.roles) > 1 and bool(_COCOA_PARTS & set(loose))


def chocolate_role(family: Family) -> Role | None:
    """The role of a family that chocolate fills; None where it holds none."""
    return next((role for role in family.roles if role.name == CHOCOLATE), None)


def _kinds_of(family: Family, role: Role | None) -> frozenset[str]:
    if role is not None:
        kinds = {admitted.split("-")[0] for admitted in role.admits}
        kinds |= {"dark", "milk"} if "sugar" in kinds else set()
        return frozenset({"semi": "dark"}.get(kind, kind) for kind in kinds)
    if family.place != "coat":
        return frozenset()
    kinds = {family.chocolate} if family.chocolate else set()
    return frozenset(kinds | ({"vegan"} if family.diet == "vegan" else set()) | (family.sorts & {"compound"}))
