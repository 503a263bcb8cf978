"""What a bracket of the statement means: a bought ingredient's own make-up, a layer of the piece, or parts of one of its kind.

"condensed milk (milk, sugar)" is an ingredient, "caramel (glucose syrup, cream ...)" a layer, "vegetable fats (palm, shea)"
parts. Each bracket gets odds from its words, its contents and the build; the most likely reading is proposed with its reason,
and the user's own answer wins.
"""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from rapidfuzz import fuzz

from fern_match.core.families import Families, Family
from fern_match.core.families.admission import Grade, grade, misfit
from fern_match.core.food import Ingredient, NameMatch, Pantry
from fern_match.core.label.statement import Minimum, Statement, StatementItem
from fern_match.core.study.naming import is_chocolate, named
from fern_match.core.study.record import Layer, Meaning

_KIND_OF = re.compile(
    r"^(?:(?:hydrogenated|vegetable|plant|natural|added|partially|fully|and|&|concentrated|mixed|dried"
    r"|other) ?)*(?:oils?|fats?|sugars?|sweeteners?"
    r"|emulsifiers?|shortening|fibres?|starch(?:es)?|juices?|fruit juices?|nuts|seeds|cereals?|milk ingredients"
    r"|(?:cocoa|milk) (?:solids|ingredients)|puffed (?:cereals?|grains?)"
    r"|(?:cereals?|grains?) puffed|lecithins?|spices|(?:oils?|fats?) (?:and|&) (?:oils?|fats?)"
    r"|(?:proteins?|sweeteners?|oils?|fats?|nuts?|seeds?|fruits?|fib(?:re|er)s?|grains?|dairy|milk|cocoa|flours?) (?:blend|mix))$"
)
_COMPONENT = re.compile(
    r"filling|coating|cent(?:re|er)|\bbase\b|layer|nougat|caramel(?!i[sz])|toffee|fudge|ganache|truffle|praline|fondant"
    r"|marshmallow|jelly|\bcream\b|creme"
    r"|topping|shell|wafer|biscuit|cookie|shortbread|shortcake|granola|brittle|honeycomb|marzipan|crisp|dough|icing"
    r"|butterscotch|dulce de leche|liquorice|licorice|cheesecake|mousse|brownie|chocolate|cake|sponge|crunch|mix\b|crumb"
    r"|protein (?:paste|mass|core)"
)
_IN_CHOCOLATE = re.compile(r"\bin (?:\w+ )?chocolate$")  # one layer, whatever its bracket holds
_OF_A_PIECE = re.compile(r"\b(?:base|filling|layer|topping|cent(?:re|er)|coating|shell)$")
_WORDS_FROM = 78.0
_GOOD_FIT, _POOR_FIT = 1.0, 3.5  # misfits of a bracket with a family
# % of the piece and names in its bracket, from which a head that nobody knows is a layer
_LARGE_SHARE, _LEAST_OF_A_LAYER = 15.0, 3
# Categories of what one buys or makes; the rest is bought.
_MADE = frozenset({"prepared", "biscuit-crumb", "inclusion", "chocolate"})
# Names in its bracket, from which a paste or a jam is more likely a layer's than bought.
_LONG_MADE, _SPREADS = 4, frozenset({"nut-paste", "fruit"})
_SPREAD = re.compile(r"\b(?:jam|marmalade|preserve|compote|spread|paste|butter)\b")
_BOUGHT_BAKED = frozenset({"inclusion", "biscuit-crumb"})  # printed with their own list, and bought all the same
_RUBY = "ruby-chocolate"
_BEYOND_ALL = 20.0  # a score that nothing else comes to
_ADDED = frozenset(
    {"emulsifier", "antioxidant", "preservative", "colour", "acidity regulator", "stabiliser", "stabilizer", "color"}
)
_SURE = 0.7
_BEYOND_DOUBT = 0.9  # odds of a reading that need no word


@dataclass(frozen=True, slots=True, kw_only=True)
class BracketReading:
    """One bracket as it is read."""

    item: str  # key of the name it stands after
    name: str
    meaning: Meaning
    odds: Mapping[Meaning, float]  # of what was proposed; they sum to 1
    corrected: bool  # the user's own answer
    reason: str
    ingredient_id: str | None  # what it is as an ingredient

    def may_mean(self, meaning: Meaning) -> bool:
        """Whether it can be read so: as an ingredient only where the pantry has one."""
        return meaning is not Meaning.INGREDIENT or self.ingredient_id is not None

    @property
    def reason_words(self) -> str:
        """Why it is read so, with its odds where they leave room for doubt."""
        odds = self.odds[self.meaning]
        return self.reason if self.corrected or odds >= _BEYOND_DOUBT else f"{self.reason}, {100 * odds:.0f} %"


def bracket_readings(
    known: Families,
    statement: Statement,
    pantry: Pantry,
    layers: Sequence[tuple[Layer, Family]],
    corrected: Mapping[str, Meaning],
) -> tuple[BracketReading, ...]:
    """Every bracket of a statement, from the first to the last.

    Args:
        statement: As printed.
        layers: The build with each layer's family; may be empty.
        corrected: The user's own answers by item key; they win.
    """
    found: list[BracketReading] = []

    def walk(items: Sequence[StatementItem], above: tuple[StatementItem, ...], outer: Meaning | None) -> None:
        for item in items:
            if not item.items:
                continue
            odds, reason, match = _proposed(known, item, above, items, pantry, layers, outer)
            best = max(odds, key=lambda meaning: odds[meaning])
            meaning = corrected.get(item.key, best)
            found.append(
                BracketReading(
                    item=item.key,
                    name=item.name,
                    meaning=meaning,
                    odds=odds,
                    corrected=item.key in corrected,
                    reason="you said so" if item.key in corrected else reason,
                    ingredient_id=match.ingredient_id,
                )
            )
            walk(item.items, (*above, item), Meaning.LAYER if Meaning.LAYER in (outer, meaning) else meaning)

    walk(statement.items, (), None)
    return tuple(found)


def _proposed(
    known: Families,
    item: StatementItem,
    above: Sequence[StatementItem],
    siblings: Sequence[StatementItem],
    pantry: Pantry,
    layers: Sequence[tuple[Layer, Family]],
    outer: Meaning | None,
) -> tuple[dict[Meaning, float], str, NameMatch]:
    match = named(item, above, siblings, pantry)
    food = _surely(item, match, pantry)
    inside = [named(part, (*above, item), item.items, pantry) for part in item.items]
    score = {Meaning.INGREDIENT: 0.0, Meaning.LAYER: 0.0, Meaning.PARTS: 0.0}
    reason = {
        Meaning.INGREDIENT: "it is bought as such",
        Meaning.LAYER: "its name is a component’s",
        Meaning.PARTS: "its name is a kind of thing",
    }
    if _KIND_OF.fullmatch(item.name):
        score[Meaning.PARTS] += 6
        score[Meaning.INGREDIENT] -= 3
    added_to = match.ingredient_id is not None and all(part.class_name in _ADDED and not part.items for part in item.items)
    score[Meaning.INGREDIENT] += _BEYOND_ALL * added_to
    reason[Meaning.INGREDIENT] = "its bracket only says what was added to it" if added_to else reason[Meaning.INGREDIENT]
    made_here = food is not None and _is_made_here(food, item, inside, pantry)
    if food is None:
        score[Meaning.INGREDIENT] -= 5
        score[Meaning.PARTS] += 1
    else:
        score[Meaning.INGREDIENT] += _as_bought(known, food, layers, made_here=made_here)
        if not made_here and any(one.ingredient_id == food.id for one in inside):
            score[Meaning.INGREDIENT] += 1.5
            reason[Meaning.INGREDIENT] = "its bracket names it again"
    unknown = sum(one.ingredient_id is None and not part.items for one, part in zip(inside, item.items, strict=True))
    if food is not None and unknown > len(inside) / 2:
        score[Meaning.INGREDIENT] += 1.5
    component = bool(_COMPONENT.search(item.name)) and not (food is not None and food.category not in _MADE)
    score[Meaning.LAYER] -= 2.5 * (len(item.items) == 1) + 7.0 * (outer is Meaning.LAYER) + 2.0 * (outer is Meaning.INGREDIENT)
    score[Meaning.LAYER] += 0.7 * (len(item.items) >= 3) + 0.8 * ((item.percent or 0.0) >= 8)
    of_layers = len(siblings) == 1 < len(item.items) and all(part.items and part.percent for part in item.items)  # a piece
    score[Meaning.LAYER] += 3.0 * (bool(_IN_CHOCOLATE.search(item.name)) and not of_layers) + (2.0 if component else -1.5)
    if made_here and not layers and not above:
        score[Meaning.LAYER] += 2.0  # before there is a build; afterwards by how it fits a layer
    if food is None and not above:
        score[Meaning.LAYER] += _whatever_it_is_called(item, siblings, inside, pantry)
    fit, why = _layer_fit(known, item, [one.ingredient_id for one in inside if one.ingredient_id is not None], layers)
    score[Meaning.LAYER] += fit
    if why:
        reason[Meaning.LAYER] = why
    if outer is not Meaning.LAYER and (of_components := _of_components(item, siblings)) is not None:
        score[Meaning.PARTS] += of_components
        reason[Meaning.PARTS] = "its bracket holds components of their own"
    if is_chocolate(item.name):
        score[Meaning.LAYER] += 1.5 * (not of_layers)
        if outer is Meaning.LAYER:
            score[Meaning.PARTS] += 2.5
            reason[Meaning.PARTS] = "a chocolate within a filling: its parts are in the filling"
    top = max(score.values())
    weight = {meaning: float(np.exp(value - top)) for meaning, value in score.items()}
    total = sum(weight.values())
    odds = {meaning: value / total for meaning, value in weight.items()}
    return odds, reason[max(odds, key=lambda meaning: odds[meaning])], match


def _surely(item: StatementItem, match: NameMatch, pantry: Pantry) -> Ingredient | None:
    """What a bracket's head is as a food, where that is sure: by its name, or as its bracket names it again."""
    sure = match.confidence >= _SURE or any(part.name == item.name for part in item.items)  # "cherries (cherries, sugar)"
    if match.ingredient_id is None or not sure:
        return None
    of_a_piece = _OF_A_PIECE.search(item.name) and len(item.items) >= _LEAST_OF_A_LAYER
    return None if of_a_piece else pantry[match.ingredient_id]  # "oat base (oats, syrup, margarine)" is none that one buys


def _whatever_it_is_called(
    item: StatementItem, siblings: Sequence[StatementItem], inside: Sequence[NameMatch], pantry: Pantry
) -> float:
    """How much speaks for a layer under a head that nobody knows: a large share, or so many kinds of things as a recipe has.

    Worked example: "flapjack 53 % (oats, syrup, butter)"; "mocha delight (sugar, butter, coffee)", of which no head is a kind.
    """
    large = (item.percent or 0.0) >= _LARGE_SHARE and len(item.items) >= _LEAST_OF_A_LAYER
    kinds = {pantry[one.ingredient_id].category for one in inside if one.ingredient_id is not None}
    varied = len(siblings) > 1 and len(kinds) >= _LEAST_OF_A_LAYER and not _KIND_OF.fullmatch(item.name)
    return 2.5 * large + 3.0 * varied


def _of_components(item: StatementItem, siblings: Sequence[StatementItem]) -> float | None:
    """How much speaks for a bracket that only holds layers together; None where it holds none."""
    groups = sum(
        bool(part.items) and (bool(_COMPONENT.search(part.name)) or (part.percent or 0.0) >= _LARGE_SHARE) for part in item.items
    )
    mostly = 2 * groups >= len(item.items) or len(siblings) == 1  # a filling may hold flakes and chocolate, and is one layer
    return 2.5 * (groups == len(item.items)) + 2.0 * (groups >= 2 and mostly) if groups else None


def _as_bought(known: Families, food: Ingredient, layers: Sequence[tuple[Layer, Family]], *, made_here: bool) -> float:
    """How much speaks for a bracket's head being bought as it is: more where a layer needs it."""
    if food.id == _RUBY:
        return _BEYOND_ALL  # of beans of its own: nobody makes it from mass and butter
    score = 1.0 if made_here or food.category in _MADE else 3.5
    roles = [role for _, family in layers for role in family.roles]
    if made_here or not any(grade(known, role, food.id) is Grade.LISTED and not role.optional for role in roles):
        return score
    score += 3.5 if food.category != "chocolate" else -0.5
    score += 1.5 if food.category in _BOUGHT_BAKED else 0.0
    whole = food.category == "inclusion" and any(role.is_whole and food.id in role.admits for role in roles)
    return score + 3.0 * whole  # a layer of crisps is bought crisps


def _is_made_here(food: Ingredient, item: StatementItem, inside: Sequence[NameMatch], pantry: Pantry) -> bool:
    """Whether a jam or a paste is printed with its recipe, as a layer is, and not as what it was bought as.

    Bought peanut butter lists peanuts; a filling lists a paste of them, or says its share.
    """
    if food.category not in _SPREADS or not _SPREAD.search(item.name) or len(item.items) < _LONG_MADE:
        return False
    of_paste = any(one.ingredient_id is not None and pantry[one.ingredient_id].category == food.category for one in inside)
    return of_paste or (item.percent or 0.0) >= _LARGE_SHARE


def _layer_fit(
    known: Families, item: StatementItem, inside: Sequence[str], layers: Sequence[tuple[Layer, Family]]
) -> tuple[float, str]:
    """How well a bracket describes a layer of the build, and why."""
    best, why = 0.0, ""
    for layer, family in layers:
        words = max(
            (fuzz.token_set_ratio(item.name, word) for word in (*family.traits.words, layer.name.lower()) if word), default=0.0
        )
        cost = misfit(known, family, inside, complete=True)
        likeness = 2.0 if words >= _WORDS_FROM else 0.0
        score = likeness + 1.5 * (cost <= _GOOD_FIT) + 0.5 * (cost <= _POOR_FIT)
        if score > best:
            best, why = score, f"it fits {layer.name.lower() or family.name.lower()}"
    return best, why


def meaning_words(meaning: Meaning, bracket: BracketReading, pantry: Pantry) -> str:
    """What a reading of a bracket says, for a list to choose from."""
    match meaning:
        case Meaning.INGREDIENT:
            known = bracket.ingredient_id is not None and bracket.ingredient_id in pantry
            return f"one ingredient: {pantry[bracket.ingredient_id or ''].name if known else 'nothing in the pantry'}"
        case Meaning.LAYER:
            return "a layer’s own list"
    return "parts of one kind"


def minimum_words(minimum: Minimum) -> str:
    """A least content as a sentence's part."""
    what = "cocoa solids" if minimum.what == "cocoa" else "milk solids"
    return f"{minimum.of or 'chocolate'}: at least {minimum.percent:g} % {what}"
