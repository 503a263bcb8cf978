"""The worked examples of adapting, with their figures."""

from dataclasses import replace

import pytest
from tests.bench import FAMILIES, PANTRY, READING, base, breaks, caramel, formula, ganache, held_to, recomputed

from fern_match.core.adapt import Adapted, adapted, rules_of
from fern_match.core.adapt.consequences import process_notes, warnings
from fern_match.core.adapt.limits import LOAD, shared_limits
from fern_match.core.food import Nutrient
from fern_match.core.formulate import Formula, Property
from fern_match.core.formulate.record.properties import amount_of
from fern_match.core.label.rows import Region
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study

US = StudyReading(Study(name="bench", region=Region.US), PANTRY)


def under(rules: list[str], what: Formula, serving_g: float, reading: StudyReading = US) -> Adapted:
    """Proposals for a formula that is held to what it gives."""
    asked = rules_of(rules, reading.study.region, PANTRY)
    targets = held_to(what, reading)
    return adapted(what, targets, asked, reading, serving_g=serving_g)


def in_total(what: Formula, column: Nutrient) -> float:
    """A nutrient of a piece from the table alone [g]."""
    return sum(recomputed(one, column) for one in what.layers)


def test_sugar_free_caramel_in_the_us() -> None:
    """20 g of caramel in a serving: under 0.5 g of sugars, load under 1, by two systems; one within 5 % of the sweetness."""
    small = caramel()
    more = 20 / small.finished_g
    large = replace(
        small,
        water_lost_g=more * small.water_lost_g,
        ingredients=tuple(replace(one, grams=more * one.grams) for one in small.ingredients),
    )
    piece = formula(large)
    found = under(["sugar-free"], piece, piece.piece_g)
    assert len(found.proposals) >= 2
    assert len({one.system for one in found.proposals}) == len(found.proposals)
    sweetness = amount_of(piece.layers, Property.SWEETNESS, PANTRY)
    apart = []
    for one in found.proposals:
        made = one.formula.layers[0]
        assert in_total(one.formula, Nutrient.SUGARS) < 0.5
        assert one.load < 1
        assert not breaks(made, made.finished_g)
        erythritol = sum(entry.grams for entry in made.ingredients if entry.ingredient_id == "erythritol")
        assert erythritol <= 0.08 * made.added_g + 1e-6
        apart.append(abs(amount_of(one.formula.layers, Property.SWEETNESS, PANTRY) / sweetness - 1))
        notes = process_notes(one, piece, FAMILIES, PANTRY)
        assert any("to weight, not to a temperature" in note for note in notes)
    assert min(apart) <= 0.05


def test_vegan_ganache() -> None:
    """No animal and no doubtful line, fat and water within a point, fat added at 35 to 40 °C where cocoa butter stands in."""
    piece = formula(ganache())
    found = under(["vegan"], piece, 40)
    assert {one.ingredient_id for one in found.breaches} >= {"heavy-cream", "butter-unsalted"}
    assert len(found.proposals) >= 2
    for one in found.proposals:
        made = one.formula.layers[0]
        assert all(PANTRY[entry.ingredient_id].vegan == "yes" for entry in made.ingredients)
        assert not breaks(made, made.finished_g)
    closest = found.proposals[0].formula.layers[0]
    for column in (Nutrient.FAT, Nutrient.WATER):
        before = recomputed(ganache(), column) / ganache().finished_g
        assert recomputed(closest, column) / closest.finished_g == pytest.approx(before, abs=0.01), column
    stood_in = [
        one for one in found.proposals if any(entry.swap and entry.swap.id == "v-butter-cocoa" for entry in one.lines["ganache"])
    ]
    assert all(any("35 to 40 °C" in note for note in process_notes(one, piece, FAMILIES, PANTRY)) for one in stood_in)


def test_keto_short_base() -> None:
    """A short base becomes the family that is made for it: under the limit, with what becomes of crumb and handling."""
    piece = formula(base())
    found = under(["keto:1"], piece, piece.piece_g)
    assert found.proposals
    for one in found.proposals:
        made = one.formula.layers[0]
        net = sum(
            entry.grams
            / 100
            * max(
                0.0,
                (PANTRY[entry.ingredient_id].per_100_g[Nutrient.CARBOHYDRATE] or 0)
                - (PANTRY[entry.ingredient_id].per_100_g[Nutrient.FIBRE] or 0)
                - (PANTRY[entry.ingredient_id].per_100_g[Nutrient.ALLULOSE] or 0)
                - (PANTRY[entry.ingredient_id].per_100_g[Nutrient.POLYOLS] or 0)
                * (1.0 if PANTRY[entry.ingredient_id].polyol_kind == "erythritol" else 0.5),
            )
            for entry in made.ingredients
        )
        assert net <= 1
        assert made.family == "keto-short-base"
        assert not breaks(made, made.finished_g)
        assert any("crumb" in note.lower() for note in process_notes(one, piece, FAMILIES, PANTRY))
        told = warnings(one, piece, rules_of(["keto:1"], Region.US, PANTRY), READING, piece.piece_g)
        assert any("clinician" in sentence for sentence in told)


def test_no_allulose_where_it_is_not_authorised() -> None:
    """Under an EU label neither the system nor any line of it; under a US label it is one of the ways."""
    piece = formula(caramel())
    for reading, there in ((US, True), (READING, False)):
        found = under(["sugar-free"], piece, piece.piece_g, reading)
        used = {entry.ingredient_id for one in found.proposals for made in one.formula.layers for entry in made.ingredients}
        assert any("allulose" in key for key in used) is there, reading.study.region


def test_a_serving_stays_below_what_upsets_a_stomach() -> None:
    """A serving of 20 g of a 40 g piece: the load of the piece stays within two doses, a hair under; it is a limit of its own."""
    rules = rules_of(["sugar-free"], Region.EU, PANTRY)
    load = next(one for one in shared_limits(rules, 40.0, 20.0) if one.id == LOAD)
    assert load.most == pytest.approx(2.0, rel=0.002)
    assert load.most < 2.0
    assert 60 * load.weigh(PANTRY["maltitol-powder"]) == pytest.approx(2, abs=0.05)  # 60 g of maltitol are about two doses
    assert not [one for one in shared_limits(rules_of(["vegan"], Region.EU, PANTRY), 40.0, 20.0) if one.id == LOAD]


def test_a_layer_whose_wanted_weight_is_not_read_keeps_the_one_it_has() -> None:
    """The caramel's weight is emptied: proposals make it as heavy as it is, not of nothing."""
    whole = formula(caramel(), ganache())
    reading = READING
    read = [one for one in held_to(whole, reading) if not (one.layer_id == "caramel" and one.what is Property.MASS)]
    found = adapted(whole, read, rules_of(["vegan"], Region.EU, PANTRY), reading, serving_g=whole.piece_g, explain=False)
    assert found.proposals
    for one in found.proposals:
        assert one.formula.layers[0].finished_g == pytest.approx(whole.layers[0].finished_g, abs=0.01)
