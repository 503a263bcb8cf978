"""Layers that are named after what is no longer in them: which, and what they could be called.

Worked example: "Milk chocolate" in a vegan version is named after the milk it no longer holds, and "Cashews" after nuts that a
rule took out; the one is offered as "Chocolate coat, plant milk" after its family, the other as "Pumpkin seeds" after what is
most of it. A marshmallow on gelatine that stays of its kind is "Marshmallow, vegan", and no "White sugar". A "Sesame cream" keeps
its name: the sesame is there, and cream is how it is.
"""

import re
from collections.abc import Iterable

from fern_match.core.adapt.rules import Rule
from fern_match.core.food import Pantry
from fern_match.core.formulate import Formula, FormulaLayer
from fern_match.core.record.texts import LONGEST_NAME
from fern_match.core.study.reading import StudyReading

_SAME_WORD = 4  # signs from which words are compared by their beginnings: cashew, cashews
# Words of names that an allergen, or being of animals, stands behind; “milk” of a plant says so beside it.
_WORDS_OF = {
    "milk": ("milk", "dairy", "cream", "butter", "buttermilk", "yogurt", "yoghurt", "whey", "condensed"),
    "egg": ("egg", "meringue"),
    "animal": ("honey", "gelatine", "gelatin", "marshmallow"),
}
_PLANT = re.compile(r"\b(?:plant|oat|soya?|almond|coconut|rice|vegan|nut|peanut|cocoa|date)\b", re.I)
_TEXTURES = frozenset({"cream", "butter"})  # of anything: a sesame cream holds none
_LEAST_G = 1e-4
_MOSTLY = 0.5  # of a layer that it is called after [g/g]: a praline of two fifths chocolate is a praline
_GIVES_A_NAME = frozenset({"nut", "nut-paste", "seed", "fruit", "inclusion", "biscuit-crumb", "chocolate", "prepared"})
_HOW_IT_IS_MADE = re.compile(r"(?:,| \(| on | from | with | without | and ).*$")  # after a family's first words


def outlived_names(before: Formula, after: Formula, rules: Iterable[Rule], reading: StudyReading) -> dict[str, str]:
    """Layers whose name says what is no longer in them, by id, and a name that would be true.

    Args:
        before: The version.
        after: What it becomes, layer by layer.
        rules: That it holds to.
        reading: The study, with compositions and families.
    """
    rules = tuple(rules)
    found = {}
    for layer, was in zip(after.layers, before.layers, strict=True):
        if _is_outlived(layer, was, rules, reading.pantry):
            found[layer.layer_id] = _true_name(layer, was, rules, reading)
    return found


def _is_outlived(layer: FormulaLayer, was: FormulaLayer, rules: tuple[Rule, ...], pantry: Pantry) -> bool:
    words = _words(layer.name)
    now = {key for key in _ids(layer) if key in pantry}
    gone = [key for key in _ids(was) if key not in now and key in pantry]
    still = {word for key in now for word in _words(pantry[key].name)}
    if any(_shared(words, _words(pantry[key].name) - still) for key in gone):
        return True
    if _PLANT.search(layer.name):
        return False
    out = [rule.excluded or rule.excludes for rule in rules if rule.excludes in {"animal", "allergen"}]
    kinds = {"milk", "egg", "animal"} if "animal" in out else set(out)
    if _shared(words - _TEXTURES, still):  # named after what is in it: only a plain “milk” or “egg” would be untrue
        words = words - _TEXTURES
    return any(_shared(words, set(_WORDS_OF.get(kind, (kind.removesuffix("s"),)))) for kind in kinds)


def _true_name(layer: FormulaLayer, was: FormulaLayer, rules: tuple[Rule, ...], reading: StudyReading) -> str:
    """After its family where that changed, else after what is most of it and is seen, else its kind and the rule."""
    family = reading.families.by_id.get(layer.family)
    if family is not None and layer.family != was.family:
        return family.name[:LONGEST_NAME]
    main = max(layer.ingredients, key=lambda line: line.grams, default=None)
    food = reading.pantry.by_id.get(main.ingredient_id) if main is not None else None
    mostly = main is not None and main.grams >= _MOSTLY * sum(line.grams for line in layer.ingredients)
    if main is not None and (family is None or (mostly and food is not None and food.category in _GIVES_A_NAME)):
        return main.name.split(" (")[0].split(",")[0][:LONGEST_NAME]
    kind = _HOW_IT_IS_MADE.sub("", family.name if family is not None else layer.name)
    rule = next((one.name for one in rules if one.excludes), "")
    return (f"{kind}, {rule[0].lower()}{rule[1:]}" if rule else kind)[:LONGEST_NAME]


def _ids(layer: FormulaLayer) -> list[str]:
    return [line.ingredient_id for line in layer.ingredients if line.grams > _LEAST_G]


def _words(name: str) -> set[str]:
    return set(re.findall(r"[a-z]{3,}", name.lower()))


def _shared(words: set[str], others: set[str]) -> bool:
    """Whether any of these words is one of the others, whatever its number."""
    return any(
        one == other or (min(len(one), len(other)) >= _SAME_WORD and (one.startswith(other) or other.startswith(one)))
        for one in words
        for other in others
        if other not in _COMMON
    )


# Words that many names share: no layer is named after an ingredient for them.
_COMMON = frozenset(
    {"with", "from", "powder", "sugar", "water", "salt", "fine", "plain", "whole", "sweet", "dried", "fresh", "white", "dark",
    "brown", "crisp", "crispy", "crunchy",
     "unsalted", "salted", "refined", "roasted", "pieces", "about", "fat", "solids", "natural", "bought", "home"}
)  # fmt: skip
