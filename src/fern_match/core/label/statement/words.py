"""Words of ingredient statements: class names, what may follow them, sources, treatments, and names that hold an "and"."""

import re

_PREFIX = r"(?:(?:natural|artificial|added|permitted|plant-based) )?"
_CLASSES = (
    "emulsifier|emulsifying agent|sweetener|acid|food acid|acidity regulator|acidulant|colou?r|colou?ring|colou?ring food"
    "|food colou?r|raising agent|leavening|leavening agent|gelling agent|bulking agent|stabili[sz]er|humectant|thickener"
    "|thickening agent|preservative|antioxidant|glazing agent|coating agent|flavou?ring|flavou?r|flavou?r enhancer"
    "|firming agent"
    "|enzyme|anti-?caking agent|foaming agent|flour treatment agent|acidifier|colou?r added|dough conditioner|carrier"
    "|mineral salt|vegetable gum|modified starch|whipping (?:aid|agent)|processing aid|release agent|sequestrant|dough improver"
)
_CLASS = re.compile(rf"({_PREFIX}(?:{_CLASSES}))(s?)", re.I)
_PREFIXED = re.compile(_PREFIX)
_MEMBERS = {
    "emulsifier": r"lecithin|glycerid|glyceryl|stearate|ricinoleate|pgpr|phosphatid|polysorbate"
    r"|e\s?4[3479]\d|4[3479]\d|322|e\s?322",
    "sweetener": r"maltitol|sorbitol|isomalt\b|xylitol|erythritol|lactitol|mannitol|sucralose|stevi|aspartame|acesulfame"
    r"|sacchar|thaumatin|monk fruit|e\s?9[56]\d|e\s?42[01]|allulose",
    "acid": r"acid\b|acids\b|citrate|lactate|malate|tartrate|phosphate|carbonate|hydroxide|e\s?(?:2[79]"
    r"|3[3-5]|5[0-2])\d|3[3-5]\d|296",
    "colour": r"e\s?1\d\d|^1[0-9]{2}[a-z]*$|anthocyan|caroten|curcum|annatto|paprika|chlorophyll|beet|carmine"
    r"|caramel|lutein|riboflavin"
    r"|red|yellow|blue|spirulina|safflower|titanium|calcium carbonate|oxide|concentrate|lycopene|charcoal",
    "raising agent": r"carbonate|phosphate|soda|tartar|tartrate|baking powder|e\s?5\d\d|^5\d\d$|e\s?45\d|450",
    "gelling agent": r"pectin|agar|gelatin|alginate|carrageen|gum\b|starch|e\s?4[0-4]\d|4[0-4]\d",
    "humectant": r"glycer|sorbitol|syrup|lactate|e\s?42[0-2]|42[0-2]|polydextrose",
    "preservative": r"sorbate|sorbic|benzo|sul[fp]|propionate|nisin|e\s?2\d\d|^2\d\d$",
    "antioxidant": r"tocopher|ascorb|rosemary|bh[at]\b|tbhq|gallate|e\s?3[0-2]\d|3[0-2]\d",
    "thickener": r"gum\b|starch|pectin|cellulose|xanthan|guar|alginate|carrageen|e\s?4\d\d|e\s?14\d\d|^1?4\d\d$",
    "stabiliser": r"gum\b|starch|pectin|cellulose|xanthan|guar|alginate|carrageen|invertase|sorbitol|glycerol|phosphate"
    r"|e\s?4\d\d|e\s?14\d\d|^1?4\d\d$|1103",
    "glazing agent": r"wax|shellac|gum arabic|acacia|e\s?9\d\d|^9\d\d$|oil$",
    "bulking agent": r"polydextrose|maltodextrin|inulin|fibre|fiber|isomalt|maltitol|e\s?9\d\d|e\s?1200",
}
_LIKE = {
    "food acid": "acid",
    "acidity regulator": "acid",
    "acidulant": "acid",
    "acidifier": "acid",
    "color": "colour",
    "colouring": "colour",
    "coloring": "colour",
    "food colour": "colour",
    "colouring food": "colour",
    "leavening": "raising agent",
    "leavening agent": "raising agent",
    "stabilizer": "stabiliser",
    "vegetable gum": "thickener",
    "thickening agent": "thickener",
    "emulsifying agent": "emulsifier",
}
_MEMBER_OF = {name: re.compile(pattern, re.I) for name, pattern in _MEMBERS.items()}

# Foods whose name in brackets says where another food comes from.
_SOURCES = (
    "milk|cows? milk|soya?|soybeans?|soja|wheat|barley|oats?|rye|spelt|gluten|eggs?|peanuts?|almonds?|hazelnuts?"
    "|cashews?|walnuts?"
    "|pistachios?|nuts?|tree nuts?|sesame|mustard|lupin|fish|pork|beef|bovine|porcine|corn|maize|potato|tapioca|pea"
    "|rice|sunflower|rapeseed|cane|beet"
)
SOURCE = re.compile(
    r"(?:(?:from|of|made (?:from|with)|derived from|sources? includes?|sourced from"
    rf"|ex) (?:the )?)?((?:{_SOURCES})(?:,? (?:and|&|or|and/or) (?:{_SOURCES}))*)",
    re.I,
)
# Names that a source completes: which lecithin it is.
COMPLETED = re.compile(r"(?:e ?322|lecithins?)$", re.I)
# What is ground of the very thing in its brackets.
GROUND = re.compile(r"\b(?:butter|paste|spread|tahini|mass)$", re.I)
# What says which plant, yet is a fat or starch of its own: it stays in its bracket.
KINDS_OF = re.compile(
    r"\b(?:vegetable|plant|hydrogenated|hardened)\b.{0,40}?\b(?:oils?|fats?|shortening)\b|^(?:oils?|fats?)$", re.I
)

TREATED = re.compile(
    r"(?:processed with alkali|alkali[sz]ed|dutch(?:ed|-process(?:ed)?)|partially defatted|deodori[sz]ed|unsweetened"
    r"|pasteuri[sz]ed|fat[- ]reduced|reduced[- ]fat|low[- ]fat)",
    re.I,
)
PURPOSE = re.compile(
    r"(?:to|for|as|used|added to) (?:maintain|preserve|protect|retain|keep|prevent|color|colour|help|a |an )", re.I
)
# After a name, what it is there for: "tocopherols added to protect flavor".
FOR_WHAT = re.compile(
    r"(?<=\w)\s+(?:(?:added |used )?(?:to|for) (?:help )?(?:preserve|protect|maintain|retain|keep|prevent|promote|freshness)\b"
    r"|with (?:added )?(?:tbhq|bh[at]|citric acid|tocopherols?|rosemary extract|vitamin [a-z]\d?)\b)[^()]*$",
    re.I,
)
FAT = re.compile(
    r"\b(?:palm|kernel|shea|coconut|soya?|soybean|sunflower|safflower|rapeseed|canola|cottonseed|corn|illipe|sal|olive"
    r"|peanut)(?: (?:oils?|fats?|butter))?$",
    re.I,
)
REMARK = re.compile(
    r"(?:from|to|for|as|with|without|which|used|treated|added|including traces|contains?|containing|equivalent|made"
    r"|freshly|min\.?|minimum|at least|not|no|adds|dried weight|reconstituted|of which|origin|source of|product of|preserves?"
    r"|protects?|retains?)\b"
    r"|(?:certified |100 ?% )?(?:organic|bio|fair ?trade|fairly traded|free[- ]range|non-?gmo|rspo|sustainable|vegan"
    r"|halal|kosher|whole ?bean|gluten[- ]free|unbleached|alternative)(?: certified)?$",
    re.I,
)
CLAIM = re.compile(
    r"(?:no added sugars?|no sugars? added|sugar[- ]free|vegan|organic|gluten[- ]free|dairy[- ]free|keto|high protein"
    r"|new recipe|new)$",
    re.I,
)
_ADJECTIVE = (
    r"(?:whole|chopped|roasted|toasted|ground|finely|coarsely|diced|sliced|dried|freeze[- ]dried|salted|unsalted"
    r"|blanched|pitted"
    r"|stoned|peeled|cooked|crushed|organic|unbleached|bleached|pasteuri[sz]ed|skinless|halved|dry|candied|sweetened"
    r"|unsweetened|defatted|hydrogenated|refined|unrefined|concentrated|powdered|caramelised|caramelized|glazed)"
)
TREATMENTS_ONLY = re.compile(rf"{_ADJECTIVE}(?:(?:,| and| &| or)? {_ADJECTIVE})*(?: pieces| weight)?", re.I)
LEADING_TREATMENT = re.compile(rf"{_ADJECTIVE} \w", re.I)
# Names whose "and" belongs to them.
WHOLE = re.compile(
    rf"(?:roasted|cooked|fried|coated|dusted|soaked) (?:in|with) "
    rf"|mono-? ?(?:and|&) ?di-?glycerides|natural (?:and|&) artificial|artificial (?:and|&) natural|half (?:and|&) half"
    rf"|hundreds (?:and|&) thousands|fats? (?:and|&) oils?|oils? (?:and|&) fats?|lactose (?:and|&) (?:milk )?proteins? from"
    rf"|lactose (?:and|&) minerals|herbs (?:and|&) spices|cookies? (?:and|&) cream"
    rf"|{_ADJECTIVE} (?:and|&) {_ADJECTIVE}|salt(?:ed)? (?:and|&) (?:vinegar|pepper|sweet)",
    re.I,
)
ONE_OF = re.compile(
    r"(?:(?:contains?|may contain) )?(?:one or more of|any (?:one )?of|either|at least one of"
    r"|some or all of)(?: the following)?\s*:?\s*",
    re.I,
)
VARYING = re.compile(
    r"[,(\s]{0,4}\b(?:in |with )?(?:varying|variable|changing) proportions?\b(?: by weight)?\)?|\bin any order\b", re.I
)
_NUMBER = r"(\d{1,3}(?:[.,]\d{1,3})?)"
SMALL = re.compile(
    r"(?:and\s+)?(?:(?:this product )?contains?\s+)?(?:(?:less|fewer) than\s+|<\s*|(?:at )?most\s+|not more than\s+"
    rf"|under\s+)?{_NUMBER}\s*%"
    r"(?:\s+(?:or|and) (?:less"
    r"|under))?\s*(?:each\s+)?(?:of\b)?(?:\s+each\b)?(?:\s+of\b)?(?:\s+(?:the )?following(?: ingredients?)?)?\s*[:,]?\s*",
    re.I,
)
_SAYS_SMALL = re.compile(r"less|<|most|more than|under|of\b", re.I)


def class_of(text: str) -> tuple[str, bool] | None:
    """A class name in the singular, as spelt, and whether it stood in the plural; None for any other words."""
    found = _CLASS.fullmatch(text.strip())
    return (found[1].lower(), bool(found[2])) if found else None


_BEFORE = re.compile(
    rf"({_PREFIX}(?:emulsifier|acid|food acid|acidity regulator|acidulant|raising agent|gelling agent|humectant"
    r"|preservative|antioxidant|colour|glazing agent"
    rf"|stabili[sz]er|thickener|sweetener))s?\s+(\w.*)",
    re.I,
)
_AFTER = re.compile(rf"(.{{1,80}}?)(?:\s+as an?|\s+an?(?= )|\s*[-–—,]|\s+as)\s*(?:an? )?({_PREFIX}(?:{_CLASSES}))s?", re.I)


def class_before(text: str) -> tuple[str, str] | None:
    """A class name that stands before a substance without a colon ("emulsifier E 322"): the class and the rest."""
    found = _BEFORE.fullmatch(text)
    if not found:
        return None
    name = found[1].lower()
    return (name, found[2]) if is_member(name, found[2]) else None


def class_after(text: str) -> tuple[str, str] | None:
    """A class name that ends the words ("soy lecithin as an emulsifier", "soy lecithin - emulsifier")."""
    found = _AFTER.fullmatch(text)
    return (found[2].lower(), found[1]) if found else None


def is_member(class_name: str, name: str) -> bool:
    """Whether a substance can do what its class says."""
    bare = _PREFIXED.sub("", class_name, count=1)
    pattern = _MEMBER_OF.get(_LIKE.get(bare, bare))
    return bool(pattern and pattern.search(name))


def small_limit(text: str) -> tuple[float, str] | None:
    """The limit of a "2 % or less of" group that begins here [%], and what follows; None where none begins."""
    found = SMALL.match(text)
    if not found or not _SAYS_SMALL.search(found[0]):
        return None
    return float(found[1].replace(",", ".")), text[found.end() :]
