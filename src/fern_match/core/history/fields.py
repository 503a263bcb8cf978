"""A match as single fields: one entry for each thing a user can commit, and back again."""

from collections.abc import Mapping
from typing import Any

from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.match import BatchPlan, Match
from fern_match.core.study.record import LabelText, Layer, PieceSize, Place, Study, Whereabouts

Field = tuple[str, ...]  # what it is, then which one
Fields = dict[Field, Any]
_STUDY_TEXTS = ("name", "maker", "statement")
_LABEL_TEXTS = ("net_weight", "pieces_per_pack", "serving")
_SIZE_PARTS = ("length", "width", "height")
LAYER_PARTS = ("name", "family", "place", "host")


def fields_of(match: Match) -> Fields:
    """Every field of a match with its value; what is not there has no entry.

    Args:
        match: All of it.
    """
    study = match.study
    fields: Fields = {(name,): getattr(study, name) for name in _STUDY_TEXTS}
    fields |= {(name,): getattr(study.label, name) for name in _LABEL_TEXTS}
    fields |= {("size", part): getattr(study.size, part) for part in _SIZE_PARTS}
    fields["region",] = study.region
    fields["basis",] = study.label.basis
    fields["layer order",] = tuple(layer.id for layer in study.layers)
    fields |= {("row", row.value): typed for row, typed in study.label.rows.items()}
    fields |= {("correction", item): food for item, food in study.corrections.items()}
    fields |= {("placement", item, layer): where for (item, layer), where in study.placements.items()}
    fields |= {("doubt", evidence): True for evidence in study.doubted}
    for layer in study.layers:
        fields |= {("layer", layer.id, part): getattr(layer, part) for part in LAYER_PARTS}
    for subject, readings in study.weighings.items():
        fields |= {("reading", subject, f"{number:03d}"): typed for number, typed in enumerate(readings)}
    fields |= {("version", version.id): version for version in match.versions}
    fields["version order",] = tuple(version.id for version in match.versions)
    fields["batch order",] = tuple(plan.id for plan in match.batches)
    for plan in match.batches:
        fields["batch", plan.id] = plan.version_id
        fields["pieces", plan.id] = plan.pieces
        fields |= {("loss", plan.id, layer): typed for layer, typed in plan.left_on_tools.items()}
        fields |= {("in house", plan.id, food): typed for food, typed in plan.in_house.items()}
    return fields


def match_of(fields: Mapping[Field, Any]) -> Match:
    """The match that fields describe; order lists decide what exists, and an order's missing entries are left out.

    Args:
        fields: As `fields_of` gives them, perhaps merged.
    """
    versions = [fields["version", key] for key in fields["version order",] if ("version", key) in fields]
    known = {version.id for version in versions}
    batches = [
        BatchPlan(
            id=key,
            version_id=fields["batch", key],
            pieces=fields.get(("pieces", key), ""),
            left_on_tools={path[2]: typed for path, typed in fields.items() if path[:2] == ("loss", key)},
            in_house={path[2]: typed for path, typed in fields.items() if path[:2] == ("in house", key)},
        )
        for key in fields["batch order",]
        if fields.get(("batch", key)) in known
    ]
    return Match(study=_study(fields), versions=tuple(versions), batches=tuple(batches))


def _study(fields: Mapping[Field, Any]) -> Study:
    layers = [
        Layer(
            id=key,
            name=fields["layer", key, "name"],
            family=fields["layer", key, "family"],
            place=Place(fields["layer", key, "place"]),
            host=fields["layer", key, "host"],
        )
        for key in fields["layer order",]
        if all(("layer", key, part) in fields for part in LAYER_PARTS)
    ]
    readings: dict[str, list[tuple[str, str]]] = {}
    for path, typed in fields.items():
        if path[0] == "reading":
            readings.setdefault(path[1], []).append((path[2], typed))
    return Study(
        **{name: fields[name,] for name in _STUDY_TEXTS},
        region=Region(fields["region",]),
        label=LabelText(
            **{name: fields[name,] for name in _LABEL_TEXTS},
            basis=Basis(fields["basis",]),
            rows={RowId(path[1]): typed for path, typed in fields.items() if path[0] == "row"},
        ),
        corrections={path[1]: food for path, food in fields.items() if path[0] == "correction"},
        layers=tuple(layers),
        placements={(path[1], path[2]): Whereabouts(where) for path, where in fields.items() if path[0] == "placement"},
        weighings={subject: tuple(typed for _, typed in sorted(entries)) for subject, entries in readings.items()},
        size=PieceSize(**{part: fields["size", part] for part in _SIZE_PARTS}),
        doubted=frozenset(path[1] for path in fields if path[0] == "doubt"),
    )
