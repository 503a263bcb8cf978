"""Statements in German, French, Italian, Spanish and Dutch, put into English words so that one reader reads them all.

The language is found by its words; names, classes and turns of phrase are turned over one by one, the longest known phrase
first, and what a word was printed as is kept for the page. Worked example: "Magermilchpulver, Palmfett" are "skimmed milk powder,
palm oil"; a German or Dutch word that the table lacks is taken apart into words it has ("Pistazienmark").
"""

import re
import unicodedata
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache, lru_cache

from fern_match.core.data import rows

ENGLISH = "English"
TONGUES = ("German", "French", "Italian", "Spanish", "Dutch")
_LEAST_HEARD = 2  # words of a language from which a text may be in it
_LEAST_COMMAS, _LEAST_OF_RUN = 3, 4  # of a sentence that is a list in a language of its own: commas, words that speak for it
_OF_CHOCOLATE = re.compile(  # "cobertura de chocolate negro", "ricoperto di cioccolato": the chocolate is what it names
    r"\b(?:coating|ricopert[oaie]|cubiert[oa]s?|bañad[oa]s?|enrobée?s?|überzogen|omhuld) (?:of|with|in|mit|de|di|met) "
    r"(?=(?:\w+ )?chocolate)",
    re.I,
)
_BETWEEN_SENTENCES = re.compile(r"(?<=[.!])\s+|\n|\s+(?=[*†‡°§¹²³])")
_LONGEST_BESIDE = 200  # signs of a sentence that is kept as printed
_AROUND = " .,;!"  # what is no part of a sentence that is kept
_SENTENCE_ENDS = re.compile(r"(?<=[.!])\s+(?=[^\W\d_a-z])")  # before a capital
_MOST_HEARD = 3000  # signs by which a language is told
_MOSTLY = 0.7  # of the words, from which a text is in English without a further look
_MOST_APART = 40  # signs of a word that may be a compound
_LEAST_PART = 3  # signs of each half of a word that is taken apart
_LEAD = re.compile(
    r"(?:^|(?<=[.\n;!/|)]))\s*(?:(?-i:\(?[A-Z]{2,3}\)?(?:[/, -]{1,2}[A-Z]{2,3}){0,4})\s*[:.\-–]?\s*)?(?:liste? des? |lijst van )?"
    r"(?:zutaten(?:liste|verzeichnis)?|ingr[ée]dients?|ingredienti|ingredientes|ingredi[ëe]nten|composition|composizione)\s*"
    r"(?=[:.\-–\n])[:.\-–\n]\s*",
    re.I,
)
_TOKEN = re.compile(r"\b[eE] ?\d{3,4}[a-z]{0,3}\b|[^\W\d_]+(?:-[^\W\d_]+)*|\d+(?:[.,]\d+)?|.", re.S)
_FLOUR_TYPE = re.compile(
    r"\s*\b(?:tipo|typ|type)\s*[\"“„']?\d{1,4}[\"”“']?(?!\d)|(?:(?<=farina)|(?<=tenero)|(?<=grano))\s+[\"“']?0{1,2}[\"”']?(?!\d)",
    re.I,
)
_ELIDED = re.compile(r"\b(dell|dall|nell|all|sull|un|d|l|qu)['’](?=\w)", re.I)
# A panel that was copied with the list: to the end of its line, or to a stop that is no decimal one.
_PANEL = r"{}\w*[^\n]*?(?=\.(?:\s|$)|\n|$)"
# Turns of phrase, each as it may be printed and what it is in English; read before single words are.
_TURNS: Mapping[str, tuple[tuple[str, str], ...]] = {
    "German": (
        (r"kann (?:auch |in )?(?:spuren (?:von |an )?)?([^.;]{0,200}?) ?enthalten\b", r"May contain \1"),
        (
            r"(?:hergestellt )?i[nm] (?:einem|unserem|selben|gleichen) (?:betrieb|werk)[^.;]{0,200}?(?:auch|ebenfalls) "
            r"([^.;]{0,200}?) (?:verarbeitet|verwendet|hergestellt)(?: werden| wird)?",
            r"May contain \1",
        ),
        (r"(?<![\w-])spuren von ([^.;]{0,200}?) (?:sind )?(?:möglich|nicht auszuschließen|enthalten)\b", r"May contain \1"),
        (r"\bsowie\b", "und"),
        (_PANEL.format("(?:durchschnittliche )?nährwert"), "Nutrition, see panel"),
        (r"(?:mindestens haltbar|mhd)\b[^.;\n]*", "Best before, see pack"),
        (r"kann bei überm(?:ä|ae)(?:ß|ss)igem verzehr abführend wirken", "Excessive consumption may produce laxative effects"),
        (
            r"(?:trocken|kühl|vor wärme|bei (?:raum|zimmer)temperatur|lichtgeschützt)[^.,;()]*(?:lagern|aufbewahren|schützen)",
            "Store in a cool dry place",
        ),
        (r"allergene:? siehe[^.]*", "For allergens see above"),
        (
            r"kakao(?:bestandteile|anteil|gehalt|trockenmasse)?:? ?(?:in der ([\w-]+):? ?)?"
            r"(?:mindestens|mind\.?) ?(\d+(?:[.,]\d+)? ?%)",
            r"\1 cocoa solids \2 minimum",
        ),
        (
            r"kakao(?:bestandteile|anteil|gehalt|trockenmasse)?:? ?(\d+(?:[.,]\d+)? ?%) ?(?:mindestens|mind\.?)",
            r"cocoa solids \1 minimum",
        ),
        (r"milch(?:bestandteile|trockenmasse):? ?(?:mindestens|mind\.?) ?(\d+(?:[.,]\d+)? ?%)", r"milk solids \1 minimum"),
        (r"enthält(?: von natur aus)?:?(?= )", "Contains"),
    ),
    "French": (
        (
            r"(?:peut contenir|traces? (?:éventuelle|possible)s?|présence (?:éventuelle|possible))\s*"
            r"(?:de\b|d['’]|:)?\s*(?:des |de )?(?:traces? (?:éventuelles )?(?:de |d['’]))?",
            "May contain ",
        ),
        (r"(?:une )?consommation excessive[^.]*", "Excessive consumption may produce laxative effects"),
        (r"(?:à )?conserver[^.]*", "Store in a cool dry place"),
        (
            r"(?:fabriqué|produit|élaboré)e?s? dans (?:un|une|notre) [^.;]{0,200}?(?:utilis|manipul|trait|transform)\w*"
            r"(?: également| aussi)?\s*(?::|des |du |de la |de l['’]|les |d['’])?",
            "May contain ",
        ),
        (
            _PANEL.format("(?:valeurs? nutritionnelles?|déclaration nutritionnelle|informations? nutritionnelles?)"),
            "Nutrition, see panel",
        ),
        (r"à consommer (?:de préférence|avant)[^.;\n]*", "Best before, see pack"),
        (r"cacao ?:? ?(\d+(?:[.,]\d+)? ?%) ?(?:au )?min(?:imum|\.)?", r"cocoa solids \1 minimum"),
        (r"lait ?:? ?(\d+(?:[.,]\d+)? ?%) ?(?:au )?min(?:imum|\.)?", r"milk solids \1 minimum"),
        (r"(?<![\w-])contient ?:?(?= )", "Contains"),
    ),
    "Italian": (
        (r"può contenere\s*:?\s*(?:tracce di:? |anche )?", "May contain "),
        (r"un consumo eccessivo[^.]*", "Excessive consumption may produce laxative effects"),
        (r"(?:conservare|da conservare)[^.]*", "Store in a cool dry place"),
        (r"(?<![\w-])senza glutine(?=\s*(?:[.;]|$))", "Gluten free"),
        (
            r"prodott[oi] in (?:un|uno|una) [^.;]{0,200}?(?:utilizza(?:no)?|lavora(?:no)?|si usano|tratta(?:no)?)(?: anche)?",
            "May contain ",
        ),
        (_PANEL.format("(?:valori nutrizionali|dichiarazione nutrizionale|informazioni nutrizionali)"), "Nutrition, see panel"),
        (r"da consumarsi[^.;\n]*", "Best before, see pack"),
        (r"cacao ?:? ?(?:min(?:imo|\.)|almeno) ?(\d+(?:[.,]\d+)? ?%)", r"cocoa solids \1 minimum"),
        (r"cacao ?:? ?(\d+(?:[.,]\d+)? ?%) ?min(?:imo|\.)?(?=[.,;)]|$)", r"cocoa solids \1 minimum"),
        (r"(?<![\w-])contiene:?(?= )", "Contains"),
    ),
    "Spanish": (
        (r"puede contener\s*:?\s*(?:trazas de:? |también )?", "May contain "),
        (r"(?:un )?consumo excesivo[^.]*", "Excessive consumption may produce laxative effects"),
        (r"(?:conservar|consérvese|manténgase|mantener)[^.]*", "Store in a cool dry place"),
        (
            r"(?:elaborado|fabricado|producido) en (?:una?|instalaciones) [^.;]{0,200}?"
            r"(?:utiliza[n]?|manipula[n]?|procesa[n]?|trabaja[n]?)(?: también| con)?",
            "May contain ",
        ),
        (
            _PANEL.format("(?:información nutricional|valores? nutricional(?:es)?|declaración nutricional)"),
            "Nutrition, see panel",
        ),
        (r"consumir preferentemente[^.;\n]*", "Best before, see pack"),
        (r"cacao ?:? ?(?:m[íi]n(?:imo|\.)|como mínimo) ?(\d+(?:[.,]\d+)? ?%)", r"cocoa solids \1 minimum"),
        (r"cacao ?:? ?(\d+(?:[.,]\d+)? ?%) ?(?:m[íi]n(?:imo|\.)?|como mínimo)(?=[.,;)]|$)", r"cocoa solids \1 minimum"),
        (r"(?<![\w-])contiene:?(?= )", "Contains"),
    ),
    "Dutch": (
        (r"kan (?:ook )?(?:sporen van )?([^.;]{0,200}?) ?bevatten\b", r"May contain \1"),
        (r"overmatig gebruik[^.]*", "Excessive consumption may produce laxative effects"),
        (r"(?:koel|droog)[^.,;()]*bewaren", "Store in a cool dry place"),
        (
            r"(?:gemaakt|geproduceerd|vervaardigd) in een [^.;]{0,200}?(?:ook|eveneens) ([^.;]{0,200}?) (?:worden |wordt )?"
            r"(?:verwerkt|gebruikt)(?: worden| wordt)?",
            r"May contain \1",
        ),
        (_PANEL.format("(?:gemiddelde )?voedingswaarden?"), "Nutrition, see panel"),
        (r"(?:ten ?minste|minstens) houdbaar[^.;\n]*", "Best before, see pack"),
        (r"(?:bevat )?(?:ten minste|minimaal|minstens) ?(\d+(?:[.,]\d+)? ?%) ?cacao\w*", r"cocoa solids \1 minimum"),
        (r"cacao(?:bestanddelen)?:? ?(?:ten minste|minimaal|minstens|min\.?) ?(\d+(?:[.,]\d+)? ?%)", r"cocoa solids \1 minimum"),
        (r"bevat:?(?= )", "Contains"),
    ),
}


@dataclass(frozen=True, slots=True)
class Told:
    """A statement's text in English words."""

    text: str
    tongue: str  # the language it was printed in
    printed: Mapping[str, str]  # English words, in small letters -> what was printed for them
    others: tuple[str, ...] = ()  # the same list in other languages, and what is no language known here
    beside: Mapping[str, str] = field(default_factory=dict)  # sentences that are no list, in English words -> as printed


def in_english(text: str, knows: Callable[[str], bool]) -> Told:
    """A statement in English words, whatever of six languages it was printed in; of several lists the one that reads best.

    Args:
        text: Cleaned, with its line ends.
        knows: Whether an English name is one of the trade.
    """
    if not any(sign.isalpha() for sign in text):
        return Told(text, ENGLISH, {})
    parts = _parts(text)
    runs = _runs(text, knows) if len(parts) == 1 else []
    if runs:
        ours = [run for tongue, run in runs if tongue == ENGLISH]
        return Told(" ".join(ours), ENGLISH, {}, tuple(run for tongue, run in runs if tongue != ENGLISH))
    heard = [(_heard(part, knows), part) for part in parts]
    if all(tongue == ENGLISH for (tongue, _), _ in heard):
        return Told(text, ENGLISH, {})
    english = next((part for (tongue, words), part in heard if tongue == ENGLISH and words >= _LEAST_HEARD), None)
    if english is not None:  # beside other languages; the English list is found where it begins
        return Told(text, ENGLISH, {})
    (tongue, _), best = max(heard, key=lambda one: _names_heard(one[1], one[0][0]))
    others = tuple(part.strip() for part in parts if part is not best and part.strip())
    turned, printed = _turned(best, tongue)
    return Told(turned, tongue, printed, others, _beside_list(best, tongue))


def in_words_of_ours(sentence: str) -> str:
    """A sentence of a pack in small English letters, its known words turned over whatever language it is in.

    Args:
        sentence: As printed; may be empty.
    """
    tongue, _ = _heard(sentence, lambda word: word in _english_words())
    return (sentence if tongue == ENGLISH else _turned(sentence, tongue)[0]).lower()


def tongue_heard(text: str, knows: Callable[[str], bool]) -> str:
    """The language of a text; English where nothing else is heard better.

    Args:
        text: Any; may be empty.
        knows: Whether an English name is one of the trade.
    """
    return _heard(text, knows)[0]


def turned_over(text: str, tongue: str) -> str:
    """A text's known words in English, turns of phrase left alone.

    Args:
        text: Without a list's heading.
        tongue: One of `TONGUES`.
    """
    return _words_turned(text, tongue)[0]


def _beside_list(text: str, tongue: str) -> dict[str, str]:
    """The sentences that are no list, by what they are in English words."""
    lead = _LEAD.search(text)
    begins = f"{text[: lead.start()]}\n{text[lead.end() :]}" if lead else text
    said = [one.strip() for one in _BETWEEN_SENTENCES.split(begins)]
    short = [one for one in said if one and len(one) <= _LONGEST_BESIDE and one.count(",") < _LEAST_COMMAS]
    return {_turned(one, tongue)[0].strip(_AROUND): one.strip(_AROUND) for one in short}


def _parts(text: str) -> list[str]:
    """A text at the words that begin a list of ingredients; what stands before the first goes with it."""
    begins = [found.start() for found in _LEAD.finditer(text)]
    if len(begins) < 2:
        return [text]
    ends = [*begins[1:], len(text)]
    return [text[0 if at == 0 else begin : end] for at, (begin, end) in enumerate(zip(begins, ends, strict=True))]


def _runs(text: str, knows: Callable[[str], bool]) -> list[tuple[str, str]]:
    """The same list in English and in another language with no word between that begins it; nothing where it is not so.

    Each run with its language; what is no list goes with the run before it. Worked example: "Sugar, cocoa butter, salt. May
    contain nuts. Sucre, beurre de cacao, sel. Peut contenir des noix." is a run of two sentences in each.
    """
    runs: list[tuple[str, list[str]]] = []
    for sentence in _SENTENCE_ENDS.split(text):
        tongue, words = _heard(sentence, knows)
        is_list = sentence.count(",") >= _LEAST_COMMAS and words >= _LEAST_OF_RUN
        if not runs or (is_list and tongue != runs[-1][0]):
            runs.append((tongue, []))
        runs[-1][1].append(sentence)
    if len({tongue for tongue, _ in runs}) != 2 or ENGLISH not in {tongue for tongue, _ in runs}:
        return []
    first_is_list = runs[0][1][0].count(",") >= _LEAST_COMMAS
    return [(tongue, " ".join(said)) for tongue, said in runs] if first_is_list else []


def _heard(text: str, knows: Callable[[str], bool]) -> tuple[str, int]:
    """The language of a text, and how many of its words speak for it; English where nothing else is heard better."""
    words = [folded(word) for word in re.findall(r"[^\W\d_]+(?:-[^\W\d_]+)*", _apart(text[:_MOST_HEARD]))]
    ours = sum(word in _english_words() or knows(word) for word in words)
    if ours >= _MOSTLY * len(words):
        return ENGLISH, ours
    counts = {tongue: sum(word in single_words(tongue) for word in words) for tongue in TONGUES}
    if max(counts.values()) < len(words) / 2:  # compounds that no table holds whole
        for tongue in ("German", "Dutch"):
            counts[tongue] = sum(word in single_words(tongue) or _taken_apart(word, tongue) is not None for word in words)
    best = max(counts, key=lambda tongue: counts[tongue])
    lead = _LEAD.search(text)
    if lead and not re.search(r"ingredients?\b", lead[0], re.I):
        counts[best] += 1
    return (best, counts[best]) if counts[best] >= _LEAST_HEARD and counts[best] > ours else (ENGLISH, ours)


def _names_heard(text: str, tongue: str) -> int:
    """How many names of a list hold a word that is known in its language."""
    if tongue == ENGLISH:
        return 0
    names = (re.findall(r"[^\W\d_]+", folded(_apart(name))) for name in re.split(r"[,;:()\[\]]", text))
    return sum(any(word in single_words(tongue) for word in name) for name in names)


@cache
def _english_words() -> frozenset[str]:
    return frozenset(word for row in rows("tongues.csv") for word in folded(row["english"]).split())


@lru_cache(maxsize=8192)
def folded(word: str) -> str:
    """A word as it is looked up: small letters without accents."""
    low = word.lower().replace("ß", "ss").replace("œ", "oe").replace("æ", "ae")
    return "".join(sign for sign in unicodedata.normalize("NFD", low) if not unicodedata.combining(sign))


def _apart(text: str) -> str:
    """Elided articles as words of their own: "d'amandes" is "d' amandes"."""
    return _ELIDED.sub(r"\1' ", text)


@cache
def phrases(tongue: str) -> Mapping[tuple[str, ...], str]:
    """Phrases of a language, as folded words, and what they are in English.

    Source: data/tongues.csv.
    """
    found: dict[tuple[str, ...], str] = {}
    for row in rows("tongues.csv"):
        for phrase in row[tongue.lower()].split("|"):
            words = tuple(re.findall(r"[^\W\d_]+(?:-[^\W\d_]+)*", folded(_apart(phrase))))
            if words:
                found.setdefault(words, row["english"])
    return found


@cache
def _longest_phrase(tongue: str) -> int:
    """How many words the longest phrase of a language has."""
    return max(len(words) for words in phrases(tongue))


@cache
def _beginnings(tongue: str) -> frozenset[tuple[str, ...]]:
    """What phrases of a language may go on from."""
    return frozenset(words[:count] for words in phrases(tongue) for count in range(1, len(words)))


@cache
def single_words(tongue: str) -> frozenset[str]:
    """Words that alone or within a phrase speak for a language."""
    return frozenset(word for phrase in phrases(tongue) for word in phrase)


@lru_cache(maxsize=4096)
def _taken_apart(word: str, tongue: str) -> str | None:
    """A compound word by its parts: "pistazienmark" is "pistachios paste"; None where it is none."""
    if tongue not in {"German", "Dutch"} or not 2 * _LEAST_PART <= len(word) <= _MOST_APART:
        return None
    known = phrases(tongue)
    for at in range(len(word) - _LEAST_PART, _LEAST_PART - 1, -1):
        head, tail = word[:at].rstrip("-"), word[at:].lstrip("-")
        end = known.get((tail,))
        if end is None:
            continue
        for stem in _stems(head):
            begin = known.get((stem,)) or (_taken_apart(stem, tongue) if len(stem) >= 2 * _LEAST_PART else None)
            if begin is not None:
                return f"{begin} {end}"
    return None


def _inflected(word: str, tongue: str) -> str | None:
    """A word in another case or number than the table's: "erdnüssen"."""
    if len(word) < 2 * _LEAST_PART:
        return None
    forms = (
        *(word[: -len(end)] for end in ("n", "s", "e", "en", "es", "er") if word.endswith(end)),
        f"{word}s",
        f"{word}e",
        f"{word}n",
    )
    return next((found for form in forms if (found := phrases(tongue).get((form,))) is not None), None)


def _stems(word: str) -> Sequence[str]:
    """A compound's first half as a word of its own: without its joint, or with an ending."""
    cut = [
        word[: -len(joint)]
        for joint in ("en", "n", "s", "es", "e")
        if word.endswith(joint) and len(word) - len(joint) >= _LEAST_PART
    ]
    return (word, *cut, *(f"{word}{ending}" for ending in ("e", "n", "en", "er", "s")))


def _turned(text: str, tongue: str) -> tuple[str, dict[str, str]]:
    """A text in English words, and what was printed for each run of them."""
    lead = _LEAD.search(text)
    if lead:
        before = text[: lead.start()].strip()
        text = f"{before}\n" * bool(before) + "Ingredients: " + text[lead.end() :]
    text = _FLOUR_TYPE.sub("", text)
    for pattern, english in _TURNS[tongue]:
        text = re.sub(pattern, english, text, flags=re.I)
    return _words_turned(text, tongue)


def _words_turned(text: str, tongue: str) -> tuple[str, dict[str, str]]:
    """Its known words turned over one by one, the longest phrase first, and what was printed for each."""
    tokens = _TOKEN.findall(_apart(text))
    known, out, at = phrases(tongue), [], 0
    printed: dict[str, str] = {}
    while at < len(tokens):
        taken, english = _longest(tokens, at, known, tongue) if tokens[at][0].isalpha() else (0, "")
        if taken == 0:
            out.append(tokens[at])
            at += 1
            continue
        shown = "".join(tokens[at : at + taken])
        english = english.upper() if shown.isupper() and len(shown) > 1 else english
        printed.setdefault(english.lower(), shown)
        out.append(english)
        at += taken
    turned = re.sub(r"\b(of|with) (?:of|with) ", r"\1 ", re.sub(r" {2,}", " ", "".join(out)))
    turned = _OF_CHOCOLATE.sub("", turned)
    return re.sub(r"(?<=\w)' ", "' ", turned), printed


def _longest(tokens: Sequence[str], at: int, known: Mapping[tuple[str, ...], str], tongue: str) -> tuple[int, str]:
    """How many tokens from here make the longest known phrase, and what it is in English; 0 where none begins."""
    words: list[str] = []
    best, english = 0, ""
    goes_on = _beginnings(tongue)
    for count, token in enumerate(tokens[at : at + 2 * _longest_phrase(tongue) + 2], 1):
        if token in {" ", "-", "'", "’"}:
            continue
        if not token[0].isalpha():
            break
        words.append(folded(token))
        found = known.get(tuple(words))
        if found is None and len(words) == 1:
            found = _inflected(words[0], tongue) or _taken_apart(words[0], tongue)
        if found is not None:
            best, english = count, found
        if tuple(words) not in goes_on:
            break
    if best and at + best < len(tokens) and tokens[at + best] in {"'", "’"}:
        best += 1  # an article's apostrophe goes with it
    return best, english
