"""A match as fields: there and back, differences in words, two changes in one."""

from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from tests.any_match import matches

from fern_match.core.food import Pantry, standard_pantry
from fern_match.core.formulate import Version
from fern_match.core.history import Clashes, changes, fields_of, match_of, merged
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.match import BatchPlan, Match
from fern_match.core.study.record import LabelText, Layer, PieceSize, Place, Study, Whereabouts

COAT = Layer(id="coat", name="Dark coat", family="dark-coat", place=Place.COAT)
CARAMEL = Layer(id="caramel", name="Caramel", family="soft-caramel", place=Place.STACK)
NUTS = Layer(id="nuts", name="Nuts", family="whole-nuts", place=Place.INCLUSION, host="caramel")
VERSION = Version(id="v", name="Faithful", parent=None, layers=())
BASE = Match(
    study=Study(
        name="Lime Quay",
        label=LabelText(net_weight="36 g", rows={RowId.FAT: "12"}),
        statement="Sugar, cream",
        layers=(COAT, CARAMEL, NUTS),
        weighings={"caramel": ("8.7", "8.5")},
    ),
    versions=(VERSION,),
    batches=(BatchPlan(id="b", version_id="v", pieces="24", left_on_tools={"coat": "3"}),),
)


def study(**parts: Any) -> Match:
    """The base with a changed study."""
    return replace(BASE, study=replace(BASE.study, **parts))


def label(**parts: Any) -> Match:
    """The base with a changed label."""
    return study(label=replace(BASE.study.label, **parts))


def test_fields_hold_the_whole_match() -> None:
    """There and back again."""
    assert match_of(fields_of(BASE)) == BASE


@pytest.mark.parametrize(
    ("after", "words"),
    [
        (study(weighings={"caramel": ("8.7", "8.1")}), "Caramel, reading 2: 8.1 g, was 8.5 g"),
        (study(weighings={"caramel": ("8.7", "8.5", "8.6")}), "Caramel, reading 3: 8.6 g"),
        (study(weighings={"caramel": ("8.7",)}), "Caramel, reading 2: taken away, was 8.5 g"),
        (study(weighings={"caramel": ("8.7", "8.5"), "piece": ("36",)}), "Whole piece, reading 1: 36 g"),
        (label(net_weight="38 g"), "Net weight: 38 g, was 36 g"),
        (label(rows={RowId.FAT: "13"}), "Fat: 13, was 12"),
        (label(rows={RowId.FAT: "12", RowId.SUGARS: "40"}), "Sugars: 40"),
        (label(basis=Basis.SERVING), "Figures are per: serving, was 100 g"),
        (study(region=Region.US), "Label from: US, was EU"),
        (study(name="Lime Key"), "Name: Lime Key, was Lime Quay"),
        (
            study(layers=(replace(COAT, family="milk-coat"), CARAMEL, NUTS)),
            "family: Milk chocolate coat, was Dark chocolate coat",
        ),
        (study(layers=(CARAMEL, COAT, NUTS)), "Order of layers changed"),
        (study(layers=(COAT, CARAMEL)), "Nuts: layer removed"),
        (study(placements={("salt", "coat"): Whereabouts.NO}), "salt in Dark coat: no"),
        (study(corrections={"sugar": "icing-sugar"}), "“sugar” taken for: Icing sugar (3 % starch)"),
        (study(doubted=frozenset({"row:fat"})), "Evidence switched off: fat"),
        (replace(BASE, batches=(replace(BASE.batches[0], pieces="12"),)), "Pieces wanted: 12, was 24"),
        (replace(BASE, batches=(replace(BASE.batches[0], left_on_tools={"coat": "5"}),)), "Dark coat, stays on tools: 5, was 3"),
        (replace(BASE, batches=(replace(BASE.batches[0], in_house={"honey": "2 tbsp"}),)), "Honey, in the house: 2 tbsp"),
        (study(size=PieceSize(width="1 1/2 in")), "Piece, wide: 1 1/2 in"),
        (replace(BASE, versions=(), batches=()), "Version removed"),
    ],
)
def test_changes_are_told_in_words(after: Match, words: str, pantry: Pantry) -> None:
    """What a user would say."""
    assert any(words in sentence for sentence in changes(BASE, after, pantry)), changes(BASE, after, pantry)


def test_a_field_that_appears_empty_says_nothing(pantry: Pantry) -> None:
    """A version taken from the estimate brings a batch whose pieces are still to say; and back."""
    without = replace(BASE, versions=(), batches=())
    with_empty = replace(BASE, batches=(BatchPlan(id="b", version_id="v", pieces=""),))
    assert changes(without, with_empty, pantry) == ("Version taken from the estimate",)
    assert changes(with_empty, without, pantry) == ("Version removed",)


@given(matches(), matches())
def test_words_never_show_the_inside_of_the_program(before: Match, after: Match) -> None:
    """Whatever changed."""
    assert not [sentence for sentence in changes(before, after, standard_pantry()) if "<object" in sentence]


def test_no_change_no_words(pantry: Pantry) -> None:
    """Silence."""
    assert changes(BASE, BASE, pantry) == ()


def test_different_fields_come_together() -> None:
    """One window weighs, the other copies the label."""
    mine = study(weighings={"caramel": ("8.7", "8.5", "8.9")})
    theirs = label(rows={RowId.FAT: "13"})
    both = merged(BASE, mine, theirs)
    assert isinstance(both, Match)
    assert both.study.weighings["caramel"] == ("8.7", "8.5", "8.9")
    assert both.study.label.rows == {RowId.FAT: "13"}


def test_the_same_change_twice_is_one() -> None:
    """No question where both say the same."""
    assert merged(BASE, study(maker="X"), study(maker="X")) == study(maker="X")


def test_the_same_field_asks_unless_decided() -> None:
    """With both values in words."""
    outcome = merged(BASE, study(maker="Mine"), study(maker="Theirs"))
    assert isinstance(outcome, Clashes)
    assert [(one.title, one.mine, one.theirs) for one in outcome.fields] == [("Maker", "“Mine”", "“Theirs”")]
    assert merged(BASE, study(maker="Mine"), study(maker="Theirs"), prefer_mine=True) == study(maker="Mine")


def test_layers_added_in_two_windows_are_both_there() -> None:
    """In an order that holds both."""
    jelly, wafer = (Layer(id=key, name=key, family="fruit-jelly", place=Place.STACK) for key in ("jelly", "wafer"))
    both = merged(BASE, study(layers=(COAT, CARAMEL, NUTS, jelly)), study(layers=(wafer, COAT, CARAMEL, NUTS)))
    assert isinstance(both, Match)
    assert [layer.id for layer in both.study.layers] == ["wafer", "coat", "caramel", "nuts", "jelly"]


def test_a_layer_removed_and_edited_at_once_stays_whole() -> None:
    """Never half a layer."""
    outcome = merged(BASE, study(layers=(COAT, CARAMEL)), study(layers=(COAT, CARAMEL, replace(NUTS, name="Pecans"))))
    assert isinstance(outcome, Clashes)
    assert [(one.title, one.mine, one.theirs) for one in outcome.fields] == [("Pecans, name", "taken away", "“Pecans”")]
    decided = merged(
        BASE, study(layers=(COAT, CARAMEL, replace(NUTS, name="Pecans"))), study(layers=(COAT, CARAMEL)), prefer_mine=True
    )
    assert isinstance(decided, Match)
    assert [layer.id for layer in decided.study.layers] == ["coat", "caramel"]


@given(matches())
def test_any_match_goes_to_fields_and_back(match: Match) -> None:
    """Nothing is lost on the way."""
    assert match_of(fields_of(match)) == match


@given(matches(), matches(), matches())
def test_merging_keeps_every_change_of_one_side(base: Match, mine: Match, theirs: Match) -> None:
    """Where it does not ask, fields only one side changed have that side's value; a preference never asks."""
    outcome = merged(base, mine, theirs)
    assert isinstance(merged(base, mine, theirs, prefer_mine=True), Match)
    if isinstance(outcome, Clashes):
        assert outcome.fields
        return
    was, my, their, now = (fields_of(one) for one in (base, mine, theirs, outcome))
    for field in {*was, *my, *their}:
        if field[0] in {"layer", "layer order", "reading"}:
            continue  # whole lists are checked by their own tests
        changed = my.get(field) if my.get(field) != was.get(field) else their.get(field)
        assert now.get(field) == changed, field


@given(matches(), matches())
def test_one_side_alone_is_that_side(base: Match, mine: Match) -> None:
    """Merging with nothing changes nothing."""
    assert merged(base, mine, base) == mine
    assert merged(base, base, mine) == mine
