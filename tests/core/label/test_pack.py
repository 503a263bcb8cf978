"""Weights, servings and whole panels as packs print them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.label.pack import read_pack_weight, read_servings
from fern_match.core.label.panel import read_panel
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.measures import Comma


@pytest.mark.parametrize(
    ("typed", "grams"),
    [
        ("1.69 oz (48 g)", 48.0),
        ("48 g (1.69 oz)", 48.0),
        ("NET WT 1.69 OZ", 47.911),
        ("Net Wt. 1.69 oz / 48 g", 48.0),
        ("39g e", 39.0),
        ("39 g ℮", 39.0),
        ("1 bar (48g)", 48.0),
        ("2 pieces (28g)", 28.0),
        ("2 x 19.5g", 39.0),
        ("about 40 g", 40.0),
    ],
)
def test_weights_are_read_as_printed(typed: str, grams: float) -> None:
    """Twice, with marks, with pieces before them."""
    found = read_pack_weight(typed, least_g=0.01, most_g=10_000, comma=Comma.GROUPS)
    assert found.value == pytest.approx(grams, abs=0.001), found.problem
    assert found.typed == typed


def test_a_weight_printed_twice_must_agree() -> None:
    """An ounce and a half is not 84 g: both are told."""
    found = read_pack_weight("1.69 oz (84 g)", least_g=0.01, most_g=10_000, comma=Comma.GROUPS)
    assert found.value is None
    assert found.problem == "“1.69 oz” is 47.9 g, but the bracket says 84 g. Which is it?"


@pytest.mark.parametrize(
    ("typed", "count"),
    [("about 2.5 servings", 2.5), ("3", 3.0), ("Servings per container: 8", 8.0), ("8 servings per pack", 8)],
)
def test_servings_may_be_fractions(typed: str, count: float) -> None:
    """As printed."""
    assert read_servings(typed, Comma.GROUPS).value == count


@pytest.mark.parametrize("typed", ["many", "0", "9999 servings"])
def test_servings_that_cannot_be_get_a_sentence(typed: str) -> None:
    """What was typed and what to write."""
    assert "Write a number" in (read_servings(typed, Comma.GROUPS).problem or "")


US_PANEL = """Nutrition Facts
8 servings per container
Serving size 2 pieces (28g)
Calories 150
Total Fat 9g 12%
Saturated Fat 5g 25%
Trans Fat 0g
Cholesterol <5mg 1%
Sodium 40mg 2%
Total Carbohydrate 17g 6%
Dietary Fiber 1g 4%
Total Sugars 14g
Includes 12g Added Sugars 24%
Protein 2g
Calcium 40mg 4%"""
UK_PANEL = """Typical values per 100g per 45g bar
Energy 2288kJ/549kcal 1030kJ/247kcal
Fat 33g 15g of which saturates 18g 8.1g
Carbohydrate 55g 25g of which sugars 50g 22g
Fibre 2.1g 0.9g Protein 6.5g 2.9g Salt 0.24g 0.11g"""
AU_PANEL = """Servings per package: 4 Serving size: 25 g
Avg Qty per serving Avg Qty per 100 g
Energy 555 kJ 2220 kJ
Protein 1.9 g 7.5 g
Fat, total 7.9 g 31.4 g
- saturated 4.6 g 18.5 g
Carbohydrate 13.8 g 55.2 g
- sugars 13.2 g 52.7 g
Sodium 22 mg 88 mg"""


def test_a_us_panel_fills_its_rows() -> None:
    """Percentages of daily values are passed over, added sugars are not total ones."""
    panel = read_panel(US_PANEL, Region.US)
    assert (panel.basis, panel.serving, panel.servings) == (Basis.SERVING, "2 pieces (28g)", "8")
    assert panel.rows[RowId.ADDED_SUGARS] == "12 g".removesuffix(" g")
    assert panel.rows[RowId.SUGARS] == "14"
    assert panel.rows[RowId.CHOLESTEROL] == "<5"
    assert len(panel.rows) == 12
    assert not panel.other_rows


@pytest.mark.parametrize(
    ("text", "region", "basis", "serving", "row", "first", "second"),
    [
        (UK_PANEL, Region.UK, Basis.PER_100_G, "45g", RowId.ENERGY_KJ, "2288", "1030"),
        (UK_PANEL, Region.UK, Basis.PER_100_G, "45g", RowId.SATURATES, "18", "8.1"),
        (AU_PANEL, Region.AU, Basis.SERVING, "25 g", RowId.SODIUM, "22", "88"),
        (AU_PANEL, Region.AU, Basis.SERVING, "25 g", RowId.FAT, "7.9", "31.4"),
    ],
)
def test_both_columns_of_a_panel_are_read(
    text: str, region: Region, basis: Basis, serving: str, row: RowId, first: str, second: str
) -> None:
    """Which is which is told by their heads."""
    panel = read_panel(text, region)
    assert (panel.basis, panel.serving) == (basis, serving)
    assert (panel.rows[row], panel.other_rows[row]) == (first, second)


GERMAN_PANEL = """Knuspriger Mandelriegel mit Zartbitterschokolade
Nettogewicht 40 g
Durchschnittliche Nährwerte pro 100 g pro Riegel (20 g)
Energie 2150 kJ / 515 kcal 430 kJ / 103 kcal
Fett 30 g 6,0 g
davon gesättigte Fettsäuren 12 g 2,4 g
Kohlenhydrate 50 g 10 g
davon Zucker 41 g 8,2 g
Ballaststoffe 5 g 1 g
Eiweiß 9 g 1,8 g
Salz 0,2 g 0,04 g"""
IN_FIVE = {
    "German": "Fett {}, davon gesättigte Fettsäuren {}, Kohlenhydrate {}, davon Zucker {}, Eiweiß {}, Salz {}, Energie",
    "French": "Matières grasses {} dont acides gras saturés {} Glucides {} dont sucres {} Protéines {} Sel {} Énergie",
    "Italian": "Grassi {} di cui acidi grassi saturi {}; Carboidrati {} di cui zuccheri {}; Proteine {}; Sale {}; Energia",
    "Spanish": "Grasas {} de las cuales saturadas {} Carbohidratos {} de los cuales azúcares {} Proteínas {} Sal {} Energía",
    "Dutch": "Vetten {} waarvan verzadigde vetzuren {} Koolhydraten {} waarvan suikers {} Eiwitten {} Zout {} Energie",
}


@pytest.mark.parametrize("tongue", IN_FIVE)
def test_a_panel_is_read_in_its_language(tongue: str) -> None:
    """Eight rows, the same in each."""
    rows = read_panel(
        IN_FIVE[tongue].format("31 g", "18 g", "54 g", "49 g", "6,5 g", "0,3 g") + " 2200 kJ/527 kcal", Region.EU
    ).rows
    assert {row.value: typed for row, typed in rows.items()} == {
        "energy_kj": "2200",
        "energy_kcal": "527",
        "fat": "31",
        "saturates": "18",
        "carbohydrate": "54",
        "sugars": "49",
        "protein": "6,5",
        "salt": "0,3",
    }


def test_what_else_of_the_pack_was_copied_is_read() -> None:
    """The net weight, the sentence that says what it is, and what a bar weighs."""
    panel = read_panel(GERMAN_PANEL, Region.EU)
    assert (panel.net_weight, panel.serving) == ("40 g", "20 g")
    assert panel.sentence == "Knuspriger Mandelriegel mit Zartbitterschokolade"
    assert (panel.rows[RowId.FIBRE], panel.other_rows[RowId.FIBRE]) == ("5", "1")


def test_a_panel_copied_without_its_spaces_is_read() -> None:
    """Words against figures, and figures against the next word."""
    squashed = "Calories150Total Fat9g12%Saturated Fat5g25%Trans Fat0gCholesterol5mg1%Sodium40mg2%Total Sugars14gProtein2g"
    rows = read_panel(squashed, Region.US).rows
    assert [rows[row] for row in (RowId.ENERGY_KCAL, RowId.FAT, RowId.SATURATES, RowId.SODIUM, RowId.PROTEIN)] == [
        "150",
        "9",
        "5",
        "40",
        "2",
    ]


@given(st.text(alphabet="abcfat sugrenykJ0123456789.,:%<()\n-", max_size=300))
def test_no_text_breaks_the_panel_reader(text: str) -> None:
    """Whatever is pasted, only rows of the region come back."""
    panel = read_panel(text, Region.EU)
    assert RowId.SODIUM not in panel.rows


@pytest.mark.parametrize(
    "energy",
    [
        "Énergie 2 110 kJ / 505 kcal",
        "Brennwert 2.110 kJ / 505 kcal",
        "Energy 2,110kJ/505kcal",
        "Energie 2'110 kJ (505 kcal)",
        "Energy (kJ/kcal) 2110/505",
        "Energy (kJ) 2110\nEnergy (kcal) 505",
        "Energy kJ | 2110\nkcal | 505",
        "Energy kJ 2110 kcal 505",
        "Energy kcal 505 kJ 2110",
        "Energy 505 kcal 2110 kJ",
    ],
)
def test_an_energy_is_read_however_its_unit_and_thousands_stand(energy: str) -> None:
    """Before its figure or after it; kJ and kcal in either order."""
    rows = read_panel(f"per 100 g\n{energy}\nFat (g) 27.0\nof which saturates (g) 15.0\nSalt (g) 0.31", Region.UK).rows
    assert (rows[RowId.ENERGY_KJ], rows[RowId.ENERGY_KCAL], rows[RowId.FAT]) == ("2110", "505", "27.0")


def test_units_before_the_figures_of_two_columns() -> None:
    """The commonest table of British packs: units in the first cell, each column's figures in turn."""
    for energy in ("Energy (kJ/kcal) | 2110/505 | 844/202", "Energy kJ | 2110 | 844\nEnergy kcal | 505 | 202"):
        panel = read_panel(
            f"Typical values | per 100g | per 40g bar\n{energy}\nFat | 27g | 10.8g\nProtein | 6.2g | 2.5g\nSalt | 0.31g | 0.12g",
            Region.UK,
        )
        assert (panel.rows[RowId.ENERGY_KJ], panel.rows[RowId.ENERGY_KCAL]) == ("2110", "505")
        assert (panel.other_rows[RowId.ENERGY_KJ], panel.other_rows[RowId.ENERGY_KCAL]) == ("844", "202")
        assert panel.serving == "40g"


@pytest.mark.parametrize(
    ("head", "serving"),
    [
        ("Per 1 bar (45 g) / pour 1 barre (45 g)", "45 g"),
        ("Per 2 pieces (30 g)", "30 g"),
        ("Valori medi per 100 g per barretta (38 g)", "38 g"),
        ("pro Stück (12,5 g)", "12,5 g"),
        ("je 100 g je Riegel (35 g)", "35 g"),
        ("Per 100g\nPer Serving (25g)", "25g"),
    ],
)
def test_a_serving_is_found_in_the_head_of_its_column(head: str, serving: str) -> None:
    """With or without how many pieces it is."""
    assert read_panel(f"{head}\nCalories 220\nFat 11 g\nSodium 65 mg", Region.CA).serving == serving


def test_other_words_for_rows() -> None:
    """Energy from fat is no fat; saturated fat in short."""
    older = read_panel("Calories 210, Fat Cal. 90, Total Fat 10g (15% DV), Sat. Fat 4g, Sodium 90mg", Region.US).rows
    assert (older[RowId.ENERGY_KCAL], older[RowId.FAT], older[RowId.SATURATES]) == ("210", "10", "4")
    dutch = read_panel("per 100 gram Vet 30 g waarvan verzadigd 18 g enkelvoudig onverzadigd vet 9 g Zout 0,2 g", Region.EU).rows
    assert (dutch[RowId.FAT], dutch[RowId.SATURATES], dutch[RowId.SALT]) == ("30", "18", "0,2")


def test_the_front_of_a_pack_is_of_its_serving() -> None:
    """ "Each 25g bar contains": those rows are of a serving, what is said per 100 g after them stands beside."""
    text = (
        "Each 25g bar contains: Energy 540kJ 129kcal 6% Fat 6.8g 10% Saturates 3.9g 20% Sugars 13.1g 15% Salt 0.06g 1% of an "
        "adult's reference intake. Typical values per 100g: Energy 2160kJ/516kcal"
    )
    panel = read_panel(text, Region.UK)
    assert (panel.basis, panel.serving) == (Basis.SERVING, "25g")
    assert panel.rows[RowId.ENERGY_KJ] == "540"
    assert panel.rows[RowId.SALT] == "0.06"
    assert panel.other_rows == {RowId.ENERGY_KJ: "2160", RowId.ENERGY_KCAL: "516"}


@pytest.mark.parametrize(
    "words",
    ["davon gesätt. Fettsäuren", "davon ges. Fettsäuren", "dont acides gras sat.", "dont AGS", "di cui ac. grassi saturi"],
)
def test_saturates_may_be_cut_short(words: str) -> None:
    """As on small packs."""
    panel = read_panel(f"Energie 1890 kJ 451 kcal, Fett 19g, {words} 9,8g, Salz 0,1g", Region.EU)
    assert panel.rows[RowId.SATURATES] == "9,8"
