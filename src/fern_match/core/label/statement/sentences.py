"""A statement's sentences told apart: the list itself, allergen lists, minima, and advice that is kept as text."""

import itertools
import re
from collections.abc import Callable
from dataclasses import dataclass, field

from fern_match.core.food.allergen_names import allergens_named
from fern_match.core.label.statement.tree import Minimum
from fern_match.core.label.statement.words import CLAIM, class_of, small_limit

_FOREIGN = (
    r"zutaten|ingr[ée]dients?|ingredientes|ingredienti|ingredi[ëe]nten|ingredienser|ainesosat|sk[łl]adniki|slo[žz]en[íi]"
    r"|[öo]sszetev[őo]k"
)
_LEAD = re.compile(
    r"(?:^|(?<=[.\n:!]))\s*(?:\w+ ?/ ?)*(?:(?:it )?contains (?:only )?the following )?"
    r"(?:ingredients?|made with|made from)(?: ?/ ?\w+)*\s*(?:list)?"
    r"(?:\s*\([^()]{1,60}\))?\s*(?::|(?=\n))\s*",
    re.I,
)
_BARE_LEAD = re.compile(r"^\s*ingredients?\b\s*[.\-–]?\s*(?=\w|\*)", re.I)
_COUNTRIES = r"(?-i:\(?[A-Z]{2,3}\)?(?:[/, -]{1,2}[A-Z]{2,3}){0,4})\s*[:.\-–]?"  # before a list of theirs: "BE/NL:"
_OTHER_TONGUE = re.compile(rf"(?:^|(?<=[.\n;!/|]))\s*(?:{_COUNTRIES}\s*)?(?:{_FOREIGN})\s*:\s*", re.I)
_STOP = re.compile(
    r"(?<!\bmin)(?<!\bmax)(?<!\bincl)(?<!\bapprox)(?<!\bno)(?<!\bca)(?<!\be\.g)(?<!\bi\.e)(?:\.+|!)(?=\s+[^\s,;)\]}.]|\s*$)", re.I
)

_TRACES = (
    r"may (?:also )?(?:contain|be present)|can contain|traces of|produced (?:in|on)|manufactured (?:in|on)|made (?:in"
    r"|on) (?:a|an|the|equipment"
    r"|shared|lines?|machinery)|processed (?:in|on)|packed (?:in|on)|packaged (?:in|on)|prepared (?:in|on)"
    r"|this (?:facility|product is made in)"
)
_ALLERGY = r"(?:allerg(?:ens|en|y|ies)\s*(?:advice|information|info|warning|statement)?|food allergy)\s*[:\-–.]?\s*"
_CLOSING = re.compile(
    rf"(?:{_ALLERGY}|for allergens|(?:contains?|contient)\b(?!\s+(?:less|\d|<|one or more|two percent))|{_TRACES}"
    r"|made (?:in|on) (?:a|shared)|store\b"
    r"|keep\b|suitable\b|not suitable|best before|use by|excess|with sweeteners?\b|distributed|warning"
    r"|gluten[- ]free(?=\s*(?:[.!;]|$|products?\b|recipe\b))"
    r"|nutrition"
    rf"|net w|refrigerate|do not)",
    re.I,
)
_GLUED = re.compile(  # a closing sentence that no full stop sets apart
    r"(?<=[\w)\]}])[ \n]+(?=(?:(?<!May )(?<!MAY )(?<!may )(?:CONTAINS?:|Contains?:)|CONTAINS (?!LESS|\d"
    r"|<)[A-Z]+\b(?=[,. ]|$)|May [Cc]ontain\b|MAY CONTAIN\b|Allerg(?:y|en) (?:[Aa]dvice|[Ii]nfo)"
    r"|ALLERG(?:Y|EN) (?:ADVICE|INFO)|May be present|MAY BE PRESENT|Excessive consumption|[\w]+ [Cc]hocolate contains\b))"
)
_AFTER_LINE = re.compile(rf"\n(?=(?:{_CLOSING.pattern})|\w[\w -]{{1,40}}:\s)", re.I)
_NOTE = re.compile(
    r"^(?:store|keep|suitable|not suitable|best|use by|use-by|excess|consum|with sweetener|produced|packed|distributed"
    r"|manufactured|warning|gluten|vegan"
    r"|vegetarian|made|nutrition|per |100 ?g|contents|serving|www|http|fair|organic\b.*(?:product|ingredient|agricult"
    r"|certif)|certified|no |non|free from"
    r"|percentage|see |refrigerate|do not|not |all |our |this |these|the |please|for |total |low |high |may |sourced"
    r"|grown|from |rspo|adds|trivial"
    r"|kosher|halal|approx|warm|cool|contains |contain |if |once |product of|ingredients? (?:from|in|marked)|always"
    r"|wrapped|enjoy|source|dispose|recycl"
    r"|small|protect|people|net |diabet|melt|care|heat|allerg|unsuitable|natural(?:ly)? occurring|\d+ ?% of|energy|lot"
    r"|exp|as |after |before |although |whilst |while |every |despite |due |alcohol content|[\d.,]+ ?k?g )"
    r"|^[\w -]{2,20}[- ]free$"
    r"|^[a-z]{2}-(?:öko|bio|eco|org|oeko)-\w{1,6}$",
    re.I,
)
_IN_ADDITION = re.compile(r"in addition to cocoa butter", re.I)
_NUMBER = r"(\d{1,3}(?:[.,]\d{1,2})?)"
_MINIMUM_AFTER = re.compile(
    r"\b(cocoa|cacao|(?:dry )?milk)\b(?: (?:dry )?(?:solids?|content))?(?: in (?:the )?[a-z ]{3,30}?)?"
    r"(?:\s*(?::|=|-|–|of|is|are|min\.?|minimum"
    rf"|at least|content))*\s*{_NUMBER} ?%",
    re.I,
)
_MINIMUM_BEFORE = re.compile(
    rf"{_NUMBER} ?%\s*(?:min(?:imum|\.)?\s*)?(?:of\s+)?(cocoa|cacao|(?:dry )?milk)\b(?: (?:dry )?(?:solids?|content))?", re.I
)
_IS_MINIMUM = re.compile(r"\b(?:min(?:imum)?\b|at least|solids?\b)|\b(?:cocoa|cacao)\s*(?:content)?\s*:", re.I)
_OF_WHAT = re.compile(r"\b((?:\w+[ -]){0,3}?(?:chocolate|couverture|coating))\b", re.I)
_BEFORE_NAME = re.compile(
    r"^(?:.*\b(?:in|of|the|our|der|die|das|dem|le|la|les|du|il|el|nel|nella|de|het) )"
)  # "cocoa in the", before "dark chocolate"
_NO_ALLERGENS = re.compile(
    r"^(?:alcohol|sweeten|caffeine|naturally|natural|no |nothing|phenylal|a source|liquorice|polyols|small parts|\d"
    r"|sugars?\b|less|bits|egg(?:shell))",
    re.I,
)
_OBJECT = re.compile(
    r"^(?:occasional|pieces? of|fragments|pits?|stones?|shells?|bones?|traces? of (?:shell|stone)"
    r"|(?:\w+ )?(?:shells?|stones?|pits?|pips?)(?: fragments| pieces)?$)",
    re.I,
)
_LISTED_AFTER = re.compile(
    r"\b(?:may (?:also )?(?:contain|be present)|can contain|contains?|contient|processes?|handles?|handling|processing"
    r"|used for|uses?|using|packs|packing|with|(?<!gluten )(?<!gluten-)containing"
    r"|traces of|manufactures?|produces?)\b\s*[:\-]?\s*(?:the following\s*:?)?\s*",
    re.I,
)
_AGAIN = re.compile(rf"(?:(?:also|other|products?|foods?|ingredients?|items|the following)\s+)*{_LISTED_AFTER.pattern}", re.I)
_LIST_NOISE = re.compile(
    r"\b(?:traces?(?: amounts?)? of|small (?:amounts|quantities) of|also|ingredients?|products?|derivatives?"
    r"|residues? of|possible)\b|^\s*(?:and|or|&|the|of)\s+|/\s*[^,]+",
    re.I,
)
_SLASHED = re.compile(r"([^\W\d_]+(?: [^\W\d_]+)?)\s*/\s*([^\W\d_]+)")
_UNSUITABLE = re.compile(
    r"\b(?:not suitable|unsuitable) for\b(?:[^.;]{0,80}?\b(?:allerg\w+|intoleran\w+) (?:to|of) (?P<after>[^.;]+)"
    r"|\s+(?:(?:people|those|persons?|customers|anyone) with (?:an? )?)?(?P<before>[^.;]{1,120}?)[ -](?:allerg|intoleran)\w+)",
    re.I,
)
_LIST_ENDS = re.compile(
    r":|\s[-–]\s|\b(?:not suitable|unsuitable|due to|because|(?:may|can) be present"
    r"|(?:and )?(?:was|were|is|are) (?:made|produced|packed))\b"
)
_NUTS = re.compile(r"\bnuts?\b", re.I)  # together, under no allergen's own name
_WHERE = re.compile(
    r"\bwhere ([^.;]{1,200}?) (?:may|can|is|are) (?:also )?(?:be )?(?:also )?(?:present|handled|used|processed|packed|stored)\b",
    re.I,
)
_BETWEEN = re.compile(r"[,;()\[\]]|\s(?:and/or|and|or|&|\+|as well as)\s", re.I)
_HEAD = re.compile(r"^((?:[^\W\d]|[ '&/-]){2,40}?(?:\([^\d()]{2,30}\))?)(?:\s*\(?(\d{1,2}(?:[.,]\d+)?) ?%\)?)?\s*:\s*(.+)$", re.S)
# "Caramel filling - glucose syrup, sugar, ...": a dash for the colon, before a list.
_DASH_HEAD = re.compile(r"^((?:[^\W\d]|[ '&]){3,40}(?: ?\(?\d{1,2}(?:[.,]\d+)? ?%\)?)?) [-–] (?=[^-–]*,[^-–]*,)")
# A further heading after a semicolon, with a colon or with a share before its bracket: "; caramel:", "; jam 35 % (".
_NEXT_HEAD = re.compile(
    r";\s*([\w' -]{3,40}?)\s*(?:(?:\(?\d{1,2}(?:[.,]\d)? ?%\)?)?\s*:\s|\(?\d{1,2}(?:[.,]\d)? ?%\)?\s*[(\[](?=[^()%]*,))"
)
_MARKS = "*†‡§¹²³°"
_ADVISES = re.compile(
    r"\b(?:consumption|shown in|in bold|capitals|allerg\w+|store|suitable|laxative|methods?|recommended|contact)\b", re.I
)
_VERB = re.compile(r"\b(?:is|are|was|were|come|comes|came|has|have|had|gives?|goes|we|our|you|your)\b", re.I)
_TRACES_AT = re.compile(_TRACES, re.I)
_CONTAINS = re.compile(rf"(?:{_ALLERGY})?(?:this product )?(?:contains?|contient)\b(?:\s*/\s*\w+)?\s*[:\-]?\s*", re.I)
_ADVICE = re.compile(rf"(?:{_ALLERGY}|for allergens)(?:contains?:?\s*)?", re.I)
_LEAST_LINES, _MOST_LINES, _MOST_HEAD_WORDS = 4, 60, 4  # of a statement under headings on lines of their own
_AFTER_LIST = re.compile(rf"\.\s+(?={_CLOSING.pattern})|(?<=[\w)])\s+(?=(?:may contain|contains:|allerg)\b)", re.I)
_LEAD_HEAD = re.compile(r"^((?:[^\W\d]|[ '&/-]){2,80}?)\s*:\s*(.+)$", re.S)
_LEAST_NAMES, _MOST_LEAD_WORDS = 4, 12  # of the list that a lead stands before, and of the lead
_LEAST_SAID, _LONG_NAME = 3, 4  # words of a sentence that says what a pack is, and of a long name
_MADE_UP = re.compile(r"\b(?:with|in|on|topped|covered|coated|filled|bars?)\b", re.I)  # of a few words, what makes them no name
_FAR_IN = 60  # signs into a sentence from where "may contain" belongs to a name
_LONGEST_MINIMUM, _LONGEST_LIST = 160, 120


@dataclass(slots=True)
class Sentences:
    """The parts of a pasted statement."""

    lists: list[str] = field(default_factory=list)  # the list, in pieces that follow each other
    contains: list[str] = field(default_factory=list)
    may_contain: list[str] = field(default_factory=list)
    minima: list[Minimum] = field(default_factory=list)
    says: str = ""  # what the pack says it is, before its list
    notes: list[str] = field(default_factory=list)
    unread: list[str] = field(default_factory=list)
    second_first: bool = False  # of "sucre / sugar", the second is ours


def told_apart(text: str, knows: Callable[[str], bool]) -> Sentences:
    """The sentences of a cleaned statement by what they are.

    Args:
        text: As `cleaned` returns it.
        knows: Whether a name is one of the trade.
    """
    found = Sentences()
    before, body = _led(_with_brackets(text, knows), found)
    _noted(before, found, knows)
    other = _OTHER_TONGUE.search(body)
    if other and other.start() > 0:
        foreign, *after = _split(body[other.start() :])
        found.notes += [foreign, *(one for one in after if not _CLOSING.match(one))]
        body = ". ".join([body[: other.start()].rstrip(" ./|"), *(one for one in after if _CLOSING.match(one))])
    depth = 0
    plainly: list[str] = []  # the list as printed, without brackets for a heading
    sentences = _split(body)
    if len(sentences) > 1 and _describes(sentences[0], knows) and _begins_list(sentences[1], knows):
        found.notes.append(sentences.pop(0))
        found.says = found.says or found.notes[-1]
    for number, sentence in enumerate(sentences):
        inside = depth > 0
        kind_found = number > 0 and _closing(sentence, found, knows, strict=inside)
        if number == 0:
            kind_found = bool(_CLOSING.match(sentence)) and _closing(sentence, found, knows)
        if kind_found:
            continue
        if number > 0 and not inside and _tells(sentence):
            found.notes.append(sentence)
            continue
        if small_limit(sentence) or inside or number == 0 or _is_list(sentence, knows) or _headed(sentence, knows):
            headed = None if inside else _headed(sentence, knows)
            found.lists.append(headed or sentence)
            plainly.append(sentence)
            depth = max(0, depth + sum((sign in "([{") - (sign in ")]}") for sign in sentence))
        elif _NOTE.match(sentence) or sentence[0] in _MARKS or _ADVISES.search(sentence):
            found.notes.append(sentence)
        else:
            found.unread.append(sentence)
    head, alone = _lead_parted(plainly)
    if alone:
        found.lists = [alone]
        if " " in head or knows(head.lower()):  # "Composition" says nothing of its own
            found.says = found.says or head
            found.notes.insert(0, head)
    return found


def _noted(before: str, found: Sentences, knows: Callable[[str], bool]) -> None:
    """Files what stands before "Ingredients:"; the first sentence that says what the pack is, as that."""
    for sentence in _split(before):
        if re.fullmatch(_COUNTRIES, sentence):
            continue
        if not _closing(sentence, found, knows):
            found.notes.append(sentence)
            found.says = found.says or (sentence if _describes(sentence, knows) else "")


def _describes(sentence: str, knows: Callable[[str], bool]) -> bool:
    """Whether words before a list say what the pack is: "Oat flapjack topped with dark chocolate"."""
    return (
        _LEAST_SAID <= len(sentence.split()) <= _MOST_LEAD_WORDS
        and not re.search(r"[\d,;:%()\[\]{}]", sentence)
        and not _CLOSING.match(sentence)
        and (len(sentence.split()) > _LONG_NAME or bool(_MADE_UP.search(sentence)))
        and (len(sentence.split()) > _LONG_NAME or not knows(sentence.lower()))
    )


def _begins_list(sentence: str, knows: Callable[[str], bool]) -> bool:
    """Whether what follows is the list itself, and neither an allergen list nor the end of one."""
    many = len(re.findall(r"[,;]", sentence)) + 1 >= _LEAST_NAMES
    return many and not _CLOSING.match(sentence) and not small_limit(sentence) and _is_list(sentence, knows)


def _lead_parted(lists: list[str]) -> tuple[str, str]:
    """The head before the one long list there is, and the list: "Composition: sugar, butter ..."; empty where it is a layer's."""
    head = _LEAD_HEAD.match(lists[0]) if len(lists) == 1 else None
    if head is None or class_of(head[1]) or len(head[1].split()) > _MOST_LEAD_WORDS:
        return "", ""
    outside, brackets = re.subn(r"\([^()]*\)", "", re.sub(r"\([^()]*\)(?=[^()]*\))", "", head[2]))
    of_a_piece = len(re.split(r"[,;]", outside)) >= _LEAST_NAMES or brackets > 1
    return (head[1], head[2]) if of_a_piece and not _NEXT_HEAD.search(head[2]) else ("", "")


def _with_brackets(text: str, knows: Callable[[str], bool]) -> str:
    """Headings on lines of their own, each followed by its list, in brackets: "Base / oats, butter" is "Base (oats, butter)"."""
    lines = text.split("\n")
    if len(lines) < _LEAST_LINES or len(lines) > _MOST_LINES:
        return text
    heads = [at for at in range(len(lines) - 1) if _is_heading(lines[at], knows) and "," in lines[at + 1]]
    if len(heads) < 2:
        return text
    told: list[str] = lines[: heads[0]]
    for head, after in itertools.pairwise([*heads, len(lines)]):
        inside = " ".join(lines[head + 1 : after])
        end = _AFTER_LIST.search(inside)
        names, rest = (inside[: end.start()], inside[end.start() :].strip(" .")) if end else (inside, "")
        told.append(f"{lines[head].rstrip(' :')} ({names.strip(' .,;')}){',' if after < len(lines) else '.'} {rest}".rstrip())
    return "\n".join(told)


def _is_heading(line: str, knows: Callable[[str], bool]) -> bool:
    """Whether a line is a component's name alone."""
    bare = line.strip(" :")
    return (
        0 < len(bare.split()) <= _MOST_HEAD_WORDS
        and not re.search(r"[,;.()\[\]]", bare)
        and not re.match(_FOREIGN, bare, re.I)
        and class_of(bare) is None
    )


def contents_in(text: str, of: str) -> tuple[Minimum, ...]:
    """Cocoa and milk solids that words promise ("54 % cocoa solids", "milk solids 18 % minimum").

    Args:
        of: Whose they are, where the words do not say.
    """
    found: dict[str, Minimum] = {}
    for pattern, what, number in ((_MINIMUM_AFTER, 1, 2), (_MINIMUM_BEFORE, 2, 1)):
        for match in pattern.finditer(text):
            kind = "milk" if "milk" in match[what].lower() else "cocoa"
            value = float(match[number].replace(",", "."))
            if kind == "milk" and "solid" not in match[0].lower() and "min" not in text.lower():
                continue
            if value <= 100:
                found.setdefault(kind, Minimum(of=of, what=kind, percent=value))
        if found and len(_MINIMUM_BEFORE.findall(text)) <= len(found) and not _MINIMUM_BEFORE.match(text.strip()):
            break
    return tuple(found.values())


def _led(text: str, found: Sentences) -> tuple[str, str]:
    """What stands before "Ingredients:", and what follows."""
    leads = list(_LEAD.finditer(text))
    if leads:
        lead = leads[0]
        words = re.findall(r"\w+", lead[0].lower())
        found.second_first = len(words) > 1 and not words[0].startswith("ingredient")
        return text[: lead.start()].strip(), text[lead.end() :]
    bare = _BARE_LEAD.match(text) or _OTHER_TONGUE.match(text)
    return ("", text[bare.end() :]) if bare else ("", text)


def _split(text: str) -> list[str]:
    """Sentences, in order; a line that begins like a closing sentence begins one."""
    text = _GLUED.sub(". ", text)
    text = _AFTER_LINE.sub(". ", text)
    outside = re.sub(r"\([^()]*\)", "", text)
    one_a_line = outside.count("\n") >= 2 and outside.count(",") + outside.count(";") < outside.count("\n") / 2
    text = text.replace("\n", ", " if one_a_line else " ")
    text = re.sub(rf"(?<=[\w)\]}}.,;])\s+(?=[{_MARKS}]+\s?[A-Za-z])", ". ", text)
    ends = [0, *(match.end() for match in _STOP.finditer(text)), len(text)]
    pieces = [text[a:b].strip(" ;,") for a, b in itertools.pairwise(ends)]
    return [piece.rstrip(". ") for piece in pieces if piece.strip(" .,;!")]


def _closing(sentence: str, found: Sentences, knows: Callable[[str], bool], *, strict: bool = False) -> bool:
    """Files a sentence that is no part of the list; False where it is one.

    Args:
        strict: Whether a bracket is still open, so that only sentences beyond doubt end it.
    """
    if sentence[0] in _MARKS:
        if not _minimum(sentence.lstrip(f" {_MARKS}"), found):
            found.notes.append(sentence)
        return True
    if small_limit(sentence):
        return False
    for files in (_unsuitable, _traces, _fats_in_addition, _minimum, _contains, _allergy_advice):
        if files(sentence, found):
            return True
    is_note = _NOTE.match(sentence) and ("," not in sentence or not _is_list(sentence, knows))
    if _CLOSING.match(sentence) or (not strict and is_note):
        found.notes.append(sentence)
        return True
    return False


def _unsuitable(sentence: str, found: Sentences) -> bool:
    """ "Not suitable for those with an allergy to ...": as much as what it may contain."""
    told = _UNSUITABLE.search(sentence)
    if told is None or told.start() > _FAR_IN:
        return False
    listed = _names(re.split(r"\b(?:due to|because|as it)\b", told["after"] or told["before"])[0])
    if not any(allergens_named(one) or _NUTS.search(one) for one in listed):
        return False
    before = sentence[: told.start()].rstrip(" .,;:-")
    if before:  # "may contain milk, not suitable for ..."
        _ = _traces(before, found) or _contains(before, found)
    found.may_contain += [one for one in listed if one not in found.may_contain]
    return True


def _traces(sentence: str, found: Sentences) -> bool:
    """ "May contain ...", and what is handled beside it; what stands before in the same sentence is filed, too."""
    at = _TRACES_AT.search(sentence)
    if at is None or at.start() > _FAR_IN or sentence.count("(") > 1:
        return False
    where = _WHERE.search(sentence)
    rest = sentence[at.start() : where.start() if where else None]
    listed = _listed(rest) if _LISTED_AFTER.search(rest) else []
    listed += _names(where[1]) if where else []
    if not listed or _OBJECT.match(listed[0]):
        found.notes.append(sentence)
    else:
        found.may_contain += listed
    before = sentence[: at.start()].rstrip(" .,;:-")
    if before:
        _ = _minimum(before, found) or _contains(before, found)
    return True


def _fats_in_addition(sentence: str, found: Sentences) -> bool:
    """Vegetable fats beside the cocoa butter; minima in the same sentence are kept."""
    if not _IN_ADDITION.search(sentence):
        return False
    _minimum(sentence.partition(";")[0], found)
    found.notes.append(sentence)
    return True


def _minimum(sentence: str, found: Sentences) -> bool:
    """Least contents of a chocolate."""
    if len(sentence) > _LONGEST_MINIMUM or "%" not in sentence or sentence.count("(") > 2 or sentence.count(",") > 4:
        return False
    if not _IS_MINIMUM.search(sentence):
        return False
    minima = [one for clause in _clauses(sentence) for one in contents_in(clause, _whose(clause))]
    found.minima += minima
    return bool(minima)


def _clauses(sentence: str) -> list[str]:
    """A sentence on several chocolates, a clause for each."""
    begins = [match.start(1) for match in _OF_WHAT.finditer(sentence)]
    if len({_whose(sentence[begin:]) for begin in begins}) < 2:
        return [sentence]
    clauses = [sentence[a:b] for a, b in itertools.pairwise([0, *begins[1:], len(sentence)])]
    return clauses if all("%" in clause for clause in clauses) else [sentence]


def _whose(clause: str) -> str:
    """The chocolate that a clause is about; empty where it names none."""
    of = _OF_WHAT.search(clause)
    return _BEFORE_NAME.sub("", of[1].lower()) if of else ""


def _contains(sentence: str, found: Sentences) -> bool:
    """An allergen list; what "contains" something else is a note."""
    contains = _CONTAINS.match(sentence)
    if contains is None:
        return False
    rest = sentence[contains.end() :]
    if _NO_ALLERGENS.match(rest) or not rest:
        found.notes.append(sentence)
    else:
        found.contains += _listed(rest)
    return True


def _allergy_advice(sentence: str, found: Sentences) -> bool:
    """ "Allergens: milk, soy", or advice on how they are marked."""
    opening = _ADVICE.match(sentence)
    if opening is None:
        return False
    rest = sentence[opening.end() :]
    if "," in rest and len(rest) < _LONGEST_LIST and not re.search(r"\b(?:see|for|in (?:bold|capitals))\b", rest, re.I):
        found.contains += _listed(rest)
    else:
        found.notes.append(sentence)
    return True


def _listed(text: str) -> list[str]:
    """The names of an allergen list, in small letters."""
    match = _LISTED_AFTER.search(text)
    rest = text[match.end() :] if match and match.start() < 90 else text
    while again := _AGAIN.match(rest):
        rest = rest[again.end() :]
    rest = _LIST_ENDS.split(rest)[0]
    return _names(rest)


def _names(text: str) -> list[str]:
    """The names between commas and "and", each once; of "milk/lait" the first, of "peanuts/sesame" both."""
    names: list[str] = []
    for part in _BETWEEN.split(_SLASHED.sub(_both, text.lower())):
        name = _LIST_NOISE.sub(" ", part)
        name = re.sub(r"\s+", " ", name.strip(f" .:-–{_MARKS}"))
        name = re.sub(r"^(?:and|or|other allergens?:?)\s+", "", name)
        if name and name not in names:
            names.append(name)
    return names


def _both(slashed: re.Match[str]) -> str:
    """Names with a stroke between as a list, but for those that say an allergen again or none."""
    one, other = slashed[1], slashed[2]
    return f"{one}, {other}" if allergens_named(other) - allergens_named(one) else one


def _tells(sentence: str) -> bool:
    """Whether words are a sentence about foods, no list of them: they hold a verb, and neither a share nor a bracket."""
    return bool(_VERB.search(sentence)) and not re.search(r"[%(\[{]", sentence) and not small_limit(sentence)


def _headed(sentence: str, knows: Callable[[str], bool]) -> str | None:
    """A list under a heading ("Filling: sugar, cream"), with brackets in place of the colon."""
    match = _HEAD.match(_DASH_HEAD.sub(r"\1: ", sentence))
    if not match or class_of(match[1]) or len(match[1].split()) > 5:
        return None
    rest = match[3].strip()
    if not re.search(r"[,;]", rest) or re.match(r"(?:see|for)\b", rest, re.I) or re.match(_ALLERGY, match[1], re.I):
        return None
    if CLAIM.match(match[1].strip()):
        return rest
    head = f"{match[1]} {match[2]}%" if match[2] else match[1]
    heads = [found.start() for found in _NEXT_HEAD.finditer(rest) if not class_of(found[1])]
    parts = [rest[begin:end].strip("; ") for begin, end in itertools.pairwise([0, *heads, len(rest)])]
    after = ""
    if heads:  # where semicolons part the headed lists, what follows the last one is none of its names
        last, semicolon, after = parts[-1].partition("; ")
        parts[-1], after = (
            (last, f", {after}") if semicolon and not class_of(last.rpartition(":")[0].rpartition(",")[2]) else (parts[-1], "")
        )
    tail = "".join(f", {_headed(part, knows) or part}" for part in parts[1:])
    return f"{head} ({parts[0]}){tail}{after}"


def _is_list(sentence: str, knows: Callable[[str], bool]) -> bool:
    """Whether words are names of a list that goes on."""
    names = [re.sub(r"\(.*|\d+(?:[.,]\d+)? ?%", "", part).strip(" .") for part in re.split(r"[,;]", sentence)]
    names = [name for name in names if name]
    if not names:
        return False
    known = sum(knows(name) for name in names)
    return known >= 1 and known >= len(names) / 3 and max(len(name.split()) for name in names) <= 8
