"""A whole nutrition panel pasted as text, in six languages: its rows, both columns, its serving and servings, and what else of
the pack was copied with it: the net weight, and the sentence that says what it is.

Rows are found by their words, in any order and on any line; after each, figures with units are taken in turn, percentages of
daily values are passed over. Worked example: "Energy 2288kJ/549kcal Fat 33g of which saturates 18g" fills four rows.
"""

import itertools
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

from fern_match.core.label.rows import Basis, Region, RowId, panel_rows
from fern_match.core.measures.pasted import tamed

_WORDS: tuple[tuple[RowId | None, str], ...] = (  # the longer words first; None is passed over
    (
        None,
        r"calories from fat|cal\.? from fat|fat cal(?:ories)?\.?|energy from fat|mono-? ?unsaturated(?: fat)?"
        r"|poly-? ?unsaturated(?: fat)?|monounsaturates"
        r"|polyunsaturates|starch|vitamin \w+|% daily value|daily value|%dv|reference intake|gluten"
        r"|(?:davon )?(?:einfach|mehrfach) ungesättigte fettsäuren|(?:acides gras )?(?:mono|poly)-?insaturés"
        r"|(?:acidi grassi )?(?:mono|poli)insaturi|(?:ácidos grasos )?(?:mono|poli)insaturad[ao]s"
        r"|(?:enkelvoudig|meervoudig) onverzadigde? (?:vetten|vetzuren)|stärke|amidon|amido|almidón|zetmeel",
    ),
    (RowId.ADDED_SUGARS, r"(?:includes|incl\.?)\s*(?=[<\d][^\n]{0,12}added sugars)|added sugars?"),
    (
        RowId.SATURATES,
        r"(?:of which )?(?:saturated fat|saturated fatty acids|saturates|sat\.? fat|saturated)|- ?saturated"
        r"|(?:davon )?(?:gesättigte|gesätt\.|ges\.) ?fetts(?:äuren|\.)|(?:dont )?(?:ags|a\.?g\.? saturés)"
        r"|(?:dont )?ac(?:ides|\.) gras sat\."
        r"|(?:dont )?(?:acides gras )?saturés|(?:di cui )?(?:(?:acidi|ac\.) grassi )?saturi|(?:de l[ao]s cuales )sat\."
        r"|(?:de l[ao]s cuales )?(?:ácidos grasos )?saturad[ao]s|(?:waarvan )?verzadigde?(?: (?:vetzuren|vetten|vet))?",
    ),
    (RowId.TRANS_FAT, r"trans fat|trans"),
    (
        RowId.FAT,
        r"total fat|fat,? total|fat|lipids?|fett|matières grasses|graisses|lipides|grassi|grasas|vetten|vet",
    ),
    (RowId.CHOLESTEROL, r"cholest(?:erol)?\.?"),
    (RowId.SODIUM, r"sodium|natrium|sodio"),
    (
        RowId.FIBRE,
        r"dietary fib(?:re|er)|fib(?:re|er)s?|ballaststoffe|fibres alimentaires|fibre alimentari|fibra alimentaria|fibra"
        r"|voedingsvezels?|vezels",
    ),
    (
        RowId.POLYOLS,
        r"(?:of which )?polyols?|sugar alcohols?|erythritol|maltitol|(?:davon )?mehrwertige alkohole|(?:di cui )?polioli"
        r"|polialcoholes|polioles|polyolen",
    ),
    (RowId.ALLULOSE, r"allulose"),
    (
        RowId.SUGARS,
        r"total sugars?|(?:of which )?sugars?|- ?sugars|(?:davon )?zucker|(?:dont )?sucres|(?:di cui )?zuccheri"
        r"|(?:de l[ao]s cuales )?azúcares|(?:waarvan )?suikers",
    ),
    (
        RowId.CARBOHYDRATE,
        r"total carb(?:ohydrate)?s?\.?|carbohydrates?(?:,? total)?|carbs?|kohlenhydrate|glucides|carboidrati"
        r"|hidratos de carbono|carbohidratos|koolhydraten",
    ),
    (RowId.PROTEIN, r"proteins?|eiwei(?:ß|ss)|protéines|proteine|proteínas|eiwitten|eiwit"),
    (RowId.SALT, r"salt|salz|sel|sale|sal|zout"),
    (RowId.CALCIUM, r"calcium|calcio|kalzium"),
    (RowId.IRON, r"iron|eisen|fer|ferro|hierro|ijzer"),
    (RowId.POTASSIUM, r"potassium|potas\.?|kalium"),
    (
        RowId.ENERGY_KCAL,
        r"calories|energy(?: value)?|energie|brennwert|énergie|valeur énergétique|energia|valore energetico"
        r"|valor energético|energía|energetische waarde",
    ),
)
# Words may stand against figures where a page was copied without its spaces: "Calories210", "10gSodium".
_BEFORE, _AFTER = r"(?:(?<![^\W\d_])|(?<=\dg)|(?<=\dmg)|(?<=\dkcal)|(?<=\dkJ))", r"(?![^\W\d_])"
_ANY_ROW = "|".join(f"(?P<w{at}>{words})" for at, (_, words) in enumerate(_WORDS))
_ROW = re.compile(f"{_BEFORE}(?:{_ANY_ROW}){_AFTER}", re.I)
_FIGURE = re.compile(
    r"(?P<less><|less than|under)?\s*(?P<number>\d(?:[\d.,]*\d)?)\s*(?P<unit>kj|kcal|cal\b|mg|mcg|µg|g)?(?P<share>\s*%)?", re.I
)
_UNIT_OR_NUMBER = re.compile(r"(?P<unit>\b(?:kj|kcal|cal)\b)|(?P<number>\d(?:[\d.,]*\d)?)(?P<share>\s*%)?", re.I)
_THOUSANDS = re.compile(r"(?<![\d.,])([1-9])[ \u202f'’.,](\d{3})(?![\d.,]*\d)")  # of an energy: 2 110 kJ, 2.110 kJ, 2'110 kJ
_HEAD_100 = re.compile(r"(?:per|pro|pour|por|/)?\s*100\s*(?:g|ml)\b", re.I)
_HEAD_SERVING = re.compile(
    r"\b(?:per|each|amount per|qty\.? per|pro|je|par|por)\s*(?:\d[\d.,]*\s*g?\s*)?"
    r"(?:serv(?:ing|e)|portion|bar|piece|pack|biscuit|cup|riegel|stück|barre|pièce|porzione|pezzo|barretta|porción|barrita|unidad"
    r"|portie|reep|stuk)",
    re.I,
)
_SERVING = re.compile(
    r"(?:serving size|serv\.? size|serve size|portion size|serving(?!s)|portion(?!s)|per bar\b|per piece\b)\s*:?\s*"
    r"(?P<told>[^\n]{0,40}?\d[\d.,]*\s*g\)?)"
    r"|(?:per|each)\s*(?P<before>\d[\d.,]*\s*g)\s*(?:bar|portion|serving|piece|biscuit|cup|pack)"
    r"|(?:pro|je|par|pour|per|por)\s*(?:\d{1,2}\s*)?(?:riegel|stück|portion|barres?|pièces?|porzione|pezz[oi]|barrett[ae]|porción|barritas?"
    r"|unidad(?:es)?|portie|reep|stuks?|bars?|pieces?|squares?|cups?|package|pack)\s*\(?\s*(?P<within>\d[\d.,]*\s*g)",
    re.I,
)
_SERVINGS = re.compile(
    r"(?P<told>(?:about\s*)?\d[\d.,]*)\s*(?:servings?|serves|portions)\s*(?:per|in)|servings? per (?:container|package"
    r"|pack)\s*:?\s*(?P<after>(?:about\s*)?\d[\d.,]*)",
    re.I,
)
_NET = re.compile(
    r"(?:net\s*(?:wt|weight|contents?)?\.?|nettogewicht|netto|füllmenge|poids net|peso netto|peso neto|netto ?inhoud)\s*[:.]?\s*"
    r"((?:\d[\d.,]*\s*x\s*)?\d[\d.,]*\s*(?:g|kg|oz|ounces?)\b\.?(?:\s*\(\s*\d[\d.,]*\s*(?:g|kg|oz)\s*\))?)",
    re.I,
)
_LONGEST_SENTENCE = 16  # words
_NO_SENTENCE = re.compile(
    r"\d|nutrition|typical|average|values?\b|amount|serving|portion|nährwert|durchschnitt|valeurs?|valori|valores|voedings"
    r"|ingred|zutaten|information|informa|déclaration|dichiarazione|net w",
    re.I,
)
_INCLUDES = re.compile(r"(?:includes|incl\.?)\s*((?:<|less than)?\s*\d[\d.,]*\s*g)\s*added sugars", re.I)
_KJ = frozenset({"kj"})
_LONGEST, _LEAST_COLUMN = 20_000, 3  # signs that are read; rows with two figures that make a second column


@dataclass(slots=True)
class Panel:
    """What a pasted panel says, as it would be typed."""

    rows: dict[RowId, str] = field(default_factory=dict)
    other_rows: dict[RowId, str] = field(default_factory=dict)  # of the column on the other basis
    basis: Basis = Basis.PER_100_G
    serving: str = ""
    servings: str = ""
    net_weight: str = ""  # where it was copied, too
    sentence: str = ""  # what the pack says it is, where that was copied


def read_panel(text: str, region: Region) -> Panel:
    """The rows of a panel pasted as text.

    Args:
        text: As copied from a pack or a page; may be anything.
        region: Whose rows they are.
    """
    text = _INCLUDES.sub(r"Added sugars \1", tamed(text.replace("\u00a0", " "), _LONGEST))
    known = {spec.id for spec in panel_rows(region)}
    columns: tuple[dict[RowId, str], dict[RowId, str]] = ({}, {})
    spots = list(_ROW.finditer(text))
    hundred = _hundred_after(text, spots)
    on_the_front = hundred is not None
    for spot, after in itertools.zip_longest(spots, spots[1:]):
        row = _WORDS[int(str(spot.lastgroup)[1:])][0]
        if row is None:
            continue
        between = text[spot.end() : after.start() if after else spot.end() + 80]
        after_hundred = hundred is not None and spot.start() > hundred
        _take(row, between, known, (columns[1], {}) if after_hundred else columns)
    two = len(columns[1]) >= _LEAST_COLUMN
    panel = Panel(basis=Basis.SERVING if _serving_first(text, region, two=two or on_the_front) else Basis.PER_100_G)
    panel.rows, panel.other_rows = columns[0], columns[1] if two or on_the_front else {}
    if serving := _SERVING.search(text):
        told = (serving["told"] or serving["before"] or serving["within"]).strip(" :")
        panel.serving = told.strip("()") if told.startswith("(") else told
    if servings := _SERVINGS.search(text):
        panel.servings = (servings["told"] or servings["after"]).strip()
    if net := _NET.search(text):
        panel.net_weight = net[1].strip()
    panel.sentence = _sentence(text[: spots[0].start()] if spots else "")
    return panel


def _sentence(before: str) -> str:
    """The first line before any row that says what it is: a few words without a figure."""
    lines = before.splitlines()
    said = (line.strip(" .:-") for line in lines)
    return next((line for line in said if 2 < len(line.split()) <= _LONGEST_SENTENCE and not _NO_SENTENCE.search(line)), "")


def _take(row: RowId, between: str, known: set[RowId], columns: tuple[dict[RowId, str], dict[RowId, str]]) -> None:
    """Files the figures after a row's words: one for each column; energy by its unit, printed after the figure or before it."""
    at = {RowId.ENERGY_KJ: 0, RowId.ENERGY_KCAL: 0, row: 0}
    figures = _energies(between) if row is RowId.ENERGY_KCAL else _figures(between)
    for less, number, unit in figures:
        target = RowId.ENERGY_KJ if row is RowId.ENERGY_KCAL and unit in _KJ else row
        column = at[target]
        at[target] += 1
        if column > 1 or target not in known or target in columns[column]:
            continue
        columns[column][target] = less + number + _unit(unit, target)


def _figures(between: str) -> Iterator[tuple[str, str, str]]:
    """Figures in turn: "<" or nothing, the number, its unit in small letters."""
    for figure in _FIGURE.finditer(between):
        if not figure["share"]:
            yield "<" if figure["less"] else "", figure["number"], (figure["unit"] or "").lower()


def _energies(between: str) -> Iterator[tuple[str, str, str]]:
    """The same of energies: "2 110 kJ / 505 kcal", and "(kJ/kcal) 2110/505", where units stand before their figures in turn."""
    between = _THOUSANDS.sub(r"\1\2", between)
    tokens = [one for one in _UNIT_OR_NUMBER.finditer(between) if not one["share"]]
    if not tokens or not tokens[0]["unit"] or tokens[-1]["unit"]:
        yield from _figures(between)
        return
    units: list[str] = []
    turn = 0
    for before, token in itertools.pairwise([None, *tokens]):
        if token is None:
            continue
        if token["unit"]:
            units = [*units, token["unit"]] if before is not None and before["unit"] else [token["unit"]]
            turn = 0
            continue
        yield "", token["number"], units[turn % len(units)].lower()
        turn += 1


def _unit(unit: str, row: RowId) -> str:
    """The unit where it is not the row's own by custom: sodium printed in grams."""
    milligrams = row in {RowId.SODIUM, RowId.CHOLESTEROL, RowId.CALCIUM, RowId.IRON, RowId.POTASSIUM}
    return f" {unit}" if unit in {"g", "mg"} and (unit == "mg") != milligrams else ""


def _hundred_after(text: str, rows: Sequence[re.Match[str]]) -> int | None:
    """Where "per 100 g" follows on "each 25 g bar contains" with its rows, as on the front of a pack; None where it is not so."""
    hundred, serving = _HEAD_100.search(text), _HEAD_SERVING.search(text)
    if hundred is None or serving is None:
        return None
    between = sum(serving.start() < row.start() < hundred.start() for row in rows)
    return hundred.start() if between >= _LEAST_COLUMN else None


def _serving_first(text: str, region: Region, *, two: bool) -> bool:
    hundred, serving = _HEAD_100.search(text), _HEAD_SERVING.search(text)
    if hundred and serving and two:
        return serving.start() < hundred.start()
    if hundred:
        return False
    return bool(serving) or region.usual_basis is Basis.SERVING
