"""A whole recipe: its title, parts and yield, what its method uses, and where it contradicts itself.

Worked example: "Makes 24 pieces of 30 g" is 720 g; the lines come to 412 g as added. More than is put in cannot come out, so both
are shown and asked about.
"""

import re
from dataclasses import dataclass

from fern_match.core.food import Pantry
from fern_match.core.food.names import known_name
from fern_match.core.label.statement.tongues import ENGLISH
from fern_match.core.measures.numbers import Comma
from fern_match.core.measures.pasted import tamed
from fern_match.core.measures.volumes import Measures
from fern_match.core.recipe.line import LineKind, RecipeLine, read_line
from fern_match.core.recipe.tongue import tongue_of

MOST_LINES = 200
MOST_SIGNS = 20_000
_YIELD = re.compile(
    r"^(?:makes|yields?|serves|servings|portions|quantity)\s*:?\s*(?:about |approx\.? |around )?(?P<count>\d{1,4})"
    r"(?:\s*(?:-|to)\s*\d+)?\s*(?P<what>[a-z ]*?)"
    r"(?:\s*(?:of|x|@|at|,)?\s*\(?(?P<each>\d+(?:\.\d+)?)\s*g(?:rams)?(?: each)?\)?)?\s*\.?$",
    re.I,
)
_TITLED = re.compile(  # "Butterscotch slab (makes 24, 20 x 30 cm pan)"
    r"^(?P<title>[^\d(,;:]{3,80}?)\s*[\s,;:(–—-]\s*(?:makes|yields?|gives)\s*:?\s*(?:about |approx\.? |around )?"
    r"(?P<count>\d{1,4})\b"
    r"(?!\s*(?:g|kg|ml|l|oz|cups?)\b).{0,80}$",
    re.I,
)
_COUNTED = re.compile(
    r"^(?:about |approx\.? |around )?(?P<count>\d{1,4}) (?:pieces|squares|bars|servings|portions|sweets|candies)\.?$", re.I
)
_HOW_LONG = re.compile(r"\d\s*(?:min(?:ute)?s?|hours?|hrs?|sec(?:ond)?s?)\b|\d\s*(?:°|degrees)", re.I)
_METHOD = re.compile(
    r"^(?:step \d+|\d{1,2}[.)]\s)?\s*(?:then |next |now )?"
    r"(?:pre-?heat|melt|heat|boil|bring|mix|stir|whisk|beat|fold|add|pour|spread|"
    r"press|bake|cool|chill|leave|let|cut|dip|line|grease|place|put|combine|warm|cook|remove|take|blend|cream|rub|roll|coat|knead|"
    r"simmer|sprinkle|top|drizzle|repeat|allow|meanwhile|in a|using|work|temper|set|when|once|while)\b",
    re.I,
)
_USED = re.compile(
    r"\b(?P<amount>\d[\d/. ]* ?(?:g|kg|ml|oz|cups?|tbsp|tsp|tablespoons?|teaspoons?)\b)\s+"
    r"(?:of (?:the )?)?(?P<name>[a-z][a-z \-]{2,40})",
    re.I,
)
_PART = re.compile(
    r"^(?:the |for the |[a-z]+ )?"
    r"(?:base|filling|caramel|toppings?|coat(?:ing)?|nougat|ganache|layer|cent(?:re|er)|crust|shell|glaze|icing"
    r"|fondant|jelly|marshmallow|biscuit|shortbread|syrup|brittle|toffee|praline|bottom|middle|top)(?: layer)?s?\s*:?$",
    re.I,
)
_MAKES = re.compile(  # "Für 24 Stück", "Pour 24 pièces"
    r"^(?:für|ergibt|pour|per|rende|para|rinde|salen|voor)\s+(?:ca\.?|etwa|environ|circa|unos|unas|ongeveer)?\s*(?P<count>\d{1,4})\s+"
    r"(?:stück|riegel|portionen|pralinen|pièces|parts|personnes|barres|pezzi|porzioni|barrette|piezas|porciones|barritas|unidades"
    r"|stuks|repen|porties)\.?$",
    re.I,
)
_SENTENCE = 6  # words of a line that is told
_MORE_THAN_IN, _USED_APART, _SHORT_METHOD = 1.05, 0.10, 160


@dataclass(frozen=True, slots=True, kw_only=True)
class RecipeSection:
    """One part of a recipe: the base, the caramel."""

    name: str
    lines: tuple[RecipeLine, ...]

    @property
    def grams(self) -> float:
        """All that was read of it, as added [g]."""
        return sum(line.grams or 0.0 for line in self.lines)


@dataclass(frozen=True, slots=True, kw_only=True)
class Recipe:
    """A recipe as read."""

    title: str
    sections: tuple[RecipeSection, ...]
    pieces: int | None  # that it says it makes
    piece_g: float | None  # what it says one weighs [g]
    doubts: tuple[str, ...]  # where it contradicts itself, as sentences
    tongue: str = ENGLISH  # the language it is in

    @property
    def lines(self) -> tuple[RecipeLine, ...]:
        """Every line with an ingredient, in order."""
        return tuple(line for section in self.sections for line in section.lines)


def read_recipe(
    text: str, pantry: Pantry, *, measures: Measures, comma: Comma | None = None, tongue: str | None = None
) -> Recipe:
    """A recipe pasted or typed, one ingredient a line; lines that end in a colon name a part, sentences tell the method.

    Args:
        text: Up to 200 lines.
        pantry: What names can mean.
        measures: Whose cups and spoons.
        comma: What a comma means; by the country where None.
        tongue: The language it is in; heard from its words where None.
    """
    title, pieces, piece_g = "", None, None
    sections: list[tuple[str, list[RecipeLine]]] = [("", [])]
    method: list[str] = []
    doubts: list[str] = []
    written = [one.strip() for one in tamed(text, MOST_SIGNS).splitlines() if one.strip()]
    if len(written) > MOST_LINES:
        doubts.append(f"{len(written)} lines were pasted; the first {MOST_LINES} were read.")
    tongue = tongue or tongue_of("\n".join(written), known_name)
    for number, line in enumerate(written[:MOST_LINES]):
        found = _YIELD.match(line)
        if found is not None:
            pieces, piece_g = int(found["count"]), float(found["each"]) if found["each"] else None
            continue
        counted = _COUNTED.match(line) or (_MAKES.match(line) if tongue != ENGLISH else None)
        if counted is not None and pieces is None:
            pieces = int(counted["count"])
            continue
        titled = _TITLED.match(line) if number == 0 else None
        if titled is not None:
            title, pieces = titled["title"].strip(), int(titled["count"])
            continue
        if re.fullmatch(
            r"(?:ingredients|you will need|what you need|zutaten|ingr[ée]dients|ingredienti|ingredientes|ingredi[ëe]nten)\s*:?",
            line,
            re.I,
        ):
            continue
        if re.fullmatch(
            r"(?:method|directions|instructions|pr[ée]paration|how to make.*|zubereitung|anleitung|procedimento|preparazione"
            r"|preparaci[óo]n|elaboraci[óo]n|bereiding)\s*:?",
            line,
            re.I,
        ) or (method and not re.match(r"^[^a-z]*\d", line, re.I)):
            method.append(line)
            continue
        told = " the " in line.lower() or len(line) > _SHORT_METHOD or line.endswith(".") or _HOW_LONG.search(line)
        if told and (_METHOD.match(line) or (tongue != ENGLISH and _is_told(line))):
            method.append(line)
            continue
        read = read_line(line, pantry, measures=measures, comma=comma, tongue=tongue)
        if read.kind is LineKind.HEADING or (_PART.match(line) and read.grams is None):
            sections.append((re.sub(r"^(?:for|to make) (?:the )?", "", line, flags=re.I).strip(" :").capitalize(), []))
        elif number == 0 and read.grams is None and not re.search(r"\d", line) and read.ingredient_id is None:
            title = line
        else:
            sections[-1][1].append(read)
    kept = tuple(RecipeSection(name=name or title, lines=tuple(lines)) for name, lines in sections if lines)
    doubts += _yield_doubts(kept, pieces, piece_g)
    doubts += _used_doubts(kept, method, pantry, measures, comma)
    return Recipe(title=title, sections=kept, pieces=pieces, piece_g=piece_g, doubts=tuple(doubts), tongue=tongue)


def _is_told(line: str) -> bool:
    """Whether a line in a language whose verbs no table holds is more likely a sentence of the method than a thing to weigh."""
    return len(line.split()) >= _SENTENCE and not re.match(r"^[^a-z]*\d", line, re.I)


def _yield_doubts(sections: tuple[RecipeSection, ...], pieces: int | None, piece_g: float | None) -> list[str]:
    if pieces is None or piece_g is None:
        return []
    total = sum(section.grams for section in sections)
    said = pieces * piece_g
    if total <= 0 or said <= total * _MORE_THAN_IN:
        return []
    return [
        f"{pieces} pieces of {piece_g:g} g are {said:.0f} g, but the lines come to {total:.0f} g as added, "
        f"{said - total:.0f} g too few. "
        "Either the pieces are smaller or an amount is missing."
    ]


def _used_doubts(
    sections: tuple[RecipeSection, ...], method: list[str], pantry: Pantry, measures: Measures, comma: Comma | None
) -> list[str]:
    """Amounts that the method uses of an ingredient, beside what was announced."""
    announced: dict[str, float] = {}
    for section in sections:
        for line in section.lines:
            if line.ingredient_id is not None and line.grams is not None:
                announced[line.ingredient_id] = announced.get(line.ingredient_id, 0.0) + line.grams
    used: dict[str, float] = {}
    open_ended: set[str] = set()
    text = " ".join(method)
    for found in _USED.finditer(text):
        for words in _shorter(found["name"]):
            read = read_line(f"{found['amount']} {words}", pantry, measures=measures, comma=comma)
            if read.ingredient_id is not None and read.grams is not None and read.problem is None:
                used[read.ingredient_id] = used.get(read.ingredient_id, 0.0) + read.grams
                break
    for rest in re.finditer(r"\b(?:remaining|rest of the|other|half(?: of)? the)\s+([a-z][a-z \-]{2,40})", text, re.I):
        for words in _shorter(rest[1]):
            read = read_line(f"1 g {words}", pantry, measures=measures, comma=comma)
            if read.ingredient_id is not None:
                open_ended.add(read.ingredient_id)
                break
    doubts = []
    for key, grams in used.items():
        said = announced.get(key)
        name = pantry[key].name
        if said is None:
            doubts.append(f"The method uses {grams:.0f} g of {name.lower()}, which no line announces.")
        elif key not in open_ended and abs(grams / said - 1) > _USED_APART:
            doubts.append(
                f"{name}: {said:.0f} g are announced and {grams:.0f} g used, {abs(said - grams):.0f} g "
                f"{'left over' if grams < said else 'too few'}. Which is meant?"
            )
    return doubts


def _shorter(name: str) -> list[str]:
    """The words of a name, then fewer of them from the end."""
    words = name.strip().split()[:5]
    return [" ".join(words[:count]) for count in range(len(words), 0, -1)]
