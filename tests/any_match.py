"""Any small match: studies, versions and batches with odd texts in every field, for property tests."""

from hypothesis import strategies as st

from fern_match.core.batch import BatchPlan
from fern_match.core.food import standard_pantry
from fern_match.core.formulate import (
    Origin,
    OriginKind,
    Property,
    Shaping,
    Version,
    VersionIngredient,
    VersionLayer,
    VersionTarget,
)
from fern_match.core.formulate.record.version import NoteKind, VersionNote
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.match import Match
from fern_match.core.study.record import (
    LabelText,
    Layer,
    Meaning,
    PieceSize,
    Place,
    Reading,
    Spot,
    Study,
    Thickness,
    Whereabouts,
)
from fern_match.core.trials.record import Day, FaultSeen, Kept, OwnSense, Serving, Sheet, Tasting, Trial, Whose

_LAYERS = (
    Layer(id="coat", name="Dark coat", family="dark-coat", place=Place.COAT),
    Layer(id="caramel", name="Caramel", family="soft-caramel", place=Place.STACK),
    Layer(id="nuts", name="Nuts", family="whole-nuts", place=Place.INCLUSION, host="caramel"),
    Layer(id="second", name="", family="no-such-family", place=Place.TOPPING),
)
_IDS = st.sampled_from([layer.id for layer in _LAYERS])
_ITEMS = st.sampled_from(["sugar", "dark chocolate > sugar", "salt"])
_FOODS = st.sampled_from(["honey", "white-sugar", "whole-egg"])
INSIDES = ("<object", "(id=", "Version(", "absent", "Whereabouts.", "{0}")  # what only the program says; nobody types it here
_ODD = st.text(
    st.characters(min_codepoint=32, max_codepoint=0x2FFF, exclude_categories=("Cs", "Cc")), min_size=1, max_size=20
).filter(lambda text: not any(inside in text for inside in INSIDES))
TEXTS = st.one_of(st.sampled_from(["8.1 g", "12,5", "2 tbsp", "=1+1", "<b>x</b>", "lots"]), _ODD)
_MAYBE = st.one_of(st.just(""), TEXTS)
_AMOUNTS = st.one_of(st.floats(0, 500, allow_nan=False).map(lambda grams: f"{grams:.4f} g"), TEXTS)


@st.composite
def studies(draw: st.DrawFn) -> Study:
    """Any small study."""
    order = draw(st.permutations(_LAYERS))
    return Study(
        name=draw(_MAYBE),
        maker=draw(_MAYBE),
        region=draw(st.sampled_from(list(Region))),
        label=LabelText(
            net_weight=draw(_MAYBE),
            pieces_per_pack=draw(_MAYBE),
            serving=draw(_MAYBE),
            basis=draw(st.sampled_from(list(Basis))),
            rows=draw(st.dictionaries(st.sampled_from(list(RowId)), TEXTS, max_size=3)),
            other_rows=draw(st.dictionaries(st.sampled_from(list(RowId)), TEXTS, max_size=2)),
            servings=draw(_MAYBE),
            price=draw(_MAYBE),
        ),
        statement=draw(_MAYBE),
        corrections=draw(st.dictionaries(_ITEMS, st.sampled_from(["none", "white-sugar"]), max_size=2)),
        layers=tuple(order[: draw(st.integers(0, len(order)))]),
        placements=draw(
            st.dictionaries(_ITEMS, st.dictionaries(_IDS, st.sampled_from(list(Whereabouts)), min_size=1, max_size=2), max_size=2)
        ),
        readings=tuple(
            Reading(id=key, subject=draw(st.one_of(st.just("piece"), _IDS)), typed=draw(TEXTS))
            for key in draw(st.lists(st.sampled_from(["a", "b", "c", "d"]), unique=True, max_size=4))
        ),
        thicknesses=tuple(
            Thickness(id=key, layer=draw(_IDS), spot=draw(st.sampled_from(list(Spot))), typed=draw(TEXTS))
            for key in draw(st.lists(st.sampled_from(["a", "b"]), unique=True, max_size=2))
        ),
        meanings=draw(st.dictionaries(_ITEMS, st.sampled_from(list(Meaning)), max_size=2)),
        size=PieceSize(length=draw(_MAYBE), width=draw(_MAYBE), height=draw(_MAYBE)),
        doubted=tuple(sorted(draw(st.sets(st.sampled_from(["row:fat", "net_weight"]))))),
    )


@st.composite
def versions(draw: st.DrawFn, version_id: str) -> Version:
    """Any small version."""
    layers = []
    for layer_id in draw(st.lists(_IDS, unique=True, max_size=2)):
        lines = [
            VersionIngredient(
                id=key,
                ingredient=draw(_FOODS),
                name=draw(TEXTS),
                role="any",
                amount=draw(_AMOUNTS),
                locked=draw(st.booleans()),
                least=draw(_MAYBE),
                part=draw(_MAYBE),
            )
            for key in draw(st.lists(st.sampled_from(["one", "two"]), unique=True, max_size=2))
        ]
        layers.append(
            VersionLayer(
                id=layer_id,
                name=draw(TEXTS),
                family="soft-caramel",
                water_lost=draw(_AMOUNTS),
                shaping=draw(st.none() | st.sampled_from(list(Shaping))),
                ingredients=tuple(lines),
            )
        )
    return Version(
        id=version_id,
        name=draw(TEXTS),
        parent=draw(st.none() | st.just("other")),
        origin=Origin(
            kind=draw(st.sampled_from(list(OriginKind))),
            key=draw(st.sampled_from(["", "ab12"])),
            rules=tuple(draw(st.lists(st.sampled_from(["vegan", "keto:4", "without-milk"]), unique=True, max_size=2))),
        ),
        layers=tuple(layers),
        targets=tuple(
            VersionTarget(
                id=key,
                layer=draw(st.none() | st.sampled_from([layer.id for layer in layers])) if layers else None,
                property=draw(st.sampled_from(list(Property))),
                wanted=draw(_MAYBE),
                tolerance=draw(_MAYBE),
            )
            for key in draw(st.lists(st.sampled_from(["t", "u"]), unique=True, max_size=2))
        ),
        notes=tuple(
            VersionNote(id=key, kind=draw(st.sampled_from(list(NoteKind))), text=draw(TEXTS))
            for key in draw(st.lists(st.sampled_from(["m", "n"]), unique=True, max_size=2))
        ),
    )


@st.composite
def trials(draw: st.DrawFn, trial_id: str, batch_id: str) -> Trial:
    """Any small trial of a batch."""
    reached = st.sampled_from(["caramel--end_heat", "coat--foil_dull", "--room", "gone--no-clue"])
    marks = st.dictionaries(st.sampled_from(["sweet", "snap", "own"]), TEXTS, max_size=2)
    serving = Serving(id="s", codes=("123", "456", "789"), pieces=(Whose.COPY, Whose.ORIGINAL, Whose.COPY), answer=draw(_MAYBE))
    return Trial(
        id=trial_id,
        batch=batch_id,
        name=draw(_MAYBE),
        made=draw(_MAYBE),
        weighed=draw(st.dictionaries(st.one_of(st.just("piece"), _IDS), TEXTS, max_size=2)),
        thick=draw(st.dictionaries(_IDS, TEXTS, max_size=1)),
        reached=draw(st.dictionaries(reached, TEXTS, max_size=2)),
        went_in=draw(st.dictionaries(st.just("caramel--one"), TEXTS, max_size=1)),
        left=draw(st.dictionaries(_IDS, TEXTS, max_size=1)),
        faults=tuple(
            FaultSeen(id=key, fault=draw(st.sampled_from(["caramel-runny", "no-such-fault"])), layer=draw(_MAYBE))
            for key in draw(st.lists(st.sampled_from(["f", "g"]), unique=True, max_size=2))
        ),
        sheets=(Sheet(id="s", original=draw(marks), copy=draw(marks), words=draw(_MAYBE)),) if draw(st.booleans()) else (),
        senses=(OwnSense(id="own", name=draw(_MAYBE)),) if draw(st.booleans()) else (),
        tastings=(Tasting(id="t", servings=(serving,)),) if draw(st.booleans()) else (),
        days=(Day(id="d", days=draw(_MAYBE), kept=draw(st.sampled_from(list(Kept)))),) if draw(st.booleans()) else (),
    )


@st.composite
def matches(draw: st.DrawFn) -> Match:
    """Any small match."""
    kept = [draw(versions(key)) for key in draw(st.lists(st.sampled_from(["v", "w"]), unique=True, max_size=2))]
    plans = [
        BatchPlan(
            id=f"batch-{version.id}",
            version=version.id,
            pieces=draw(_MAYBE),
            left_on_tools=draw(st.dictionaries(_IDS, TEXTS, max_size=2)),
            in_house=draw(st.dictionaries(_FOODS, TEXTS, max_size=2)),
        )
        for version in kept
        if draw(st.booleans())
    ]
    pinned = tuple(standard_pantry()[key] for key in draw(st.lists(_FOODS, unique=True, max_size=2)))
    tried = tuple(draw(trials(f"trial-{plan.id}", plan.id)) for plan in plans if draw(st.booleans()))
    return Match(study=draw(studies()), versions=tuple(kept), batches=tuple(plans), trials=tried, pinned=pinned)
