"""Builds that a wrapper suggests: brackets and headed lists name layers, the pack's own sentence does, other names give signs.

Belongs here: which layers are likely, and why, and how likely a build is. Worked example: "milk chocolate (...), corn syrup,
peanuts, sugar, condensed milk, palm oil, egg whites": the bracket is a milk coat; egg white with syrup a nougat, condensed milk
a caramel, peanuts that are not ground an inclusion in it.
"""

import math
import re
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from rapidfuzz import fuzz

from fern_match.core.families import FROM_PARTS, Families, Family, Role, build_signs
from fern_match.core.families.admission import CHOCOLATE, Grade, all_opened_families, grade, grade_of, misfit
from fern_match.core.label.statement import StatementItem
from fern_match.core.label.statement.tongues import in_words_of_ours
from fern_match.core.study.brackets import open_brackets
from fern_match.core.study.naming import is_chocolate, is_compound
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer, Meaning, Place

_WORDS_FROM = 78.0
_LONG_LIST, _LONG_CRUMB_LIST = 8, 12  # so many names in a bracket are a layer's; biscuits that are crushed have long lists too
_SAID = 2.0  # in misfit: the bracket's name says which chocolate it is
_MOST_LAYERS = 5
_CHOCOLATE_SIGNS = frozenset({"cocoa-mass", "cocoa-butter", "cocoa-powder-10-12", "cocoa-powder-20-22", "cocoa-powder-alkalised"})
_MAIN_ONLY = frozenset(
    {
        "peanut-filling",
        "nut-paste-praline",
        "whole-nuts",
        "whole-fruit",
        "coconut-filling",
        "sesame-cream",
        "seeds",
        "powder-caramel",
        "nut-cluster",
    }
)
_BY_NAME = frozenset({"aerated-chocolate", "marbled-chocolate", "home-milk-chocolate"})  # chocolate, and told by its name alone
_HEAVY_ONLY = frozenset({"protein-dough"})  # named by what other layers hold a little of
_ALSO_A_FLAVOUR = frozenset({"cookie-dough"})  # what a pack calls a taste by, as well as a layer
_HEAVY = 3  # names that stand early
_MILKS = ("whole-milk-powder", "skimmed-milk-powder", "milk-protein-concentrate", "whole-milk")
_MILKISH = frozenset({"whey-protein-isolate", "whey-powder", "lactose"})
_OF_PLANTS = "plant-milk-coat-open"  # told by its powder, whatever it is called
_PLANTS = frozenset({"rice-drink-powder", "coconut-milk-powder", "oat-flour", "oat-drink", "soy-protein-isolate"})
_POLYOLS = ("maltitol-powder", "erythritol", "isomalt", "allulose-crystalline", "xylitol")
_SYRUPS = ("glucose-syrup-42de", "light-corn-syrup", "maltitol-syrup", "golden-syrup")
_OF_CREAM = frozenset({"soft-caramel", "maltitol-caramel"})
_ANY_CHOCOLATE = "chocolate"  # says no kind
_SWEETS_A_COAT = frozenset({"sugar", "polyol", "rare-sugar", "intense-sweetener"})
_CREAMY = frozenset({"wafer-cream", "cream-fondant"})
_WAFERS = frozenset({"wafer-sheet", "wafer-sheet-bought"})
_TAKE_SPIRIT = frozenset({"marzipan", "ganache-dark", "chocolate-mousse"})  # as a flavour: no centre of its own
_CLOSER = 0.8  # for each further word of a family's that a head says: a flowing caramel is no caramel
_EVEN = 1.7  # weight of a sign that is as likely wrong as right
_SURER = 2.0  # how fast that changes with the weight
_NEAR = 0.75  # odds below which a question is asked
_OPENS = 1.6  # in misfit: takes the chocolate that its bracket opens, as it is bought
_LACKS = 1.5  # in misfit: what most of a layer is made of is not in its bracket
_HOLDS_PIECES = re.compile(r" with (?!sweetener|added|vegetable|milk|no |cocoa)")
_CHIPS = re.compile(  # in a mass, and no coat
    r"chocolate (?:chip|chunk|drop|piece|morsel)s?\b|\b(?:chip|chunk|drop|piece|morsel)s of (?:\w+ )?chocolate"
)
_CRUSHED = re.compile(r"crumb|crush|piece|cracker|digestive|graham|spread|broken")
_OF_FLOUR = frozenset({"flour", "crumb", "crisp"})  # roles that flour or what is baked of it serves ...
_LEADING = 0.08  # ... in families that are made of it
_IN_PIECES = re.compile(r"\b(?:pieces|bits|nibs|granules|crumbles)$")
_SHELL = "shell"  # sort of the families that are rolled onto a centre
_HARD_CARAMEL, _BARS = "toffee", ("granola", "nut-cluster")
_IN_A_BAR = _MAIN_ONLY | {"crisp-in-chocolate", "crisp-pieces"}  # of which such a bar may hold what speaks for them
_SPIRITS, _LEADS = frozenset({"spirit-40", "liqueur", "rum"}), 3  # among so many first names: it flows
_SOFT_SUGAR, _FLOWS = "plain-fondant", "liqueur-centre"
_CREAM_CARAMEL, _CONDENSED_CARAMEL = "soft-caramel", "condensed-milk-caramel"
_CONDENSED = frozenset({"sweetened-condensed-milk", "sweetened-condensed-skimmed-milk"})
_CREAMS = frozenset({"heavy-cream", "double-cream", "single-cream"})
_SAYS_NO_KIND = re.compile(r"\b(?:filling|cent(?:re|er)|layer|base|topping|cream|coating|upper|lower|inner)\b")
_SWEET_FAT = (
    frozenset({"white-sugar", "icing-sugar", "caster-sugar"}),
    frozenset({"palm-oil", "coconut-oil-refined", "palm-kernel-fat"}),
)
_WHITE_COATING = (  # what a coating without cocoa is made of: a fat that sets hard, dry sugar and milk powder
    frozenset({"palm-kernel-fat", "hard-lauric-fat"}),
    frozenset({"white-sugar", "icing-sugar", "caster-sugar"}),
    frozenset({"whole-milk-powder", "skimmed-milk-powder", "whey-powder", "lactose"}),
)
_CREAM_FATS = ("palm-oil", "palm-kernel-fat", "coconut-oil-refined", "vegetable-shortening")
_SHORTENED = frozenset({"butter-unsalted", "butter-salted", "baking-margarine-block", "whole-egg", "rolled-oats"})
_BAKED = frozenset({"plain-wheat-flour", "wafer"})  # between which such a fat is a cream's
_LESS_WHERE_SAID = 0.9  # of a sign's weight, where the pack itself names layers
_KINDS = (("white", "white-coat-open"), ("milk", "milk-coat-open"), ("dark", "dark-coat-open"), ("plain", "dark-coat-open"))
_CLOSED = {  # what a coat that is opened into its parts is called as a family to choose
    "dark-coat-open": "dark-coat",
    "milk-coat-open": "milk-coat",
    "white-coat-open": "white-coat",
    "compound-coat-open": "compound-dark-coat",
    "plant-milk-coat-open": "plant-milk-coat-open",
    "plant-white-coat-open": "plant-white-coat-open",
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
    odds: float = 1.0  # beside the other builds; they sum to 1
    question: str = ""  # what would tell it from the next, where the two are near


@dataclass(frozen=True, slots=True)
class _Likely:
    """A layer that something speaks for."""

    family: Family
    place: str
    name: str
    why: str
    weight: float
    uses: tuple[str, ...]  # as printed, the most first


def proposed_builds(reading: StudyReading) -> tuple[ProposedBuild, ...]:
    """One or two builds that the statement suggests, the likelier first; none where it says too little."""
    known = reading.families
    brackets = open_brackets(reading.statement, reading.meanings)
    bought = {item.key: name for item in brackets if (name := _bought(reading, item)) is not None}
    told = [found for item in brackets if item.key not in bought and (found := _told(reading, item)) is not None]
    parts = {item.key for item in reading.statement.everything() if reading.meanings.get(item.key) is Meaning.PARTS}
    bracketed = {
        leaf.key for item in reading.statement.everything() if item.items and item.key not in parts for leaf in item.leaves()
    }
    loose = [*bought.values(), *(name for key, name in reading.ingredient_of.items() if key not in bracketed)]
    small = {
        reading.ingredient_of[leaf.key]
        for leaf in reading.statement.leaves()
        if leaf.at_most_percent and leaf.key in reading.ingredient_of
    }
    said = _said(reading, loose)
    chips = {bought[item.key] for item in brackets if item.key in bought and _CHIPS.search(item.name)}
    coating = [name for name in loose if name not in chips]
    coat = [] if any(one.place == "coat" for one in told) else _coat(reading, coating, said)
    called = {name: key.rpartition(" > ")[2] for key, name in reversed(list(reading.ingredient_of.items()))}
    spoken = [one for one in said if one.place != "coat" and not _told_already(known, one, told) and _made_of(reading, one)]
    heavy = set(loose[: max(_HEAVY, len(loose) // 2)])
    signs = _signs_in(known, loose, small, heavy, called, told=told, spoken=spoken)
    signs = _with_a_body([*told, *spoken], signs, loose, known)
    told, spoken = (_by_what_is_beside(group, [*told, *spoken, *signs], known) for group in (told, spoken))
    if len(said) > 1:  # a pack that names its layers seldom forgets one, but what no layer takes is one of its own
        open_lists = [*coat, *spoken, *signs]
        signs = [replace(one, weight=one.weight - _LESS_WHERE_SAID * _has_a_place(known, one, open_lists)) for one in signs]
    likely = sorted([*coat, *told, *spoken, *signs], key=lambda one: -one.weight)[:_MOST_LAYERS]
    if not likely:
        return ()
    whole = _dieted(reading, _build("likely", likely))
    doubtful = min((one for one in signs if one in likely), key=lambda one: one.weight, default=None)
    if doubtful is None or len(likely) <= 2:
        return (whole,) if whole.layers else ()
    fewer = _dieted(reading, _build("fewer", [one for one in likely if one is not doubtful]))
    odds = 1 / (1 + math.exp(_SURER * (_EVEN - doubtful.weight)))
    kind = doubtful.family.name.partition(",")[0].partition(" (")[0].lower()
    asked = f"Does it have a layer of {kind}? {doubtful.why.capitalize()} may be in another layer."
    ranked = sorted((replace(whole, odds=odds), replace(fewer, odds=1 - odds)), key=lambda one: -one.odds)
    near = ranked[0].odds < _NEAR
    return tuple(replace(one, question=asked if near else "") for one in ranked if one.layers)


def _has_a_place(known: Families, one: _Likely, others: Sequence[_Likely]) -> bool:
    """Whether what speaks for a layer may be in one of the others, whose names are not listed apart."""
    roles = [role for other in others if other is not one for role in other.family.roles]
    return any(grade(known, role, one.uses[0]) is not Grade.NONE for role in roles)


def _by_what_is_beside(ones: Sequence[_Likely], everything: Sequence[_Likely], known: Families) -> list[_Likely]:
    """Creams of the same parts, told apart by what they lie on: between wafers, on sponge, or as a centre of its own."""
    beside = {known.root_of(one.family.id) for one in everything}
    baked = {one.family.id for one in everything} & set(_BASES)

    def first(one: _Likely, role: Role) -> int:
        return next((at for at, name in enumerate(one.uses) if grade(known, role, name) is not Grade.NONE), len(one.uses))

    def settled(one: _Likely) -> str:
        roles = {role.name: role for role in known["wafer-cream"].roles}
        nuts, fat = first(one, roles["nut-solids"]), first(one, roles["fat"])
        if one.family.id == "nut-paste-praline" and fat < nuts and beside & _WAFERS:
            return "wafer-cream"
        if one.family.id in _CREAMY and fat < len(one.uses) and "sponge-base" in beside:
            return "buttercream"
        return "nut-paste-praline" if one.family.id == "wafer-cream" and nuts < len(one.uses) and not baked else one.family.id

    return [replace(one, family=known[settled(one)]) for one in ones]


def _with_a_body(told: Sequence[_Likely], signs: Sequence[_Likely], loose: Sequence[str], known: Families) -> list[_Likely]:
    """Nuts with sugar and fat, and no layer for them to lie in, are ground to a filling; crisps lie in the body there is."""
    signs = _between_wafers(told, signs, loose, known)
    of_chocolate = bool(_CHOCOLATE_SIGNS & set(loose)) or any("chocolate" in name for name in loose)
    lies_in = told if of_chocolate else (*told, *signs)  # crisps lie in chocolate where there is some for them
    body = [one for one in lies_in if one.place in {"stack", "core"} and one.family.id != "crisp-in-chocolate"]
    if not [one for one in (*told, *signs) if one.place in {"stack", "core"}] and all(group & set(loose) for group in _SWEET_FAT):
        paste = {True: known["peanut-filling"], False: known["nut-paste-praline"]}
        return [
            replace(one, family=(kind := paste[any("peanut" in name for name in one.uses)]), place="core", name=kind.name)
            if one.family.id == "whole-nuts"
            else one
            for one in signs
        ]
    if body:
        pieces = known["crisp-pieces"]
        return [
            replace(one, family=pieces, place="inclusion", name=pieces.name) if one.family.id == "crisp-in-chocolate" else one
            for one in signs
        ]
    return list(signs)


def _between_wafers(told: Sequence[_Likely], signs: Sequence[_Likely], loose: Sequence[str], known: Families) -> list[_Likely]:
    """A cream of sugar and fat, with the nuts that stand beside them: no wafer lies alone."""
    body = {one.family.id for one in (*told, *signs) if one.place in {"stack", "core"}}
    if not body or body - _WAFERS or not all(group & set(loose) for group in _SWEET_FAT):
        return list(signs)
    cream = known["wafer-cream"]
    if not any(one.family.id == "whole-nuts" for one in signs):
        return [*signs, _Likely(cream, "stack", cream.name, "sugar and fat beside wafers", _EVEN + 0.1, tuple(loose))]
    return [replace(one, family=cream, place="stack", name=cream.name) if one.family.id == "whole-nuts" else one for one in signs]


def _said(reading: StudyReading, loose: Sequence[str]) -> list[_Likely]:
    """Layers that the pack's own sentence names: "soft mint and biscuit in dark chocolate"."""
    text = in_words_of_ours(reading.study.sentence or reading.statement.says)
    if not text:
        return []
    named: list[tuple[str, Family]] = []
    for family in reading.families.all():
        if family.made == FROM_PARTS:
            continue
        named += [(word, family) for word in family.traits.words if word and re.search(rf"\b{re.escape(word)}s?\b", text)]
    found: list[_Likely] = []
    taken: set[str] = set()
    for word in sorted({word for word, _ in named}, key=lambda one: -len(one)):
        if any(word in longer for longer in taken):
            continue
        taken.add(word)
        families = [family for one, family in named if one == word]
        best = min(families, key=lambda one: misfit(reading.families, one, loose, complete=False))
        place = best.place if best.place in {"coat", "inclusion", "topping"} else "stack"
        kinds = {reading.families.root_of(family.id) for family in families}
        name = word if len(kinds) == 1 else best.traits.words[0]  # a word for two things names neither
        found.append(_Likely(best, place, name, "the pack says so", 2.8, ()))
    return found


def _made_of(reading: StudyReading, one: _Likely) -> bool:
    """Whether anything on the list may be what a layer is made of, where its name is a flavour, too: a dough without flour."""
    if one.family.id not in _ALSO_A_FLAVOUR:
        return True
    unread = [match for match in reading.matches.values() if match.ingredient_id is None and match.confidence <= 0]
    main = max(one.family.roles, key=lambda role: role.typical)
    names = {match.ingredient_id for match in reading.matches.values() if match.ingredient_id is not None}
    return bool(unread) or grade_of(reading.families, main, names) is not Grade.NONE


def _told_already(known: Families, one: _Likely, told: Sequence[_Likely]) -> bool:
    """Whether a bracket is the layer that the sentence names."""
    return any(
        known.root_of(other.family.id) == known.root_of(one.family.id)
        or fuzz.token_set_ratio(other.name, one.name) >= _WORDS_FROM
        for other in told
    )


def _bought(reading: StudyReading, item: StatementItem) -> str | None:
    """What a bracket is as a bought crisp or biscuit: no list of a layer, but a sign of one. What is no sign is a layer."""
    name = reading.matches[item.key].ingredient_id
    if name is not None and _CHIPS.search(item.name):
        return name
    category = None if name is None else reading.pantry[name].category
    crushed = category == "biscuit-crumb" and bool(_CRUSHED.search(item.name))
    is_sign = any(name in group for sign in build_signs() for group in sign.needs)
    longest = _LONG_CRUMB_LIST if crushed else _LONG_LIST
    return name if (crushed or category == "inclusion") and is_sign and len(item.items) < longest else None


def _told(reading: StudyReading, item: StatementItem) -> _Likely | None:
    """The layer that a bracket describes: the family whose words or roles it fits best."""
    known = reading.families
    inside = [reading.ingredient_of[leaf.key] for leaf in item.leaves() if leaf.key in reading.ingredient_of]
    if _CHIPS.search(item.name):  # in a mass, and no coat
        return None
    if is_compound(item.name, inside):
        family = known[_compound(item.name, inside)]
        return _Likely(family, "coat", item.name, f"“{item.name}” in brackets", 3.0, tuple(inside))
    if is_chocolate(item.name) and not _HOLDS_PIECES.search(item.name):
        kind = next((family_id for word, family_id in _KINDS if word in item.name), None)
        by_order = _kind_by_order(inside, alone=True)
        best = min(
            all_opened_families(known),
            key=lambda one: (
                misfit(known, one, inside, complete=True)
                - _SAID * (one.id.endswith(kind or "-") or one.id == by_order == _OF_PLANTS),
                one.id != by_order,  # of two that take the same names, the one that their order speaks for
            ),
        )
        family = known[_CLOSED[best.id]]
        return _Likely(family, "coat", item.name, f"“{item.name}” in brackets", 3.0, tuple(inside))

    bare = _SAYS_NO_KIND.sub("", item.name).strip()  # a coffee filling is no mousse filling
    floury = bool(inside) and reading.pantry[inside[0]].category == "flour-starch"  # first in its list: it is baked
    holds_chocolate = any(name in _CHOCOLATE_SIGNS or reading.pantry[name].category == "chocolate" for name in inside)
    opened = {reading.matches[one.key].ingredient_id for one in item.items if one.items and is_chocolate(one.name)} - {None}

    def score(family: Family) -> float:
        kinds = [kind for word in family.traits.words if (kind := _SAYS_NO_KIND.sub("", word).strip())] if bare else []
        words = max((fuzz.token_set_ratio(bare, kind) for kind in kinds), default=0.0)
        named = max(
            (1.0 + _CLOSER * word.count(" ") for word in family.traits.words if re.search(rf"\b{re.escape(word)}\b", item.name)),
            default=0.0,
        )
        main = max(family.roles, key=lambda role: role.typical)
        served = (
            grade_of(known, main, inside)
            if named or opened
            else max((grade(known, main, name) for name in inside), default=Grade.NONE)
        )
        lacks = _LACKS * (served is not Grade.LISTED) - _OPENS * any(not opened.isdisjoint(role.admits) for role in family.roles)
        lacks += _LACKS * (floury and not any(role.name in _OF_FLOUR and role.typical >= _LEADING for role in family.roles))
        lacks += _LACKS * (not holds_chocolate and any(role.name == CHOCOLATE and not role.optional for role in family.roles))
        return (2.0 + words / 100 if words >= _WORDS_FROM else 0.0) + named - lacks - misfit(known, family, inside, complete=True)

    crisp = known["crisp-in-chocolate"]
    if is_chocolate(item.name) and any(grade(known, role, name) is Grade.LISTED for role in crisp.roles[:2] for name in inside):
        return _Likely(crisp, "stack", item.name, f"“{item.name}” in brackets", 2.5, tuple(inside))
    families = [family for family in known.all() if family.place != "coat" and family.made != FROM_PARTS]
    families = [one for one in families if one.id not in _BY_NAME or any(word in item.name for word in one.traits.words)]
    best = max(families, key=score)
    if score(best) < -3.0:
        return None
    if known.root_of(best.id) == _CREAM_CARAMEL and _CONDENSED & set(inside) and not _CREAMS & set(inside):
        best = known[_CONDENSED_CARAMEL]
    if known.root_of(best.id) == _SOFT_SUGAR and _SPIRITS & set(inside[:_LEADS]):
        best = known[_FLOWS]
    place = best.place if best.place in {"inclusion", "topping"} else "stack"
    if _IN_PIECES.search(item.name) and best.place == "any":
        place = "inclusion"
        best = known[_HARD_CARAMEL] if known.root_of(best.id) == _CREAM_CARAMEL else best  # soft ones would run together
    return _Likely(best, place, item.name, f"“{item.name}” in brackets", 2.5, tuple(inside))


def _compound(name: str, inside: Sequence[str]) -> str:
    """The kind of a coating of other fats, by its name, else by what is in it."""
    holds_cocoa = any(one.startswith("cocoa") for one in inside)
    if "white" in name or not (holds_cocoa or "chocolate" in name or "cocoa" in name):
        return "compound-white-coat"
    milky = "milk" in name or ("dark" not in name and bool({*_MILKS, *_MILKISH} & set(inside)))
    return "compound-milk-coat" if milky else "compound-dark-coat"


def _coat(reading: StudyReading, loose: Sequence[str], said: Sequence[_Likely]) -> list[_Likely]:
    """A chocolate coat that no bracket names: one that the pack's sentence names, a bought one, or by a chocolate's parts."""
    known = reading.families
    spoken = next((one for one in said if one.place == "coat" and one.name != _ANY_CHOCOLATE), None)
    if spoken is not None:
        return [spoken]
    closed = next((one for one in loose if reading.pantry[one].category == "chocolate"), None)
    if closed is not None:
        family = _coat_of(known, closed)
        return [_Likely(family, "coat", family.name, "a chocolate on the statement", 2.5, (closed,))]
    if not _CHOCOLATE_SIGNS & set(loose):
        return (
            [_white_coating(known, loose)]
            if all(group & set(loose) for group in _WHITE_COATING) and not _BAKED & set(loose)
            else []
        )
    if not any(reading.pantry[name].category in _SWEETS_A_COAT for name in loose):
        return []  # a coat is sweetened with something dry: what holds syrup and cocoa alone is one mass
    kind = _kind_by_order(loose)
    if kind == "compound-coat-open" and not any(reading.pantry[name].category == "fat" for name in loose):
        return []  # cocoa powder alone coats nothing
    milky = kind == "compound-coat-open" and bool({*_MILKS, *_MILKISH} & set(loose))
    family = known["compound-milk-coat" if milky else _CLOSED.get(kind, kind)]
    return [_Likely(family, "coat", family.name, "cocoa, cocoa butter or coating fat on the statement", 2.2, tuple(loose))]


def _white_coating(known: Families, loose: Sequence[str]) -> _Likely:
    family = known["compound-white-coat"]
    return _Likely(family, "coat", family.name, "hard fat, sugar and milk powder on the statement", 1.9, tuple(loose))


def _kind_by_order(loose: Sequence[str], *, alone: bool = False) -> str:
    """The kind of chocolate whose parts stand among other names: milk chocolate holds more cocoa butter than mass, dark less.

    Args:
        loose: The names in their order.
        alone: Whether no other layer's names are among them, so that a plant's powder is the chocolate's.
    """
    at = {name: rank for rank, name in reversed(list(enumerate(loose)))}
    milk = min((at[name] for name in _MILKS if name in at), default=None)
    if "cocoa-butter" not in at and "cocoa-mass" not in at:
        return "compound-coat-open"
    sweetened = not {"white-sugar", "beet-sugar", "coconut-sugar"} & set(at) and any(name in at for name in _POLYOLS)
    dark = "cocoa-mass" in at and (
        (milk is None and not (_MILKISH | (_PLANTS if alone else frozenset())) & set(at))
        or at["cocoa-mass"] < at.get("cocoa-butter", len(loose))
    )
    if (
        "cocoa-mass" not in at
        and "cocoa-butter" in at
        and milk is not None
        and not any(one.startswith("cocoa-powder") for one in at)
    ):
        return "white-coat-open"
    if sweetened:
        return "sugar-free-dark-coat-open" if dark else "sugar-free-milk-coat-open"
    if dark:
        return "dark-coat-open"
    return "milk-coat-open" if milk is not None or _MILKISH & set(at) else _OF_PLANTS if _PLANTS & set(at) else "dark-coat-open"


def _coat_of(known: Families, chocolate_id: str) -> Family:
    """The coat that lists a bought chocolate; a dark one where none does."""
    coats = [family for family in known.all() if family.place == "coat"]
    return next((family for family in coats if any(chocolate_id in role.admits for role in family.roles)), known["dark-coat"])


def _signs_in(
    known: Families,
    loose: Sequence[str],
    small: set[str],
    heavy: set[str],
    called: Mapping[str, str],
    *,
    told: Sequence[_Likely],
    spoken: Sequence[_Likely],
) -> list[_Likely]:
    """Layers that loose names speak for, the surest first; each name but syrups and sugars speaks once."""
    names, used = set(loose), set[str]()
    roots = {known.root_of(one.family.id) for one in (*told, *spoken)}
    said = {known.root_of(one.family.id) for one in spoken}
    coated = any(one.family.place == "coat" for one in told)
    speak = {name for sign in build_signs() for name in sign.needs[0]}
    found = []
    for sign in sorted(build_signs(), key=lambda one: -one.weight):
        met = [next((name for name in loose if name in group), None) for group in sign.needs]
        if any(name is None for name in met) or sign.without & names:
            continue
        if known.root_of(sign.family) in said:  # the pack says so: its names speak for nothing else
            used |= sign.needs[0] & names | {str(name) for name in met if name in speak}
        if known.root_of(sign.family) in roots or _is_of_a_bar(known, sign.family, met[0], roots):
            continue
        if (
            met[0] in used
            or (met[0] in small and sign.family in _MAIN_ONLY)
            or (sign.family in _HEAVY_ONLY and met[0] not in heavy)
        ):
            continue
        if sign.family == "liqueur-centre" and roots & _TAKE_SPIRIT:
            continue
        family = known[_by_what_leads(sign.family, loose, coated=coated)]
        if known.root_of(family.id) in roots:
            continue
        used |= {str(name) for name in met if name in speak} | (
            sign.needs[0] & names
        )  # raisins beside dates are in the same paste
        roots.add(known.root_of(family.id))
        why = " and ".join(called.get(str(name), str(name).replace("-", " ")) for name in met)
        found.append(_Likely(family, sign.place, family.name, why, sign.weight, tuple(str(name) for name in met)))
    return found


def _is_of_a_bar(known: Families, family_id: str, name: str | None, roots: Collection[str]) -> bool:
    """Whether what speaks for a layer of its own is usual in the bar of oats or nuts that is there: seeds, fruit, crisps."""
    if family_id not in _IN_A_BAR or name is None:
        return False
    return any(grade(known, role, name) is Grade.LISTED for bar in _BARS if bar in roots for role in known[bar].roles)


def _by_what_leads(family_id: str, loose: Sequence[str], *, coated: bool) -> str:
    """Of layers made of the same names, the one that their order speaks for: cream before syrup, and no sugar, is a ganache."""
    at = {name: rank for rank, name in reversed(list(enumerate(loose)))}
    cream = min((at[name] for name in ("heavy-cream", "double-cream", "single-cream") if name in at), default=None)
    syrup = min((at[name] for name in _SYRUPS if name in at), default=None)
    is_cream_first = cream is not None and syrup is not None and cream < syrup
    if family_id in _OF_CREAM and is_cream_first and ("white-sugar" not in at or (coated and _CHOCOLATE_SIGNS & set(at))):
        return "ganache-dark"
    flour = at.get("plain-wheat-flour", len(loose))
    fat = min((at[name] for name in _CREAM_FATS if name in at), default=None)
    if family_id == "short-base" and fat is not None and fat < flour < len(loose) and not _SHORTENED & set(at):
        return "wafer-sheet"  # more fat than flour is a cream between sheets
    if family_id == "fruit-jelly" and {"maize-starch", "potato-starch"} & set(at):
        return "liquid-fruit-centre"
    return family_id


def _build(build_id: str, chosen: Sequence[_Likely]) -> ProposedBuild:
    """Coats, then the stack from its base up, inclusions after their host."""
    shells = [one for one in chosen if _SHELL in one.family.sorts]  # rolled on: outside of all
    coats = [one for one in chosen if one.place == "coat"]
    body = [one for one in chosen if one.place in {"stack", "core"} and one not in shells]
    body.sort(key=lambda one: (one.family.id not in _BASES, one.family.id in _HOSTS))
    inside = [one for one in chosen if one.place == "inclusion" and one not in shells]
    layers: list[Layer] = [_layer(f"shell{at or ''}", one, Place.COAT) for at, one in enumerate(shells)]
    under = Place.CORE if shells and not body and not inside else Place.COAT  # chocolate alone in a shell is its centre
    layers += [_layer(f"coat{at or ''}", one, under if at == 0 else Place.STACK) for at, one in enumerate(coats)]
    coats = [*shells, *coats]
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
