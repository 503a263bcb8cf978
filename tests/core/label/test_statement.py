"""Pasted statements become trees."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.label.statement import Statement, StatementItem, read_statement


def names(statement: Statement) -> list[str]:
    """Leaf names in order."""
    return [leaf.name for leaf in statement.leaves()]


def item(statement: Statement, key: str) -> StatementItem:
    """The top-level item of a key."""
    return next(one for one in statement.items if one.key == key)


@pytest.mark.parametrize(
    ("text", "leaves"),
    [
        ("Sugar, cocoa butter, milk powder", ["sugar", "cocoa butter", "milk powder"]),
        ("INGREDIENTS: SUGAR; COCOA MASS.", ["sugar", "cocoa mass"]),
        ("sugar, emulsifier (soya lecithin)", ["sugar", "soya lecithin"]),
        ("sugar, emulsifier: soya lecithin", ["sugar", "soya lecithin"]),
        ("sugar, emulsifiers (soya lecithin, E476)", ["sugar", "soya lecithin", "e476"]),
        ("Sweetener (maltitol), cocoa mass", ["maltitol", "cocoa mass"]),
        ("sugar, wheat flour. Contains: wheat, milk.", ["sugar", "wheat flour"]),
        ("sugar, wheat flour. May contain nuts.", ["sugar", "wheat flour"]),
        ("dates, salt [sea salt]", ["dates", "sea salt"]),
        ("caramel (sugar, cream (milk), butter), nuts", ["sugar", "cream", "butter", "nuts"]),
        ("sugar, vanilla extract,", ["sugar", "vanilla extract"]),
        ("cream 12,5 %, sugar", ["cream", "sugar"]),
    ],
)
def test_names_are_read(text: str, leaves: list[str]) -> None:
    """Commas, brackets, class names, heads and tails."""
    assert names(read_statement(text)) == leaves


@pytest.mark.parametrize(
    ("text", "key", "percent", "decimals"),
    [
        ("Milk chocolate (31%) (sugar, cocoa mass), salt", "milk chocolate", 31, 0),
        ("Milk chocolate 31 % (sugar, cocoa mass), salt", "milk chocolate", 31, 0),
        ("roasted peanuts (24 %), sugar", "roasted peanuts", 24, 0),
        ("raspberry puree 4.5%, sugar", "raspberry puree", 4.5, 1),
        ("cream (3,5 %), sugar", "cream", 3.5, 1),
    ],
)
def test_percentages_are_read(text: str, key: str, percent: float, decimals: int) -> None:
    """With and without brackets, before or after them."""
    found = item(read_statement(text), key)
    assert found.percent == pytest.approx(percent)
    assert found.percent_decimals == decimals


@pytest.mark.parametrize(
    "phrase",
    [
        "contains 2% or less of:",
        "contains 2 % or less of each of the following:",
        "less than 2% of:",
        "CONTAINS 2% OR LESS OF THE FOLLOWING:",
    ],
)
def test_the_small_group_is_read(phrase: str) -> None:
    """What follows is at most 2 %, what stands before is not."""
    statement = read_statement(f"Sugar, corn syrup, {phrase} salt, soy lecithin.")
    assert [leaf.at_most_percent for leaf in statement.leaves()] == [None, None, 2.0, 2.0]


def test_brackets_keep_their_class_and_depth() -> None:
    """A compound holds its parts; keys name the way down."""
    statement = read_statement("Dark chocolate (cocoa mass, sugar, emulsifier (soya lecithin)), sugar")
    assert [leaf.key for leaf in statement.leaves()] == [
        "dark chocolate > cocoa mass",
        "dark chocolate > sugar",
        "dark chocolate > soya lecithin",
        "sugar",
    ]
    assert statement.leaves()[2].class_name == "emulsifier"


def test_a_name_that_stands_twice_has_two_keys() -> None:
    """Two sugars at one level are two unknowns."""
    keys = [leaf.key for leaf in read_statement("sugar, butter, sugar").leaves()]
    assert keys == ["sugar", "butter", "sugar 2"]


@pytest.mark.parametrize(
    ("text", "words"),
    [("sugar (cocoa, salt", "never closed"), ("sugar), salt", "never opened"), ("chocolate", "Only one ingredient")],
)
def test_odd_statements_are_kept_and_flagged(text: str, words: str) -> None:
    """Something is read and a sentence says what is odd."""
    statement = read_statement(text)
    assert statement.leaves()
    assert any(words in problem for problem in statement.problems)


def test_nothing_is_nothing() -> None:
    """An empty statement has neither names nor problems."""
    assert read_statement("  ") == Statement()


@given(st.text(max_size=200))
def test_no_text_breaks_the_reader(text: str) -> None:
    """Whatever is pasted, keys are unique and nothing raises."""
    keys = [leaf.key for leaf in read_statement(text).leaves()]
    assert len(set(keys)) == len(keys)


@pytest.mark.parametrize("of", ["of the filling", "in the filling", "of filling"])
def test_a_share_of_its_bracket_is_not_one_of_the_piece(of: str) -> None:
    """ "hazelnuts (40 % of the filling)": the share is kept, and that it is of the bracket; a plain one is of the piece."""
    inside = read_statement(f"sugar, hazelnuts (40 % {of}), salt")
    assert (item(inside, "hazelnuts").percent, item(inside, "hazelnuts").of_bracket) == (40, True)
    plain = read_statement("sugar, hazelnuts (40 %), salt")
    assert (item(plain, "hazelnuts").percent, item(plain, "hazelnuts").of_bracket) == (40, False)


def test_members_of_a_class_are_ranked_together() -> None:
    """Two sweeteners of one class share a number, each class its own; what stands outside a class has none."""
    read = read_statement("cocoa mass, sweeteners (maltitol, sucralose), emulsifiers (soya lecithin, E476), salt")
    groups = {leaf.name: leaf.class_group for leaf in read.leaves()}
    assert groups["maltitol"] == groups["sucralose"] > 0
    assert groups["soya lecithin"] == groups["e476"] > 0
    assert groups["maltitol"] != groups["soya lecithin"]
    assert groups["salt"] == groups["cocoa mass"] == 0


@pytest.mark.parametrize(
    ("flour", "read"),
    [
        ("wheat flour with added calcium, iron, niacin and thiamin", "wheat flour"),
        ("wheat flour (with calcium, iron, niacin, thiamin)", "wheat flour"),
        ("Wheat Flour (with Calcium, Iron, Niacin (B3) and Thiamin (B1))", "wheat flour"),
        ("flour with iron", "flour"),
    ],
)
def test_what_the_law_adds_to_flour_is_no_name(flour: str, read: str) -> None:
    """However it is printed; what comes after it stays."""
    assert [item.name for item in read_statement(f"Ingredients: sugar, {flour}, palm oil").items] == ["sugar", read, "palm oil"]


@pytest.mark.parametrize(
    ("said", "contains", "traces"),
    [
        ("May contain traces of nuts and milk, not suitable for peanut allergy sufferers.", (), ("nuts", "milk", "peanut")),
        ("May contain milk and was made in a factory where peanuts are handled.", (), ("milk", "peanuts")),
        ("Contains milk, not suitable for those with peanut allergies.", ("milk",), ("peanut",)),
        ("Not suitable for people with a nut allergy.", (), ("nut",)),
        ("Not suitable for vegetarians.", (), ()),
    ],
)
def test_one_sentence_may_warn_of_two_things(said: str, contains: tuple[str, ...], traces: tuple[str, ...]) -> None:
    """What stands before a further warning is not lost to it."""
    found = read_statement(f"Ingredients: sugar, wheat flour, cocoa butter. {said}")
    assert (found.contains, found.may_contain) == (contains, traces)


@pytest.mark.parametrize(
    ("text", "says", "first"),
    [
        (
            "Oat flapjack topped with dark chocolate. Oats, syrup, butter, sugar.",
            "oat flapjack topped with dark chocolate",
            "oats",
        ),
        ("Chocolate bar with soft nougat: sugar, milk, butter, salt.", "Chocolate bar with soft nougat", "sugar"),
        (
            "Soft mint and biscuit in dark chocolate. Ingredients: sugar, flour.",
            "Soft mint and biscuit in dark chocolate",
            "sugar",
        ),
        ("Wafer with lemon cream: cream 74 % (sugar, fat), wafer 26 % (flour, oil).", "Wafer with lemon cream", "cream"),
        ("Emulsifier: soya lecithin, sugar, milk, salt.", "", "soya lecithin"),
        ("Milk chocolate. Sugar, nuts, milk, salt.", "", "milk chocolate"),
        ("Almonds dates and cocoa. May contain peanuts, other nuts, milk, soya.", "", "almonds dates and cocoa"),
        ("Roasted peanuts and sugar and salt. Contains 2% or less of: oil, dextrose, starch, cocoa.", "", "roasted peanuts"),
        ("Composition: sugar, butter, flour, salt.", "", "sugar"),
        ("Caramel filling (sugar, cream), milk chocolate (sugar, cocoa mass).", "", "caramel filling"),
    ],
)
def test_what_a_pack_says_it_is_is_no_name(text: str, says: str, first: str) -> None:
    """A sentence before the list, or the head of all of it; it is kept beside, and a layer's own head stays one."""
    read = read_statement(text)
    assert read.says.lower() == says.lower()
    assert read.items[0].name == first
    assert not says or says.lower() in {note.lower() for note in read.notes}


@pytest.mark.parametrize(
    ("statement", "shares"),
    [
        ("Raspberries (12%) in white chocolate (sugar, cocoa butter, milk powder)", {"white chocolate": None, "raspberries": 12}),
        ("Almonds in milk chocolate 60% (sugar, cocoa butter, milk, cocoa mass)", {"milk chocolate": 60, "almonds": None}),
        ("Amandes 60 % enrobées de chocolat noir (pâte de cacao, sucre)", {"almonds": 60, "dark chocolate": None}),
    ],
)
def test_a_share_is_of_what_it_is_printed_after(statement: str, shares: dict[str, float | None]) -> None:
    """Where what lies in a chocolate is told apart from it."""
    assert {one.name: one.percent for one in read_statement(statement).items} == shares
