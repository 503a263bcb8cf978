"""What each name on a statement is taken for: by its words, by the brackets it stands in, and by what its own brackets say."""

import re
from collections.abc import Collection, Sequence
from dataclasses import replace

from fern_match.core.food import NameMatch, Pantry, Within, matched_name
from fern_match.core.label.statement import StatementItem

CHOCOLATE_WORDS = re.compile(r"chocolat|\bchoc\b|coating|couverture")
# Words that make of a chocolate's name another thing that holds or resembles it.
NOT_CHOCOLATE = re.compile(
    r"filling|\bcream\b|creme|centre|center|ganache|fondant|spread|truffle|mousse|caramel|nougat|crisp|base\b|biscuit"
    r"|cookie|sauce|wafer|fudge|brownie|cake|praline|paste"
)
_SAYS_COMPOUND = re.compile(r"\b(?:compound(?:ed)?|(?:chocolate|cocoa|chocolatey|chocolaty) flavou?red|chocolatey|chocolaty)\b")
_COATING = re.compile(r"\b(?:coating|glaze|cover(?:ing|ed)?|enrobing)\b")
_COATING_FATS = frozenset({"palm-kernel-fat", "palm-oil", "coconut-oil-refined", "shea-butter", "vegetable-shortening"})
_FAT_WORDS = re.compile(r"\b(?:oils?|fats?|shortening)\b")
_COCOA_NAMES = frozenset({"chocolate", "unsweetened chocolate", "chocolate liquor", "baking chocolate", "bitter chocolate"})
_COCOA_SOLIDS = _COCOA_NAMES | {"cocoa mass", "cacao mass", "cocoa liquor"}
_COCOA_BUTTER = frozenset({"cocoa butter", "cacao butter"})
_COCOA_FATS = _COCOA_BUTTER | {"milkfat", "milk fat"}
_MILK_NAMES = frozenset({"milk", "whole milk", "full cream milk", "fresh milk"})
_DRY_MILK = re.compile(r"milk.*(?:powder|solids)|(?:dried|powdered|dry|condensed|nonfat|skim(?:med)?) .*milk|milk ingredients")
_SODA, _BAKING_POWDER = "baking-soda", "baking-powder"
_RAISES = re.compile(r"raising|leavening")
_ACIDS = re.compile(  # of a baking powder: what drives the gas from its soda
    r"diphosphate|pyrophosphate|monocalcium phosphate|calcium dihydrogen phosphate|alumini?um (?:phosphate|sulphate|sulfate)"
    r"|cream of tartar|potassium tartrate|\be ?(?:450|341|541|336)"
)
_DARK = ((80.0, "dark-chocolate-85"), (62.5, "dark-chocolate-70"), (0.0, "dark-chocolate-55"))
_UNSWEETENED_FROM = 97.0
_POLYOLS = frozenset({"maltitol-powder", "maltitol-syrup", "isomalt", "lactitol", "sorbitol", "xylitol", "mannitol"})
_KETO = frozenset({"erythritol", "allulose-crystalline", "stevia-reb-a", "monk-fruit-extract", "inulin"})
_SALTS = frozenset({"fine-salt", "sea-salt-coarse"})
_SWEETENS = frozenset({"white-sugar", "malt-syrup", "dry-malt-extract", "glucose-syrup-42de"})
_WITH = (  # what a food is sold as once its brackets hold one of these
    (frozenset({"butter-unsalted"}), _SALTS, "butter-salted"),
    (frozenset({"desiccated-coconut"}), _SWEETENS, "shredded-coconut-sweetened"),
)
_PLAIN_NUT = _SALTS | {"peanut-raw", "peanut-roasted", "peanut-roasted-salted"}


def is_chocolate(name: str) -> bool:
    """Whether a name is a chocolate or coating, not something made with it."""
    return bool(CHOCOLATE_WORDS.search(name)) and not NOT_CHOCOLATE.search(name)


def is_coating(name: str) -> bool:
    """Whether a bracket's head says that it coats: a coating, a glaze, or a chocolate.

    Args:
        name: Its head.
    """
    return bool(_COATING.search(name)) or is_chocolate(name)


def is_compound(name: str, inside: Collection[str]) -> bool:
    """Whether a bracket is a coating of other fats: it says so, or it is a coating with such a fat and no cocoa butter.

    Args:
        name: Its head.
        inside: Ingredient ids of the names in it.
    """
    if _SAYS_COMPOUND.search(name):
        return True
    return bool(_COATING.search(name)) and bool(_COATING_FATS & set(inside)) and "cocoa-butter" not in inside


def named(
    item: StatementItem,
    above: Sequence[StatementItem],
    siblings: Sequence[StatementItem],
    pantry: Pantry,
    *,
    loosely: bool = True,
) -> NameMatch:
    """What a name is taken for where it stands.

    Args:
        item: The name, with its brackets as printed.
        above: The names whose brackets it stands in, from the top down.
        siblings: The names at its own level.
        loosely: Whether slips of the pen count.
    """
    match = matched_name(item.name, pantry, within=_within(item, above, siblings), loosely=loosely, by_ending=loosely)
    if match.ingredient_id is None:
        return match
    if match.ingredient_id == _SODA and _BAKING_POWDER in pantry and any(_is_acid(other) for other in siblings):
        return replace(match, ingredient_id=_BAKING_POWDER)
    parts = {matched_name(part.name, pantry, loosely=False).ingredient_id for part in item.items}
    better = (
        _by_contents(match.ingredient_id, item, above)
        or _by_parts(match.ingredient_id, parts - {None})
        or (next(iter(parts)) if len(item.items) == 1 and _says_more(item.items[0].name, item.name) else None)
    )
    return replace(match, ingredient_id=better) if better is not None and better in pantry else match


def _within(item: StatementItem, above: Sequence[StatementItem], siblings: Sequence[StatementItem]) -> Within:
    beside = (*(one.name for one in above[-1:]), *item.alternatives)
    if any(_FAT_WORDS.search(name) for name in beside):  # "palm" in a fat's bracket, or in "palm and/or shea oil"
        return "fat"
    if any(is_chocolate(one.name) for one in above):
        return "chocolate"
    if item.name in _COCOA_NAMES and any(other.name in _COCOA_FATS for other in siblings):
        return "chocolate"
    if item.name in _MILK_NAMES and _is_loose_coat({other.name for other in siblings}):
        return "chocolate"  # a coat's, among loose names: as powder
    return ""


def _is_loose_coat(names: Collection[str]) -> bool:
    """Whether loose names are a chocolate's, with its milk in no powder's name."""
    return (
        not _COCOA_BUTTER.isdisjoint(names)
        and not _COCOA_SOLIDS.isdisjoint(names)
        and not any(_DRY_MILK.search(name) for name in names)
    )


def _is_acid(item: StatementItem) -> bool:
    """Whether a name is an acid that soda is sold with as baking powder; a phosphate that keeps cheese smooth is none."""
    return bool(_ACIDS.search(item.name)) and (not item.class_name or bool(_RAISES.search(item.class_name)))


def _says_more(inner: str, head: str) -> bool:
    """Whether a name in brackets is that before them with a word more: "almonds (roasted almonds)"."""
    return set(head.split()) < set(inner.split())


def _by_contents(ingredient_id: str, item: StatementItem, above: Sequence[StatementItem]) -> str | None:
    """A dark chocolate by its cocoa."""
    cocoa = next((one.percent for one in item.contents if one.what == "cocoa"), None)
    if cocoa is None or not ingredient_id.startswith("dark-chocolate-") or "erythritol" in ingredient_id:
        return None
    if cocoa >= _UNSWEETENED_FROM:
        return "cocoa-mass" if above else "dark-chocolate-100"
    return next(name for least, name in _DARK if cocoa >= least)


def _by_parts(ingredient_id: str, parts: set[str | None]) -> str | None:
    """A bought ingredient by what its brackets say is in it."""
    sold_as = next((food for plain, holds, food in _WITH if ingredient_id in plain and not holds.isdisjoint(parts)), None)
    if sold_as is not None:
        return sold_as
    if ingredient_id == "peanut-butter-sweetened" and parts and parts <= _PLAIN_NUT:
        return "peanut-butter-natural"
    kind = ingredient_id.partition("-")[0]
    if kind in {"dark", "milk", "semi"} and "chocolate" in ingredient_id + "-chocolate" and parts:
        if parts & _POLYOLS:
            return "sugar-free-milk-chocolate-maltitol" if kind == "milk" else "sugar-free-dark-chocolate-maltitol"
        if parts & _KETO and not parts & {"white-sugar", "coconut-sugar"} and kind != "milk":
            return "dark-chocolate-erythritol-stevia"
    return None
