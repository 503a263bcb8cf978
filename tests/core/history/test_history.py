"""Differences in words, and two changes in one."""

from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from tests.any_match import INSIDES, matches

from fern_match.core.batch import BatchPlan
from fern_match.core.families import standard_families
from fern_match.core.food import standard_pantry
from fern_match.core.formulate import Version, VersionIngredient, VersionLayer
from fern_match.core.history import Clashes, changes, merged
from fern_match.core.house import House
from fern_match.core.kitchen import Kitchen
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.match import Match
from fern_match.core.names import Names
from fern_match.core.record import links
from fern_match.core.study.record import LabelText, Layer, PieceSize, Place, Reading, Study, Whereabouts, weighed

COAT = Layer(id="coat", name="Dark coat", family="dark-coat", place=Place.COAT)
CARAMEL = Layer(id="caramel", name="Caramel", family="soft-caramel", place=Place.STACK)
NUTS = Layer(id="nuts", name="Nuts", family="whole-nuts", place=Place.INCLUSION, host="caramel")
CREAM = VersionIngredient(id="1", ingredient="heavy-cream", name="Heavy cream", role="dairy-liquid", amount="5")
VERSION = Version(
    id="v", name="Faithful", layers=(VersionLayer(id="caramel", name="Caramel", family="soft-caramel", ingredients=(CREAM,)),)
)
PLAN = BatchPlan(id="b", version="v", pieces="24", left_on_tools={"coat": "3"})
BASE = Match(
    study=Study(
        name="Lime Quay",
        label=LabelText(net_weight="36 g", rows={RowId.FAT: "12"}),
        statement="Sugar, cream",
        layers=(COAT, CARAMEL, NUTS),
        readings=weighed({"caramel": ("8.7", "8.5"), "nuts": ("2.1",)}),
    ),
    versions=(VERSION,),
    batches=(PLAN,),
)


def study(**parts: Any) -> Match:
    """The base with a changed study."""
    return replace(BASE, study=replace(BASE.study, **parts))


def label(**parts: Any) -> Match:
    """The base with a changed label."""
    return study(label=replace(BASE.study.label, **parts))


def with_readings(*more: Reading, drop: tuple[str, ...] = ()) -> Match:
    """The base with readings added or taken away."""
    return study(readings=(*(one for one in BASE.study.readings if one.id not in drop), *more))


def with_amount(amount: str) -> Match:
    """The base with another amount of cream in its version."""
    lines = (replace(CREAM, amount=amount),)
    return replace(BASE, versions=(replace(VERSION, layers=(replace(VERSION.layers[0], ingredients=lines),)),))


def together(mine: Match, theirs: Match, *, base: Match = BASE, prefer_mine: bool = False) -> Match | Clashes:
    """Both changes in one."""
    return merged(base, mine, theirs, names(base, mine, theirs), prefer_mine=prefer_mine)


def names(*wholes: Match | House) -> Names:
    """What things are called."""
    return Names.of(standard_pantry(), standard_families(), *wholes)


def told(before: Match, after: Match) -> tuple[str, ...]:
    """What changed."""
    return changes(before, after, names(before, after))


def asked(outcome: Match | Clashes) -> list[tuple[str, str, str]]:
    """The questions."""
    assert isinstance(outcome, Clashes), outcome
    return [(one.title, one.mine, one.theirs) for one in outcome.fields]


@pytest.mark.parametrize(
    ("after", "words"),
    [
        (study(readings=weighed({"caramel": ("8.7", "8.1"), "nuts": ("2.1",)})), "Caramel, reading 2: 8.1 g, was 8.5 g"),
        (with_readings(Reading(id="x", subject="caramel", typed="8.6")), "Caramel, reading 3: 8.6 g"),
        (with_readings(drop=("caramel-2",)), "Caramel, reading 2: taken away, was 8.5 g"),
        (with_readings(Reading(id="x", subject="piece", typed="36")), "Whole piece, reading 1: 36 g"),
        (label(net_weight="38 g"), "Net weight: 38 g, was 36 g"),
        (label(rows={RowId.FAT: "13"}), "Fat: 13, was 12"),
        (label(rows={RowId.FAT: "12", RowId.SUGARS: "40"}), "Sugars: 40"),
        (label(basis=Basis.SERVING), "Figures are per: serving, was 100 g"),
        (study(region=Region.US), "Label from: US, was EU"),
        (study(name="Lime Key"), "Name: Lime Key, was Lime Quay"),
        (
            study(layers=(replace(COAT, family="milk-coat"), CARAMEL, NUTS)),
            "Dark coat, family: Milk chocolate coat, was Dark chocolate coat",
        ),
        (study(layers=(CARAMEL, COAT, NUTS)), "Order of layers changed"),
        (study(layers=(COAT, CARAMEL)), "Nuts: layer removed"),
        (study(placements={"salt": {"coat": Whereabouts.NO}}), "Salt in Dark coat: no"),
        (study(corrections={"sugar": "icing-sugar"}), "“sugar” taken for: Icing sugar (3 % starch)"),
        (study(corrections={"sugar": "none"}), "“sugar” taken for: left out"),
        (study(doubted=("row:fat",)), "Evidence switched off: Fat"),
        (study(doubted=("order:a > sugar|a > cream",)), "Evidence switched off: sugar before cream"),
        (study(doubted=("weighing:coat",)), "Evidence switched off: Dark coat, weighed"),
        (replace(BASE, batches=(replace(PLAN, pieces="12"),)), "Batch of Faithful, Pieces wanted: 12, was 24"),
        (replace(BASE, batches=(replace(PLAN, left_on_tools={"coat": "5"}),)), "Dark coat, stays on tools: 5, was 3"),
        (replace(BASE, batches=(replace(PLAN, in_house={"honey": "2 tbsp"}),)), "Honey, in the house: 2 tbsp"),
        (study(size=PieceSize(width="1 1/2 in")), "Piece, wide: 1 1/2 in"),
        (replace(BASE, versions=(), batches=()), "Faithful version removed"),
        (with_amount("4.2"), "Faithful version, Caramel, Heavy cream: 4.2 g, was 5 g"),
        (with_amount("4.213568 g"), "Faithful version, Caramel, Heavy cream: 4.214 g, was 5 g"),
        (replace(BASE, versions=(replace(VERSION, name="Vegan"),)), "Vegan version, name: Vegan, was Faithful"),
    ],
)
def test_changes_are_told_in_words(after: Match, words: str) -> None:
    """What a user would say."""
    assert any(words in sentence for sentence in told(BASE, after)), told(BASE, after)


def test_a_version_and_its_batch_come_and_go_in_two_sentences() -> None:
    """What is in them is not listed."""
    without = replace(BASE, versions=(), batches=())
    assert told(without, BASE) == ("Faithful version added", "Batch of Faithful added")
    assert told(BASE, without) == ("Faithful version removed", "Batch of Faithful removed")


def test_a_kitchen_is_told_as_a_match_is() -> None:
    """By its own declaration."""
    before, after = House(), House(kitchen=Kitchen(altitude="1600 m"))
    assert changes(before, after, names(before, after)) == ("Height above the sea: 1600 m",)


@given(matches(), matches())
def test_words_never_show_the_inside_of_the_program(before: Match, after: Match) -> None:
    """Whatever changed, in sentences and in questions."""
    outcome = together(before, after, base=before if before.study.name else after)
    questions = asked(outcome) if isinstance(outcome, Clashes) else []
    for text in (*told(before, after), *(part for question in questions for part in question)):
        assert not any(inside in text for inside in INSIDES), text


def test_no_change_no_words() -> None:
    """Equal states have no difference."""
    assert told(BASE, BASE) == ()


@pytest.mark.parametrize(
    ("mine", "theirs", "both"),
    [
        (
            with_readings(Reading(id="m", subject="caramel", typed="8.9")),
            label(rows={RowId.FAT: "13"}),
            replace(
                label(rows={RowId.FAT: "13"}),
                study=replace(
                    label(rows={RowId.FAT: "13"}).study,
                    readings=with_readings(Reading(id="m", subject="caramel", typed="8.9")).study.readings,
                ),
            ),
        ),
        (study(maker="X"), study(maker="X"), study(maker="X")),
        (with_readings(drop=("caramel-1",)), with_readings(drop=("caramel-2",)), with_readings(drop=("caramel-1", "caramel-2"))),
        (study(doubted=("row:fat",)), study(doubted=("net_weight",)), study(doubted=("net_weight", "row:fat"))),
        (study(layers=(CARAMEL, COAT, NUTS)), study(layers=(CARAMEL, COAT, NUTS)), study(layers=(CARAMEL, COAT, NUTS))),
        (study(layers=(CARAMEL, COAT, NUTS)), study(maker="X"), study(maker="X", layers=(CARAMEL, COAT, NUTS))),
        (
            study(placements={"salt": {"coat": Whereabouts.NO}}),
            study(placements={"salt": {"nuts": Whereabouts.YES}}),
            study(placements={"salt": {"nuts": Whereabouts.YES, "coat": Whereabouts.NO}}),
        ),
    ],
)
def test_different_things_come_together(mine: Match, theirs: Match, both: Match) -> None:
    """Without a question, and whichever came first."""
    assert together(mine, theirs) == both
    assert together(theirs, mine) == both


def test_equal_readings_of_two_windows_are_two() -> None:
    """A 0.1 g scale says the same twice."""
    mine, theirs = (with_readings(Reading(id=key, subject="caramel", typed="8.6")) for key in ("m", "t"))
    outcome = together(mine, theirs)
    assert isinstance(outcome, Match)
    assert [one.typed for one in outcome.study.readings if one.subject == "caramel"] == ["8.7", "8.5", "8.6", "8.6"]


@pytest.mark.parametrize(
    ("mine", "theirs", "question"),
    [
        (study(maker="Mine"), study(maker="Theirs"), ("Maker", "“Mine”", "“Theirs”")),
        (label(rows={RowId.FAT: "13"}), label(rows={}), ("Fat", "“13”", "taken away")),
        (with_amount("4"), with_amount("6"), ("Faithful version, Caramel, Heavy cream", "“4 g”", "“6 g”")),
        (
            study(layers=(CARAMEL, COAT, NUTS)),
            study(layers=(NUTS, COAT, CARAMEL)),
            ("Layers", "“Caramel, Dark coat, Nuts”", "“Nuts, Dark coat, Caramel”"),
        ),
        (
            with_readings(drop=("caramel-2",)),
            study(readings=weighed({"caramel": ("8.7", "9.5"), "nuts": ("2.1",)})),
            ("Caramel, reading 2", "taken away", "“9.5 g”"),
        ),
    ],
)
def test_the_same_thing_asks_unless_decided(mine: Match, theirs: Match, question: tuple[str, str, str]) -> None:
    """With both values in words; deciding gives mine."""
    assert asked(together(mine, theirs)) == [question]
    assert together(mine, theirs, prefer_mine=True) == mine


def test_an_order_is_asked_about_by_what_is_ordered() -> None:
    """Versions by their names, not by ids."""
    second, third = (replace(VERSION, id=key, name=name) for key, name in (("b", "Vegan"), ("c", "Keto")))
    base, mine, theirs = (
        replace(BASE, versions=order) for order in ((VERSION, second, third), (third, VERSION, second), (second, VERSION, third))
    )
    assert asked(together(mine, theirs, base=base)) == [
        ("Versions", "“Keto version, Faithful version, Vegan version”", "“Vegan version, Faithful version, Keto version”")
    ]


WEIGHED_NUTS = with_readings(Reading(id="m", subject="nuts", typed="2.3"))
PLACED_NUTS = study(placements={"salt": {"nuts": Whereabouts.YES}})
RENAMED_NUTS = study(layers=(COAT, CARAMEL, replace(NUTS, name="Pecans")))
NO_NUTS = study(layers=(COAT, CARAMEL), readings=weighed({"caramel": ("8.7", "8.5")}))


@pytest.mark.parametrize("used", [WEIGHED_NUTS, PLACED_NUTS, RENAMED_NUTS])
def test_what_hangs_on_something_removed_asks(used: Match) -> None:
    """Keeping the use brings the layer back with all that hung on it; keeping the removal lets the use go."""
    title, mine, theirs = asked(together(used, NO_NUTS))[0]
    assert "(layer)" in title
    assert (mine, theirs) == ("still used and changed", "removed")
    assert asked(together(NO_NUTS, used))[0][1:] == ("removed", "still used and changed")
    assert together(used, NO_NUTS, prefer_mine=True) == used
    assert together(NO_NUTS, used, prefer_mine=True) == NO_NUTS


def test_a_batch_of_a_version_removed_meanwhile_asks() -> None:
    """It never goes in silence."""
    base = replace(BASE, batches=())
    mine, theirs = BASE, replace(base, versions=())
    assert asked(together(mine, theirs, base=base)) == [("Faithful (version)", "still used and changed", "removed")]
    assert together(mine, theirs, base=base, prefer_mine=True) == BASE
    assert together(theirs, mine, base=base, prefer_mine=True) == theirs


def test_deciding_keeps_what_the_other_window_added() -> None:
    """The question was about the maker; the other window's layer and order stay."""
    jelly = Layer(id="jelly", name="Jelly", family="fruit-jelly", place=Place.STACK)
    theirs = study(maker="Theirs", layers=(CARAMEL, COAT, NUTS, jelly))
    wafer = Layer(id="wafer", name="Wafer", family="wafer-sheet", place=Place.STACK)
    outcome = together(study(maker="Mine", layers=(COAT, wafer, CARAMEL, NUTS)), theirs, prefer_mine=True)
    assert isinstance(outcome, Match)
    assert outcome.study.maker == "Mine"
    assert [layer.id for layer in outcome.study.layers] == ["caramel", "coat", "wafer", "nuts", "jelly"]


def test_layers_added_in_two_windows_are_both_there() -> None:
    """Each where it was put."""
    jelly, wafer = (Layer(id=key, name=key, family="fruit-jelly", place=Place.STACK) for key in ("jelly", "wafer"))
    both = together(study(layers=(COAT, CARAMEL, NUTS, jelly)), study(layers=(wafer, COAT, CARAMEL, NUTS)))
    assert isinstance(both, Match)
    assert [layer.id for layer in both.study.layers] == ["wafer", "coat", "caramel", "nuts", "jelly"]


def test_two_kitchens_come_together() -> None:
    """As two matches do."""
    mine, theirs = House(kitchen=Kitchen(altitude="1600 m")), House(kitchen=Kitchen(scale_step="1 g"))
    assert merged(House(), mine, theirs, names()) == House(kitchen=Kitchen(altitude="1600 m", scale_step="1 g"))


@given(matches(), matches(), matches())
def test_merging_loses_nothing_and_a_preference_never_asks(base: Match, mine: Match, theirs: Match) -> None:
    """Where it does not ask, every text of each side that the base did not have is in the outcome; nothing dangles anew."""
    assert isinstance(together(mine, theirs, base=base, prefer_mine=True), Match)
    outcome = together(mine, theirs, base=base)
    if isinstance(outcome, Clashes):
        assert outcome.fields
        return
    for side in (mine, theirs):
        for entries in ("readings", "layers"):
            was, now = (set(getattr(one.study, entries)) for one in (base, outcome))
            added = {entry for entry in getattr(side.study, entries) if entry.id not in {one.id for one in was}}
            assert {entry.id for entry in added} <= {entry.id for entry in now}, entries
        assert {plan.id for plan in side.batches} - {plan.id for plan in base.batches} <= {plan.id for plan in outcome.batches}
    dangling = {link.place for one in (base, mine, theirs) for link in links(one) if not stands(one, link.kind, link.target)}
    assert {link.place for link in links(outcome) if not stands(outcome, link.kind, link.target)} <= dangling


def stands(match: Match, kind: str, target: str) -> bool:
    """Whether something pointed at is there."""
    entries: dict[str, tuple[Any, ...]] = {"layer": match.study.layers, "version": match.versions}
    return target == "piece" or target in {entry.id for entry in entries[kind]}


@given(matches(), matches())
def test_one_side_alone_is_that_side(base: Match, mine: Match) -> None:
    """Merging with nothing changes nothing."""
    assert together(mine, base, base=base) == mine
    assert together(base, mine, base=base) == mine
