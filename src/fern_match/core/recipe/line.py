"""One line of a recipe, read: how much, of what, what that rests on, and what must be asked.

Worked example: "1 1/2 cups (12 oz) heavy cream": 1 1/2 US cups are 354.9 mL, of cream at 1 g/mL 354.9 g; 12 oz are 340.2 g. They
agree within what cups err, and the weight is taken: 340.2 g.
"""

import re
from dataclasses import dataclass, replace
from enum import StrEnum

from fern_match.core.food import Ingredient, Pantry
from fern_match.core.label.statement.tongues import ENGLISH
from fern_match.core.measures.numbers import Comma, Unread, plain_signs
from fern_match.core.measures.units import Quantity
from fern_match.core.measures.volumes import Measures
from fern_match.core.recipe.named import NOT_HELD, Named, bought_share, named, piece_of
from fern_match.core.recipe.quantities import VAGUE, Quantified, container, quantified
from fern_match.core.recipe.tongue import in_our_words

_LONGEST = 300
_SURE, _WIDE = 0.8, 0.02  # of an ingredient's confidence; of an amount's range, relative
_ONE_OF_A_SIZE = re.compile(r"^(\d+) (\d+/\d+-(?:ounce|oz)\b)(?=\.? (?:envelope|packet|package|pkg|sachet))", re.I)
_DESSERTSPOON = re.compile(r"(?<![\d/])(\d[\d/]*)\s*(?:dsp|dstspn|dessert ?spoon(?:ful)?s?)\b\.?", re.I)
_SIZED_HOLDER = re.compile(r"\b(?:small|large|medium|big|little) (?=(?:pot|tub|jar|carton|bag|packet|bottle)s?\b)", re.I)
_STICK_G = 113.4  # of butter, US
_STICKS = re.compile(r"(?P<count>\d[\d/ ]*?)\s*sticks?\s*(?:\+|plus|and)\s+(?=\d.*\b(?:butter|margarine)\b)", re.I)
_NUMBERS = {"one": 1, "two": 2, "three": 3, "four": 4, "six": 6}
_FREE = re.compile(
    r"\b(?:to taste|(?:un)?til [a-z]+|to (?:a )?consistency|for (?:the )?(?:finishing|dusting|sprinkling|topping|rolling|"
    r"greasing|"
    r"garnish|serving|decoration|decorating|coating|dipping|brushing|kneading)|to (?:serve|dust|finish|decorate|sprinkle|"
    r"garnish|coat|roll|grease|top)|optional|as (?:needed|required|necessary)|if (?:needed|liked|desired)|as you like)\b",
    re.I,
)
_HEADING = re.compile(r"^(?:for|to make) (?:the )?[^\d]+$|^[^\d]{2,60}:$", re.I)
_OF_FRUIT = re.compile(
    r"^(?:the )?(?:finely )?(?:grated )?(?P<part>juice|zest|rind|white|yolk|seed)s? "
    r"(?P<both>(?:and|\+|&) (?:the )?(?:finely )?(?:grated )?(?:juice|zest|rind) )?(?:of|from) (?P<count>[\d/. ]+) (?P<of>.+)$",
    re.I,
)
_ZESTED = re.compile(
    r"^(?P<count>[\d/. ]+?) (?P<of>(?:(?:large|small) )?(?:lemon|lime|orange)s?),? (?P<how>.*\b(?:zest|juice).*)$", re.I
)
_ON_ONE_LINE = "Two ingredients stand on one line. Give each a line of its own."
_BRACKET = re.compile(r"\(([^()]*)\)|\[([^\[\]]*)\]")
_PERCENT = re.compile(r"(\d{1,3}(?:[.,]\d)?) ?%")
_BULLET = re.compile(r"^\s*(?:[-–—•*·▢□☐+]|\[ ?\]|\d{1,2}[.)](?=\s+[\d½¼¾⅓⅔⅛A-Za-z]))\s*")
_TAIL = re.compile(r"(?<=[A-Za-zé%)\]])\s*(?:[:;,=]|\s-|\s–|\s—)?\s*(?=(?:approx\.? |about |ca\.? )?[\d.]*\d)")
_SECOND = re.compile(r"(?:\+|\bplus\b|\band\b|&)\s+(?:\d|a (?!little|bit|few|touch)|half )", re.I)
_MORE = re.compile(r"[,;]?\s*(?:plus|and|\+)\s+(?:a (?:little|bit|few|touch)|some|extra|more|\d[^,]*(?:extra|more)).*$", re.I)
_WEIGHTS_AGREE, _VOLUMES_AGREE, _PIECES_AGREE = 0.16, 0.25, 0.30  # relative: how far two ways to say one amount may be apart


class LineKind(StrEnum):
    """What a line is."""

    AMOUNT = "amount"
    FREE = "free"  # to taste, until stiff, to finish: no amount, and none is missing
    HEADING = "heading"


@dataclass(frozen=True, slots=True, kw_only=True)
class Bought:
    """What is bought and what of it is ready to use [g]."""

    bought_g: float
    ready_g: float
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class RecipeLine:
    """A line as written and as read."""

    line: str
    kind: LineKind = LineKind.AMOUNT
    grams: float | None = None  # best value [g]; None where none was read or two disagree
    low_g: float | None = None
    high_g: float | None = None
    ingredient_id: str | None = None
    confidence: float = 0.0
    name: str = ""  # of the ingredient, as written
    assumed: tuple[str, ...] = ()  # what the reading rests on
    problem: str | None = None  # what must be asked
    bought: Bought | None = None
    free: str = ""  # the words that leave the amount to the cook

    @property
    def sure(self) -> bool:
        """Whether its ingredient need not be asked for."""
        return self.problem is None and self.confidence >= _SURE

    @property
    def wide(self) -> bool:
        """Whether low and high are so far apart that they are worth saying."""
        if self.grams is None or self.low_g is None or self.high_g is None:
            return False
        return self.high_g - self.low_g > _WIDE * self.grams


@dataclass(frozen=True, slots=True)
class _Mass:
    """One way to say how much, in grams."""

    grams: float
    low: float
    high: float
    quantity: Quantity
    words: str
    assumed: tuple[str, ...]


def read_line(line: str, pantry: Pantry, *, measures: Measures, comma: Comma | None = None, tongue: str = ENGLISH) -> RecipeLine:
    """One line of a recipe.

    Args:
        line: As written, up to 300 signs.
        pantry: What names can mean.
        measures: Whose cups, spoons and cans, where the line does not say.
        comma: What a comma means; by the country where None.
        tongue: The language of its recipe; a line that is known in English is read so all the same.

    Source: densities and pieces from data/ingredients.csv, data/recipe_pieces.csv (typical values); errors approximate.
    """
    means = comma or (Comma.DECIMAL if measures is Measures.METRIC else Comma.GROUPS)
    if len(line) > _LONGEST:
        return RecipeLine(
            line=line, problem=f"That is longer than a line of a recipe ({_LONGEST} signs). Write one ingredient a line."
        )
    try:
        read = _read(line, pantry, measures, means)
    except Unread as problem:
        read = RecipeLine(line=line, problem=str(problem))
    return read if read.ingredient_id is not None or tongue == ENGLISH else _in_a_tongue(read, pantry, measures, tongue)


def _in_a_tongue(read: RecipeLine, pantry: Pantry, measures: Measures, tongue: str) -> RecipeLine:
    """A line that says nothing in English, read in the language of its recipe; where it says nothing there, as it was."""
    text = in_our_words(read.line, tongue)
    if text == read.line:
        return read
    try:
        again = _read(text, pantry, measures, Comma.DECIMAL)
    except Unread:
        return read
    if again.ingredient_id is None and again.grams is None and again.kind is not LineKind.FREE:
        known = (again.name and again.name in read.line) or not (again.problem or "").startswith(NOT_HELD)
        return replace(again, line=read.line) if known else read  # its measure was known, or there is more to say of it
    said = f"{tongue}: “{text}”"
    return replace(again, line=read.line, assumed=(said, *again.assumed))


def _read(line: str, pantry: Pantry, measures: Measures, comma: Comma) -> RecipeLine:
    text = re.sub(r"\b(?:good|large|big|generous|small|tiny|heaped|heaping) (?=(?:pinch|knob|handful))", "", line, flags=re.I)
    text = re.sub(r"^(pinch|dash|drop|knob)\b", r"1 \1", _BULLET.sub("", text).strip(), flags=re.I)
    text = re.sub(r"^(one|two|three|four|six) (?=\d)", lambda found: f"{_NUMBERS[found[1].lower()]} x ", text, flags=re.I)
    text = re.sub(r"^(?:half|1/2|½) (?:of )?an? (?=\d)", "0.5 x ", text, flags=re.I)
    text = _ONE_OF_A_SIZE.sub(r"\1 x \2", text)  # "1 1/4-ounce envelope": one, not one and a quarter
    text = _DESSERTSPOON.sub(r"\1 x 2 tsp", text)
    text = _SIZED_HOLDER.sub("", text)
    text = re.sub(r"\bextra-(?=large\b)", "extra ", text, flags=re.I)
    sticks = _STICKS.match(text)
    if sticks is not None:  # "2 sticks plus 2 tbsp butter"
        rest = text[sticks.end() :]
        read = _read(f"{sticks['count'].strip()} x {_STICK_G:g} g plus {rest}", pantry, measures, comma)
        return replace(read, line=line, assumed=(*read.assumed, f"one stick at {_STICK_G:g} g"))
    text = plain_signs(text, comma).replace("''", '"')
    text = re.sub(r"(?<=\d)(?=[A-Za-z])", " ", text).strip(" .") if re.match(r"^\d", text) else text.strip()
    if not re.search(r"\d", text) and _HEADING.match(text):
        return RecipeLine(line=line, kind=LineKind.HEADING, name=text.rstrip(":"))
    brackets = [a or b for a, b in _BRACKET.findall(text)]
    bare = re.sub(r"\s+", " ", _BRACKET.sub(" ", text)).strip(" ,.")
    bare = _MORE.sub("", bare)
    fruit = _OF_FRUIT.match(bare)
    zested = _ZESTED.match(bare)
    both = (fruit is not None and fruit["both"]) or (
        zested is not None and all(one in zested["how"] for one in ("zest", "juice"))
    )
    if both:
        return RecipeLine(line=line, name=bare, problem=_ON_ONE_LINE)
    if zested is not None:
        bare = f"{zested['count'].strip()} {zested['of']} {'zest' if 'zest' in zested['how'] else 'juice'}"
    if fruit is not None:
        bare = f"{fruit['count'].strip()} {_part_name(fruit['part'].lower(), fruit['of'])}"
    found = _amount_and_name(bare, measures, comma)
    if found is None:  # "cocoa powder (2 tbsp)"
        inside = next(
            (size for bracket in brackets for size, _ in _sizes(bracket, measures, comma) if size.unit is not None), None
        )
        found = (inside, [], bare, None) if inside is not None else None
    if found is None:
        return _without_amount(line, bare, brackets, pantry)
    amount, others, name, holder = found
    if amount.two_ways:
        who = named(name, brackets, _percent(text), pantry)
        return _line(line, who, problem=amount.two_ways)
    if _SECOND.search(name):
        return RecipeLine(line=line, name=name, problem=_ON_ONE_LINE)
    who = named(name, brackets, _percent(text), pantry)
    if not name.strip(" .,"):
        return RecipeLine(line=line, problem="An amount, but of what? Name the ingredient.")
    ways = [amount, *others]
    sizes = [found for bracket in brackets for found in _sizes(bracket, measures, comma)]
    food = pantry[who.ingredient_id] if who.ingredient_id else None
    masses = _masses(ways, sizes, who, food, holder, measures, name)
    return _settled(line, who, masses, amount, holder, text)


def _part_name(part: str, of: str) -> str:
    if part in {"white", "yolk"}:
        return f"egg {part}s"
    return f"{of} {part}"


def _amount_and_name(
    bare: str, measures: Measures, comma: Comma
) -> tuple[Quantified, list[Quantified], str, tuple[str, Quantified | None] | None] | None:
    """The amount, further ways to say it, the name, and the container with its size: at the line's head, else at its tail."""
    head = quantified(bare, measures, comma)
    if head is not None:
        amount, rest = head
        others: list[Quantified] = []
        while (slash := re.match(r"\s*(?:/|\||=|or(?= [\d.]))\s*(?=\d)", rest)) is not None:
            further = quantified(rest[slash.end() :], measures, comma)
            if further is None or further[0].unit is None:
                break
            others.append(further[0])
            rest = further[1]
        holder = container(rest)
        if holder is not None:
            return amount, others, holder[1], (holder[0], None)
        if amount.unit is None and re.match(r"[\d.]", rest):  # "1 14-ounce can"
            size = quantified(rest, measures, comma)
            inside = container(size[1]) if size is not None else None
            if size is not None and inside is not None:
                return amount, others, inside[1], (inside[0], size[0])
        return amount, others, rest, None
    for place in _TAIL.finditer(bare):
        tail = quantified(bare[place.end() :], measures, comma)
        if tail is not None and tail[0].unit is not None and re.match(r"^(?:$|[,;(/])", tail[1]):
            others = []
            slash = re.match(r"/\s*(?=\d)", tail[1])
            further = quantified(tail[1][slash.end() :], measures, comma) if slash else None
            others = [further[0]] if further is not None and further[0].unit is not None else []
            return tail[0], others, bare[: place.start()].strip(" :,-–"), None
    return None


def _sizes(bracket: str, measures: Measures, comma: Comma) -> list[tuple[Quantified, bool]]:
    """Amounts in a bracket, each with whether it is of one of several."""
    found = []
    for part in re.split(
        r"(?:(?<=[A-Za-z.])\s*/|\s*(?:\||;|,(?=\s)|\bor\b|=))\s*(?=(?:about |approx\.? |ca\.? )?[\d.])", bracket.strip()
    ):
        read = quantified(part, measures, comma)
        if read is not None and (read[0].unit is not None or re.fullmatch(r"", read[1])):
            found.append((read[0], re.match(r"^(?:each|apiece|per )", read[1]) is not None))
        elif read is not None and read[1].split()[:1] and read[1].split()[0].lower().rstrip("s") in {"stick", "piece", "square"}:
            found.append((replace(read[0], word=read[1]), False))
    return found


def _masses(
    ways: list[Quantified],
    sizes: list[tuple[Quantified, bool]],
    who: Named,
    food: Ingredient | None,
    holder: tuple[str, Quantified | None] | None,
    measures: Measures,
    name: str,
) -> list[_Mass]:
    """Every way the line says how much, in grams."""
    count = ways[0]
    if holder is not None and count.unit is None:
        of_one = [holder[1]] if holder[1] is not None else [size for size, _ in sizes if size.unit is not None]
        masses = [_times(_mass(size, who, food, measures, name), count) for size in of_one]
        piece = piece_of(holder[0], who, measures, holds=True) if not masses else None
        if piece is not None:
            masses = [_times(_piece_mass(piece), count)]
        return [mass for mass in masses if mass is not None]
    found = [_mass(one, who, food, measures, name) for one in ways]
    for size, each in sizes:
        mass = _mass(size, who, food, measures, size.word or name)
        found.append(_times(mass, count) if each and count.unit is None else mass)
    return [mass for mass in found if mass is not None]


def _piece_mass(piece: tuple[float, float, float, str]) -> _Mass:
    """A piece as a mass."""
    grams, low, high, what = piece
    return _Mass(grams, low, high, Quantity.COUNT, "", (f"{what} at {grams:g} g",))


def _times(mass: _Mass | None, count: Quantified) -> _Mass | None:
    """So many of them; a range of counts is wider than what one differs from another."""
    if mass is None:
        return None
    low, high = (mass.low, mass.high) if count.low == count.high else (mass.grams, mass.grams)
    return replace(mass, grams=mass.grams * count.middle, low=low * count.low, high=high * count.high)


def _mass(one: Quantified, who: Named, food: Ingredient | None, measures: Measures, name: str) -> _Mass | None:
    """One amount in grams; None where it cannot be known."""
    if one.unit is None:
        piece = piece_of(name, who, measures)
        mass = _times(_piece_mass(piece), one) if piece is not None else None
    elif one.unit.quantity is Quantity.WEIGHT:
        size = one.unit.size
        mass = _Mass(one.middle * size, one.low * size, one.high * size, Quantity.WEIGHT, "", ())
    elif food is None or not food.density_g_ml:
        mass = None
    else:
        size, density, spread = one.unit.size, food.density_g_ml, 0.0 if one.high > one.low else one.unit.spread
        assumed = (f"{one.unit.name} of {size:.4g} mL" if one.unit.name != "mL" else "", f"{food.name} at {density:g} g/mL")
        grams = one.middle * size * density
        mass = _Mass(
            grams,
            one.low * size * density * (1 - spread),
            one.high * size * density * (1 + spread),
            Quantity.VOLUME,
            "",
            tuple(filter(None, assumed)),
        )
    if mass is None:
        return None
    if one.spread and one.high == one.low:
        mass = replace(mass, low=mass.low * (1 - one.spread), high=mass.high * (1 + one.spread))
    mass = replace(mass, assumed=(*mass.assumed, *one.assumed), words=_way_words(one))
    if one.plus is not None:
        more = _mass(one.plus, who, food, measures, name)
        if more is not None:
            mass = replace(mass, grams=mass.grams + more.grams, low=mass.low + more.low, high=mass.high + more.high)
    return mass


def _way_words(one: Quantified) -> str:
    count = f"{one.low:.4g}" if one.low == one.high else f"{one.low:.4g} to {one.high:.4g}"
    return f"{count} {one.unit.name if one.unit is not None else 'pieces'}"


def _settled(
    line: str,
    who: Named,
    masses: list[_Mass],
    amount: Quantified,
    holder: tuple[str, Quantified | None] | None,
    text: str,
) -> RecipeLine:
    """One amount out of every way it was said; two that disagree are both shown."""
    if not masses:
        return _line(line, who, problem=who.problem or _unknown_amount(amount, holder, who))
    rank = {Quantity.WEIGHT: 0, Quantity.VOLUME: 1, Quantity.COUNT: 2}
    best = min(masses, key=lambda mass: rank[mass.quantity])
    for other in masses:
        if other is best or _agree(best, other):
            continue
        words = f"{best.words} is {best.grams:.4g} g" if best.quantity is not Quantity.WEIGHT else f"{best.grams:.4g} g"
        gap = 100 * abs(other.grams / best.grams - 1)
        sentence = f"{words} and {other.words}, which is about {other.grams:.4g} g, differ by {gap:.0f} %. Which is meant?"
        low, high = sorted((best.grams, other.grams))
        return _line(line, who, low=low, high=high, problem=sentence)
    bought = bought_share(text, in_container=holder is not None)
    grams, low, high, assumed = best.grams, best.low, best.high, list(best.assumed)
    if bought is not None:
        share, what, comes_ready = bought
        assumed.append(what)
        if not comes_ready:
            grams, low, high = grams * share, low * share, high * share
        weights = Bought(bought_g=grams / share, ready_g=grams, words=what)
    else:
        weights = None
    found = _line(line, who, problem=who.problem, low=low, high=high)
    return replace(found, grams=grams, assumed=(*found.assumed, *assumed), bought=weights)


def _agree(best: _Mass, other: _Mass) -> bool:
    """Whether two ways to say one amount can both be meant; ounces beside cups may be fluid ones."""
    kinds = {best.quantity, other.quantity}
    limit = _WEIGHTS_AGREE if kinds == {Quantity.WEIGHT} else _PIECES_AGREE if Quantity.COUNT in kinds else _VOLUMES_AGREE
    if best.low <= other.grams <= best.high or other.low <= best.grams <= other.high:
        return True
    return abs(other.grams / best.grams - 1) <= limit if best.grams > 0 else other.grams == 0


def _unknown_amount(amount: Quantified, holder: tuple[str, Quantified | None] | None, who: Named) -> str:
    if holder is not None:
        return f"What a {holder[0]} of it weighs is not known. Write its weight: “1 {holder[0]} (200 g)”."
    if amount.unit is None:
        return f"What one “{who.name}” weighs is not known. Write grams, spoons or cups."
    return f"What a {amount.unit.name.split()[-1]} of “{who.name}” weighs is not known. Write grams."


def _without_amount(line: str, bare: str, brackets: list[str], pantry: Pantry) -> RecipeLine:
    text = " ".join((bare, *brackets))
    first = re.sub(r"^(?:\d+|a|an|the)\s+", "", bare, flags=re.I).split(" ")[0].lower()
    name = re.sub(r"^(?:a |an |some |few |a few |several )+(?:drops?|of|handfuls?|little)?\s*(?:of )?", "", bare, flags=re.I)
    who = named(_FREE.sub("", name), brackets, None, pantry)
    free = _FREE.search(text)
    if free is not None and first not in VAGUE:
        if who.ingredient_id is None:
            return _line(line, who, problem=who.problem)
        return replace(_line(line, who), kind=LineKind.FREE, free=free[0].lower(), assumed=(free[0].lower(),))
    if first in VAGUE:
        return _line(line, who, problem=f"“{first}” differs from hand to hand ({VAGUE[first]}). Write grams or spoons.")
    if who.ingredient_id is None and who.problem is not None:
        return _line(line, who, problem=who.problem)
    return _line(line, who, problem="How much? No amount was read. Left open, it is free within what its layer can take.")


def _line(
    line: str, who: Named, *, problem: str | None = None, low: float | None = None, high: float | None = None
) -> RecipeLine:
    return RecipeLine(
        line=line,
        ingredient_id=who.ingredient_id,
        confidence=who.confidence,
        name=who.name,
        assumed=who.assumed,
        problem=problem,
        low_g=low,
        high_g=high,
    )


def _percent(text: str) -> float | None:
    found = _PERCENT.search(text)
    return float(found[1].replace(",", ".")) if found else None
