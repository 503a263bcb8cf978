"""Whatever is typed of gear and of a plan, there is a batch that adds up, a sentence, or something still to say."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.batch.test_portions import read

from fern_match.core.batch import Keeps, PlanBy
from fern_match.core.kitchen import Gear, GearKind, GearShape, Kitchen, Pack, Tool

TYPED = st.sampled_from(
    [
        *[
            "0",
            "-1",
            "1e9",
            "0.001",
            "abc",
            "1/0",
            "∞",
            "nan",
            "٣",
            "#0",
            "#999",
            "#60",
            "½",
            "-0",
            "1,5",
            "1.5.5",
            "24",
            "12",
            "2",
            "60",
            "200",
        ],
        "",
        "\ud800",
        "9" * 180,
        "5 cm",
        "1 in",
    ]
)
GEAR = st.builds(
    Gear,
    id=st.just("gear"),
    name=st.sampled_from(["Mine", "N" * 120]),
    kind=st.sampled_from(GearKind),
    shape=st.sampled_from(GearShape),
    halves=st.booleans(),
    **dict.fromkeys(("length", "width", "depth", "volume", "cavities"), TYPED),
)
KITCHENS = st.builds(
    Kitchen,
    gear=st.lists(GEAR, min_size=1, max_size=1).map(tuple),
    lacks=st.sampled_from([(), (Tool.SCALE,)]),
    packs=st.builds(Pack, id=st.just("white-sugar"), size=TYPED, price=TYPED).map(lambda one: (one,)),
)
CELLS = (
    *("pieces", "gear_count", "cut_length", "cut_width", "trim", "rolled", "amount", "shell", "cap", "dip_depth"),
    *("breaks", "room", "humidity", "made_on"),
)
PLANS = st.fixed_dictionaries(
    {
        **dict.fromkeys(CELLS, TYPED),
        "by": st.sampled_from(PlanBy),
        "keeps": st.sampled_from(Keeps),
        "gear": st.sampled_from(["gear", "gone", ""]),
        "portioned": st.sampled_from(["caramel", "coat", "gone", ""]),
        "whole": st.sampled_from(["white-sugar", "gone", ""]),
        "dip_bowl": st.sampled_from(["gear", "gone", ""]),
        "in_house": st.dictionaries(st.sampled_from(["white-sugar", "gone"]), TYPED),
        "left_over": st.dictionaries(st.sampled_from(["caramel", "gone"]), TYPED),
    }
)


@given(KITCHENS, PLANS)
def test_any_plan_is_answered(kitchen: Kitchen, asked: dict[str, Any]) -> None:
    """Mass adds up to a billionth; without a batch there is a reason or a thing to say, never both."""
    found = read(kitchen, **asked)
    if found.batch is None:
        assert bool(found.problem) != bool(found.waits)
        return
    assert not found.problem
    assert not found.waits
    assert 1 <= found.batch.pieces <= 10_000
    for one in found.batch.layers:
        out = one.water_lost_g + one.left_on_tools_g + one.trimmed_g + one.spare_g + one.needed_g
        assert one.added_g == pytest.approx(out, rel=1e-9)
