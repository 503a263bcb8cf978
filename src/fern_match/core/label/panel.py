"""A whole nutrition panel pasted as text: its rows, both columns, its serving and servings.

Rows are found by their words, in any order and on any line; after each, figures with units are taken in turn, percentages of
daily values are passed over. Worked example: "Energy 2288kJ/549kcal Fat 33g of which saturates 18g" fills four rows.
"""

import itertools
import re
from dataclasses import dataclass, field

from fern_match.core.label.rows import Basis, Region, RowId, panel_rows
from fern_match.core.measures.pasted import tamed

_WORDS: tuple[tuple[RowId | None, str], ...] = (  # the longer words first; None is passed over
    (
        None,
        r"calories from fat|energy from fat|mono-? ?unsaturated(?: fat)?|poly-? ?unsaturated(?: fat)?|monounsaturates"
        r"|polyunsaturates|starch|vitamin \w+|% daily value|daily value|%dv|reference intake|gluten",
    ),
    (RowId.ADDED_SUGARS, r"(?:includes|incl\.?)\s*(?=[<\d][^\n]{0,12}added sugars)|added sugars?"),
    (
        RowId.SATURATES,
        r"(?:of which )?(?:saturated fat|saturated fatty acids|saturates|sat\.? fat|saturated)|- ?saturated"
        r"|gesättigte fettsäuren",
    ),
    (RowId.TRANS_FAT, r"trans fat|trans"),
    (RowId.FAT, r"total fat|fat,? total|fat|lipids?|fett"),
    (RowId.CHOLESTEROL, r"cholest(?:erol)?\.?"),
    (RowId.SODIUM, r"sodium"),
    (RowId.FIBRE, r"dietary fib(?:re|er)|fib(?:re|er)|ballaststoffe"),
    (RowId.POLYOLS, r"(?:of which )?polyols?|sugar alcohols?|erythritol|maltitol"),
    (RowId.ALLULOSE, r"allulose"),
    (RowId.SUGARS, r"total sugars?|(?:of which )?sugars?|- ?sugars|zucker"),
    (RowId.CARBOHYDRATE, r"total carb(?:ohydrate)?s?\.?|carbohydrates?(?:,? total)?|carbs?|kohlenhydrate"),
    (RowId.PROTEIN, r"proteins?|eiweiß"),
    (RowId.SALT, r"salt|salz"),
    (RowId.CALCIUM, r"calcium"),
    (RowId.IRON, r"iron"),
    (RowId.POTASSIUM, r"potassium|potas\.?"),
    (RowId.ENERGY_KCAL, r"calories|energy(?: value)?|energie|brennwert"),
)
_ROW = re.compile("|".join(f"(?P<w{at}>(?<![\\w])(?:{words})(?![\\w]))" for at, (_, words) in enumerate(_WORDS)), re.I)
_FIGURE = re.compile(
    r"(?P<less><|less than|under)?\s*(?P<number>\d(?:[\d.,]*\d)?)\s*(?P<unit>kj|kcal|cal\b|mg|mcg|µg|g)?(?P<share>\s*%)?", re.I
)
_HEAD_100 = re.compile(r"(?:per|pro|/)?\s*100\s*(?:g|ml)\b", re.I)
_HEAD_SERVING = re.compile(
    r"\b(?:per|each|amount per|qty\.? per)\s*(?:\d[\d.,]*\s*g?\s*)?(?:serv(?:ing|e)|portion|bar|piece|pack|biscuit|cup)", re.I
)
_SERVING = re.compile(
    r"(?:serving size|serve size|portion size|serving(?!s)|portion(?!s)|per bar|per piece)\s*:?\s*"
    r"(?P<told>[^\n]{0,40}?\d[\d.,]*\s*g\)?)"
    r"|per\s*(?P<before>\d[\d.,]*\s*g)\s*(?:bar|portion|serving|piece|biscuit|cup|pack)",
    re.I,
)
_SERVINGS = re.compile(
    r"(?P<told>(?:about\s*)?\d[\d.,]*)\s*(?:servings?|serves|portions)\s*(?:per|in)|servings? per (?:container|package"
    r"|pack)\s*:?\s*(?P<after>(?:about\s*)?\d[\d.,]*)",
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
    for spot, after in itertools.zip_longest(spots, spots[1:]):
        row = _WORDS[int(str(spot.lastgroup)[1:])][0]
        if row is None:
            continue
        between = text[spot.end() : after.start() if after else spot.end() + 80]
        _take(row, between, known, columns)
    panel = Panel(basis=Basis.SERVING if _serving_first(text, region, two=len(columns[1]) >= _LEAST_COLUMN) else Basis.PER_100_G)
    panel.rows, panel.other_rows = columns[0], columns[1] if len(columns[1]) >= _LEAST_COLUMN else {}
    if serving := _SERVING.search(text):
        panel.serving = (serving["told"] or serving["before"]).strip(" :")
    if servings := _SERVINGS.search(text):
        panel.servings = (servings["told"] or servings["after"]).strip()
    return panel


def _take(row: RowId, between: str, known: set[RowId], columns: tuple[dict[RowId, str], dict[RowId, str]]) -> None:
    """Files the figures after a row's words: one for each column; energy by its unit."""
    at = {RowId.ENERGY_KJ: 0, RowId.ENERGY_KCAL: 0, row: 0}
    for figure in _FIGURE.finditer(between):
        if figure["share"]:
            continue
        target = row
        if row is RowId.ENERGY_KCAL and (figure["unit"] or "").lower() in _KJ:
            target = RowId.ENERGY_KJ
        column = at[target]
        at[target] += 1
        if column > 1 or target not in known or target in columns[column]:
            continue
        columns[column][target] = ("<" if figure["less"] else "") + figure["number"] + _unit(figure["unit"], target)


def _unit(unit: str | None, row: RowId) -> str:
    """The unit where it is not the row's own by custom: sodium printed in grams."""
    milligrams = row in {RowId.SODIUM, RowId.CHOLESTEROL, RowId.CALCIUM, RowId.IRON, RowId.POTASSIUM}
    return f" {unit.lower()}" if unit and unit.lower() in {"g", "mg"} and (unit.lower() == "mg") != milligrams else ""


def _serving_first(text: str, region: Region, *, two: bool) -> bool:
    hundred, serving = _HEAD_100.search(text), _HEAD_SERVING.search(text)
    if hundred and serving and two:
        return serving.start() < hundred.start()
    if hundred:
        return False
    return bool(serving) or region.usual_basis is Basis.SERVING
