"""Statements in six languages: sixty written before the reader knew them, and made-up ones of every word of the tables."""

import re
from functools import cache

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.label.written import FOLDER, Written, written

from fern_match.core.data import rows
from fern_match.core.food import Pantry, matched_name, standard_pantry
from fern_match.core.food.names import known_name
from fern_match.core.label.rows import Region
from fern_match.core.label.statement import StatementItem, read_statement
from fern_match.core.label.statement.tongues import ENGLISH, TONGUES, in_english
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study

SIXTY = written("tongues.txt")
SPOKEN = {"de": "German", "fr": "French", "it": "Italian", "es": "Spanish", "nl": "Dutch", "en": ENGLISH}
# Read with a fault, known: bought flakes whose bracket is read as a layer's list where there is no build yet.
KNOWN_FAULTS = {"fr-09"}


def reading_of(one: Written, pantry: Pantry) -> StudyReading:
    """A study of nothing but a statement."""
    return StudyReading(Study(name="s", region=Region(one.region), statement=one.text), pantry)


def by_ingredient(reading: StudyReading, items: tuple[StatementItem, ...]) -> str:
    """A tree as read, each name as the pantry's ingredient it was taken for, each bracket without its head."""
    said = []
    for item in items:
        name = f"{{{by_ingredient(reading, item.items)}}}" if item.items else reading.matches[item.key].ingredient_id or "-"
        said.append(name if item.percent is None else f"{name}={item.percent:g}")
    return "; ".join(said)


def _pattern(tree: str) -> str:
    """A tree to compare with, in which an ingredient followed by ? may be another."""
    return "".join(r"[a-z0-9-]+" if part.endswith("?") else re.escape(part) for part in re.split(r"([a-z0-9-]+\??)", tree))


@pytest.mark.parametrize("one", [one for one in SIXTY if one.id not in KNOWN_FAULTS], ids=lambda one: one.id)
def test_a_statement_is_read_in_its_language(one: Written, pantry: Pantry) -> None:
    """Ingredients, nesting, shares, allergens, traces and least contents; nothing is left unread."""
    reading = reading_of(one, pantry)
    statement = reading.statement
    assert statement.tongue == SPOKEN[one.id[:2]]
    assert re.fullmatch(_pattern(one.tree), by_ingredient(reading, statement.items)), by_ingredient(reading, statement.items)
    assert sorted(statement.contains) == sorted(one.contains)
    assert sorted(statement.may_contain) == sorted(one.may_contain)
    assert sorted(f"{found.what} {found.percent:g}" for found in statement.minima) == sorted(one.minima)
    assert not statement.unread


def test_nine_in_ten_are_read_without_a_fault() -> None:
    """Of sixty, ten in each language."""
    assert len(SIXTY) == 60
    assert len(KNOWN_FAULTS) <= 6


@pytest.mark.parametrize(
    "one",
    [*written("tongues_two.txt"), *written("styles.txt"), *written("seventh.txt"), *written("eighth.txt")],
    ids=lambda one: f"second-{one.id}",
)
def test_more_of_layered_pieces_and_other_styles(one: Written, pantry: Pantry) -> None:
    """Headings, bought foods with a list of their own, sweeteners and colours; without a build no bracket is a layer's."""
    reading = reading_of(one, pantry)
    assert reading.statement.tongue == SPOKEN[one.id[:2]]
    assert re.fullmatch(_pattern(one.tree), by_ingredient(reading, reading.statement.items))
    assert sorted(reading.statement.contains) == sorted(one.contains)
    assert sorted(reading.statement.may_contain) == sorted(one.may_contain)
    assert sorted(f"{found.what} {found.percent:g}" for found in reading.statement.minima) == sorted(one.minima)
    assert len(reading.statement.unread) == one.text.count("!")  # "That's it!"


@pytest.mark.parametrize("text", (FOLDER / "traces.txt").read_text().splitlines())
def test_traces_are_never_lost(text: str) -> None:
    """Peanuts and sesame beside three ingredients, in the turns of phrase that packs use in six languages."""
    found = read_statement(text)
    assert sorted(name.removesuffix("s") for name in found.may_contain) == ["peanut", "sesame"]
    assert [item.name for item in found.items] == ["sugar", "wheat flour", "cocoa butter"]
    assert not found.unread


PANELS = {
    "German": "Nährwerte pro 100 g: Brennwert 2.205 kJ / 528 kcal, Fett 30 g, davon Zucker 54 g, Eiweiß 7,5 g, Salz 0,25 g.",
    "French": "Valeurs nutritionnelles pour 100 g : Énergie 2 205 kJ, Matières grasses 30 g, Sel 0,25 g.",
    "Italian": "Valori nutrizionali medi per 100 g: energia 2205 kJ, grassi 30,5 g, sale 0,25 g.",
    "Spanish": "Información nutricional por 100 g: valor energético 2205 kJ, grasas 30 g, sal 0,25 g.",
    "Dutch": "Voedingswaarde per 100 g: energie 2205 kJ, vet 30 g, zout 0,25 g.",
}


@pytest.mark.parametrize("tongue", PANELS)
def test_a_panel_that_was_copied_along_is_no_list(tongue: str) -> None:
    """Its rows are no names, and nobody has to look at it; the list before it stays whole."""
    found = read_statement(f"{LEADS[tongue]} {ANCHORS[tongue]}. {PANELS[tongue]}")
    assert len(found.items) == 3
    assert found.notes == ("Nutrition, see panel",)
    assert not found.unread


NAMES_OF_THE_TRADE = [line.split("|") for line in (FOLDER / "trade_names.txt").read_text().splitlines()]


@pytest.mark.parametrize("row", NAMES_OF_THE_TRADE, ids=lambda row: row[1])
def test_one_food_is_one_food_in_five_languages(row: list[str], pantry: Pantry) -> None:
    """A name of each language is a name of the trade, and of the same food as its neighbours where they say the same."""
    found = [
        read_statement(f"{LEADS[tongue]} {name}, {name}, {ANCHORS[tongue]}")
        for tongue, name in zip(TONGUES, row[1:], strict=True)
    ]
    names = [statement.items[0].name for statement in found]
    assert all(known_name(name) or matched_name(name, pantry).ingredient_id for name in names), names
    if row[0] not in SAID_DIFFERENTLY:
        assert len({matched_name(name, pantry).ingredient_id for name in names}) == 1, names


PANTRY = standard_pantry()
# One language's usual word says less or more than the others': "Kondensmilch" of a sweet is the sweetened one.
SAID_DIFFERENTLY = {"evaporated-milk", "peanut-butter"}
ANCHORS = {
    "German": "Zucker, Kakaobutter, Vollmilchpulver",
    "French": "sucre, beurre de cacao, lait en poudre",
    "Italian": "zucchero, burro di cacao, latte in polvere",
    "Spanish": "azúcar, manteca de cacao, leche en polvo",
    "Dutch": "suiker, cacaoboter, volle melkpoeder",
}
LEADS = {
    "German": "Zutaten:",
    "French": "Ingrédients :",
    "Italian": "Ingredienti:",
    "Spanish": "Ingredientes:",
    "Dutch": "Ingrediënten:",
}


@cache
def words_of(tongue: str) -> list[tuple[str, str]]:
    """Names of foods in a language: each phrase and what it is in English."""
    return [
        (phrase, row["english"])
        for row in rows("tongues.csv")
        if matched_name(row["english"], PANTRY, loosely=False).confidence >= 0.8
        for phrase in row[tongue.lower()].split("|")
        if phrase and in_english(f"{LEADS[tongue]} {phrase}, {phrase}", known_name).printed.get(row["english"].lower())
    ]


@given(st.data())
def test_made_up_lists_are_read_as_their_english_is(data: st.DataObject) -> None:
    """Names of the table in any order, in capitals or not, with shares and a bracket: as the same list in English."""
    tongue = data.draw(st.sampled_from(TONGUES))
    names = data.draw(st.lists(st.sampled_from(words_of(tongue)), min_size=4, max_size=9, unique_by=lambda one: one[1]))
    capitals = data.draw(st.booleans())
    share = data.draw(st.sampled_from(["", " 12 %", " (7,5%)"]))
    printed = ", ".join((phrase.upper() if capitals else phrase) + share * (at == 1) for at, (phrase, _) in enumerate(names))
    meant = ", ".join(english + share * (at == 1) for at, (_, english) in enumerate(names))
    told = in_english(f"{LEADS[tongue]} {printed}", known_name)
    if told.tongue != tongue:
        return  # words that two languages share do not tell which it is
    found, wanted = read_statement(f"{LEADS[tongue]} {printed}"), read_statement(f"Ingredients: {meant}")
    assert [(one.name, one.percent) for one in found.items] == [(one.name, one.percent) for one in wanted.items]


def test_of_several_lists_the_one_that_reads_best_is_taken() -> None:
    """A pack in German and French without English; with English, that one."""
    two = "Zutaten: Zucker, Kakaobutter, Vollmilchpulver, Haselnüsse. Ingrédients : sucre, beurre de cacao, poudre de lait."
    found = read_statement(two)
    assert found.tongue == "German"
    assert [item.name for item in found.items] == ["sugar", "cocoa butter", "whole milk powder", "hazelnuts"]
    assert any("beurre de cacao" in note for note in found.notes)
    three = read_statement("Ingredients: sugar, cocoa butter, whole milk powder. " + two)
    assert three.tongue == ENGLISH
    assert [item.name for item in three.items] == ["sugar", "cocoa butter", "whole milk powder"]


def test_what_was_printed_is_kept_beside_the_english() -> None:
    """The page shows both."""
    found = read_statement("Zutaten: Zucker, Palmfett, Pistazienmark, Magermilchpulver.")
    assert found.printed["palm oil"] == "Palmfett"
    assert found.printed["pistachio paste"] == "Pistazienmark"


@pytest.mark.parametrize(
    "text", ["", "Zutaten:", "Ingrédients : , , .", "ß" * 5000, "zucker " * 4000, "d'" * 3000, "Kakao mindestens 999 %"]
)
def test_odd_texts_do_no_harm(text: str) -> None:
    """Whatever is pasted is read or told, never a crash."""
    assert read_statement(text).tongue in {ENGLISH, *TONGUES}


@pytest.mark.parametrize(
    ("text", "tongue", "first", "notes"),
    [
        (
            "Sugar, Cocoa butter, Milk powder, Salt. May contain: Almonds. Sucre, Beurre de cacao, Lait en poudre, Sel. "
            "Peut contenir : Amandes.",
            ENGLISH,
            ["sugar", "cocoa butter", "milk powder", "salt"],
            ["Sucre, Beurre de cacao, Lait en poudre, Sel. Peut contenir : Amandes."],
        ),
        (
            "GB: Ingredients: sugar, cocoa butter, milk powder. FR: Ingrédients: sucre, beurre de cacao. DE: Zutaten: Zucker, "
            "Kakaobutter.",
            ENGLISH,
            ["sugar", "cocoa butter", "milk powder"],
            ["FR: Ingrédients: sucre, beurre de cacao", "DE: Zutaten: Zucker, Kakaobutter"],
        ),
        (
            "Gefüllte Schokolade mit Minzcreme. Zutaten: Zucker, Kakaomasse, Kakaobutter. Bei Raumtemperatur lagern.",
            "German",
            ["sugar", "cocoa mass", "cocoa butter"],
            ["Gefüllte Schokolade mit Minzcreme", "Bei Raumtemperatur lagern"],
        ),
        (
            "Ingrédients : sucre*, noisettes*, sel. *Issus de l'agriculture biologique",
            "French",
            ["sugar", "hazelnuts", "salt"],
            ["*Issus de l'agriculture biologique"],
        ),
    ],
    ids=["canadian", "countries", "german", "french"],
)
def test_what_is_no_list_stays_as_it_was_printed(text: str, tongue: str, first: list[str], notes: list[str]) -> None:
    """A second list in another language, with or without a word before it, and sentences beside the list."""
    read = read_statement(text)
    assert read.tongue == tongue
    assert [item.name for item in read.items] == first
    assert list(read.notes) == notes
    assert not read.unread


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("Emulgator: Lecithine (Sonnenblumen), Zucker", "sunflower lecithins"),
        ("sugar, canola oil with TBHQ for freshness", "canola oil"),
        ("sugar, emulsifier: mono - and diglycerides of fatty acids", "mono- and diglycerides of fatty acids"),
        ("azúcar, gasificante (E-500ii), sal", "e500ii"),
        ("zucchero, gelatina alimentare (bovina), sale", "gelatine"),
        ("Zucker, Kokosraspel (geschwefelt), Salz", "desiccated coconut"),
    ],
)
def test_turns_of_names(text: str, found: str) -> None:
    """What a bracket or a tail adds opens nothing and parts no name."""
    items = read_statement(text).items
    one = next(item for item in items if item.name == found)
    assert not one.items


@pytest.mark.parametrize("begins", ["", "Ingrédients : ", "FR: Ingrédients: "])
def test_a_warning_of_the_other_language_is_not_lost(begins: str) -> None:
    """Peanuts stand in the French half alone; almonds in both, and are named once."""
    read = read_statement(
        "Ingredients: Sugar, Cocoa butter, Milk powder, Salt. May contain: Almonds. "
        f"{begins}Sucre, Beurre de cacao, Lait en poudre, Sel. Peut contenir : Amandes, Arachides."
    )
    assert list(read.may_contain) == ["almonds", "peanuts"]
    assert [item.name for item in read.items] == ["sugar", "cocoa butter", "milk powder", "salt"]
