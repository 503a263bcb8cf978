"""Builds that a wrapper suggests: brackets and headed lists name layers, other names give signs of them.

Belongs here: which layers are likely, and why. Worked example: "milk chocolate (...), corn syrup, peanuts, sugar, condensed
milk, palm oil, egg whites": the bracket is a milk coat; egg white with syrup a nougat, condensed milk a caramel, peanuts that
are not ground an inclusion in it.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from rapidfuzz import fuzz

from fern_match.core.families import FROM_PARTS, Families, Family, build_signs
from fern_match.core.families.admission import all_opened_families, misfit
from fern_match.core.label.statement import StatementItem
from fern_match.core.study.brackets import open_brackets
from fern_match.core.study.naming import is_chocolate
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer, Place

_WORDS_FROM = 78.0
_LONG_LIST = 8  # so many names in a bracket are a layer's
_SAID = 2.0  # in misfit: the bracket's name says which chocolate it is
_MOST_LAYERS = 5
_CHOCOLATE_SIGNS = frozenset({"cocoa-mass", "cocoa-butter", "cocoa-powder-10-12", "cocoa-powder-20-22", "cocoa-powder-alkalised"})
_MAIN_ONLY = frozenset(
    {"peanut-filling", "nut-paste-praline", "whole-nuts", "whole-fruit", "coconut-filling", "sesame-cream", "seeds"}
)
_KINDS = (("white", "white-coat-open"), ("milk", "milk-coat-open"), ("dark", "dark-coat-open"), ("plain", "dark-coat-open"))
_CLOSED = {  # what a coat that is opened into its parts is called as a family to choose
    "dark-coat-open": "dark-coat",
    "milk-coat-open": "milk-coat",
    "white-coat-open": "white-coat",
    "compound-coat-open": "compound-dark-coat",
    "plant-milk-coat-open": "plant-milk-coat-open",
    "sugar-free-dark-coat-open": "sugar-free-dark-coat",
    "sugar-free-milk-coat-open": "sugar-free-milk-coat",
}
_BASES = ("short-base", "crumb-base", "baked-biscuit", "wafer-sheet", "wafer-sheet-bought", "keto-short-base", "granola")
_HOSTS = ("soft-caramel", "condensed-milk-caramel", "powder-caramel", "nougat-egg-white", "maltitol-caramel", "allulose-caramel")


@dataclass(frozen=True, slots=True)
class ProposedBuild:
    """A likely build."""

    id: str
    name: str
    reason: str
    layers: tuple[Layer, ...]


@dataclass(frozen=True, slots=True)
class _Likely:
    """A layer that something speaks for."""

    family: Family
    place: str
    name: str
    why: str
    weight: float
    uses: frozenset[str]


def proposed_builds(reading: StudyReading) -> tuple[ProposedBuild, ...]:
    """One or two builds that the statement suggests, the likelier first; none where it says too little."""
    known = reading.families
    brackets = open_brackets(reading.statement, reading.meanings)
    bought = {item.key: name for item in brackets if (name := _bought(reading, item)) is not None}
    told = [found for item in brackets if item.key not in bought and (found := _told(reading, item)) is not None]
    bracketed = {leaf.key for item in reading.statement.everything() if item.items for leaf in item.leaves()}
    loose = [*bought.values(), *(name for key, name in reading.ingredient_of.items() if key not in bracketed)]
    small = {
        reading.ingredient_of[leaf.key]
        for leaf in reading.statement.leaves()
        if leaf.at_most_percent and leaf.key in reading.ingredient_of
    }
    coat = [] if any(one.place == "coat" for one in told) else _coat(reading, loose)
    called = {name: key.rpartition(" > ")[2] for key, name in reversed(list(reading.ingredient_of.items()))}
    signs = _signs_in(known, loose, small, called, taken={one.family.id for one in told})
    likely = [*coat, *told, *signs]
    if not likely:
        return ()
    builds = [_build("likely", likely)]
    doubtful = [one for one in signs if one.weight < 2.0] or signs[-1:]
    if doubtful and len(likely) > 2:
        builds.append(_build("fewer", [one for one in likely if one is not doubtful[-1]]))
    return tuple(_dieted(reading, build) for build in builds if build.layers)


def _bought(reading: StudyReading, item: StatementItem) -> str | None:
    """What a bracket is as a bought crisp or biscuit: no list of a layer, but a sign of one. What is no sign is a layer."""
    name = reading.matches[item.key].ingredient_id
    bought = name is not None and reading.pantry[name].category in {"inclusion", "biscuit-crumb"}
    is_sign = any(name in group for sign in build_signs() for group in sign.needs)
    return name if bought and is_sign and len(item.items) < _LONG_LIST else None


def _told(reading: StudyReading, item: StatementItem) -> _Likely | None:
    """The layer that a bracket describes: the family whose words or roles it fits best."""
    known = reading.families
    inside = [reading.ingredient_of[leaf.key] for leaf in item.leaves() if leaf.key in reading.ingredient_of]
    if is_chocolate(item.name):
        kind = next((family_id for word, family_id in _KINDS if word in item.name), None)
        best = min(
            all_opened_families(known),
            key=lambda one: misfit(known, one, inside, complete=True) - _SAID * (one.id.endswith(kind or "-")),
        )
        family = known[_CLOSED[best.id]]
        return _Likely(family, "coat", item.name, f"“{item.name}” in brackets", 3.0, frozenset(inside))

    def score(family: Family) -> float:
        words = max((fuzz.token_set_ratio(item.name, word) for word in family.traits.words if word), default=0.0)
        return (2.0 + words / 100 if words >= _WORDS_FROM else 0.0) - misfit(known, family, inside, complete=True)

    families = [family for family in known.all() if family.place != "coat" and family.made != FROM_PARTS]
    best = max(families, key=score)
    if score(best) < -3.0:
        return None
    place = best.place if best.place in {"inclusion", "topping"} else "stack"
    return _Likely(best, place, item.name, f"“{item.name}” in brackets", 2.5, frozenset(inside))


def _coat(reading: StudyReading, loose: Sequence[str]) -> list[_Likely]:
    """A chocolate coat that no bracket names: a bought chocolate, or what chocolates are made of."""
    known = reading.families
    closed = next((name for name in loose if reading.pantry[name].category == "chocolate"), None)
    if closed is not None:
        family = _coat_of(known, closed)
        return [_Likely(family, "coat", family.name, "a chocolate on the statement", 2.5, frozenset({closed}))]
    if not _CHOCOLATE_SIGNS & set(loose):
        return []
    best = min(
        all_opened_families(known), key=lambda one: misfit(known, one, loose, complete=False) + 0.4 * (one.diet == "vegan")
    )
    milky = {"whole-milk-powder", "skimmed-milk-powder", "anhydrous-milk-fat"} & set(loose)
    if best.id == "dark-coat-open" and milky and "cocoa-butter" in loose:
        best = known["milk-coat-open"]
    family = known[_CLOSED[best.id]]
    return [_Likely(family, "coat", family.name, "cocoa, cocoa butter or coating fat on the statement", 2.2, frozenset(loose))]


def _coat_of(known: Families, chocolate_id: str) -> Family:
    """The coat that lists a bought chocolate; a dark one where none does."""
    coats = [family for family in known.all() if family.place == "coat"]
    return next((family for family in coats if any(chocolate_id in role.admits for role in family.roles)), known["dark-coat"])


def _signs_in(
    known: Families, loose: Sequence[str], small: set[str], called: Mapping[str, str], taken: set[str]
) -> list[_Likely]:
    """Layers that loose names speak for, the surest first; each name but syrups and sugars speaks once."""
    names, used = set(loose), set[str]()
    roots = {known.root_of(one) for one in taken if one in known}
    found = []
    for sign in sorted(build_signs(), key=lambda one: -one.weight):
        met = [next((name for name in loose if name in group), None) for group in sign.needs]
        if any(name is None for name in met) or sign.without & names or known.root_of(sign.family) in roots:
            continue
        if met[0] in used or (met[0] in small and sign.family in _MAIN_ONLY):
            continue
        used.add(str(met[0]))
        roots.add(known.root_of(sign.family))
        family = known[sign.family]
        why = " and ".join(called.get(str(name), str(name).replace("-", " ")) for name in met)
        found.append(_Likely(family, sign.place, family.name, why, sign.weight, frozenset(str(name) for name in met)))
    return found


def _build(build_id: str, likely: Iterable[_Likely]) -> ProposedBuild:
    """Coats, then the stack from its base up, inclusions after their host."""
    chosen = sorted(likely, key=lambda one: -one.weight)[:_MOST_LAYERS]
    coats = [one for one in chosen if one.place == "coat"]
    body = [one for one in chosen if one.place in {"stack", "core"}]
    body.sort(key=lambda one: (one.family.id not in _BASES, one.family.id in _HOSTS))
    inside = [one for one in chosen if one.place == "inclusion"]
    layers: list[Layer] = [_layer(f"coat{at or ''}", one, Place.COAT if at == 0 else Place.STACK) for at, one in enumerate(coats)]
    for at, one in enumerate(body):
        alone = len(body) == 1 and coats
        layers.append(_layer(f"layer{at + 1}", one, Place.CORE if alone else Place.STACK))
    hosts = [layer for layer in layers if layer.place is not Place.COAT] or layers
    host = next((layer for layer in reversed(hosts) if layer.family in _HOSTS), hosts[-1] if hosts else None)
    for at, one in enumerate(inside):
        if host is None or not body:
            layers.append(_layer(f"inside{at + 1}", one, Place.CORE if coats and at == 0 else Place.STACK))
        else:
            layers.append(replace(_layer(f"inside{at + 1}", one, Place.INCLUSION), host=host.id))
    layers += [_layer(f"top{at + 1}", one, Place.TOPPING) for at, one in enumerate(chosen) if one.place == "topping"]
    reason = "; ".join(dict.fromkeys(f"{_short(one)}: {one.why}" for one in chosen))
    return ProposedBuild(build_id, ", ".join(layer.name.lower() for layer in layers), reason, tuple(layers))


def _layer(layer_id: str, likely: _Likely, place: Place) -> Layer:
    return Layer(id=layer_id, name=_short(likely), family=likely.family.id, place=place)


def _short(likely: _Likely) -> str:
    name = likely.name if likely.name == likely.family.name else likely.name.capitalize()
    return name.partition(",")[0].partition(" (")[0]


def _dieted(reading: StudyReading, build: ProposedBuild) -> ProposedBuild:
    """A build whose families are the variants that the names fit better: maltitol caramel for caramel."""
    better = reading.with_study(replace(reading.study, layers=build.layers)).better_families
    layers = tuple(replace(layer, family=better[layer.id].id) if layer.id in better else layer for layer in build.layers)
    return replace(build, layers=layers)
