"""Between rows and the core's match, both ways."""

from fern_match.core.formulate import Version, VersionIngredient, VersionLayer
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.match import BatchPlan, Match
from fern_match.core.study.record import LabelText, Layer, PieceSize, Place, Study, Whereabouts
from fern_match.store.tables import (
    BatchLossRow,
    BatchRow,
    CorrectionRow,
    DoubtRow,
    InHouseRow,
    LabelRowRow,
    LayerRow,
    MatchRow,
    PlacementRow,
    ReadingRow,
    VersionIngredientRow,
    VersionLayerRow,
    VersionRow,
)


def match_of(row: MatchRow) -> Match:
    """The match that rows hold.

    Args:
        row: With everything that hangs on it.
    """
    return Match(
        study=_study_of(row),
        versions=tuple(_version_of(version) for version in row.versions),
        batches=tuple(
            BatchPlan(
                id=batch.id,
                version_id=batch.version_id,
                pieces=batch.pieces,
                left_on_tools={loss.layer_id: loss.typed for loss in batch.losses},
                in_house={found.ingredient_id: found.typed for found in batch.in_house},
            )
            for batch in row.batches
        ),
    )


def _study_of(row: MatchRow) -> Study:
    weighings: dict[str, list[str]] = {}
    for reading in row.readings:
        weighings.setdefault(reading.subject, []).append(reading.typed)
    return Study(
        name=row.name,
        maker=row.maker,
        region=Region(row.region),
        label=LabelText(
            net_weight=row.net_weight,
            pieces_per_pack=row.pieces_per_pack,
            serving=row.serving,
            basis=Basis(row.basis),
            rows={RowId(label.row): label.typed for label in row.label_rows},
        ),
        statement=row.statement,
        corrections={correction.item: correction.ingredient_id for correction in row.corrections},
        layers=tuple(
            Layer(id=layer.id, name=layer.name, family=layer.family, place=Place(layer.place), host=layer.host)
            for layer in row.layers
        ),
        placements={(one.item, one.layer_id): Whereabouts(one.whereabouts) for one in row.placements},
        weighings={subject: tuple(texts) for subject, texts in weighings.items()},
        size=PieceSize(length=row.piece_length, width=row.piece_width, height=row.piece_height),
        doubted=frozenset(doubt.evidence_id for doubt in row.doubts),
    )


def _version_of(row: VersionRow) -> Version:
    return Version(
        id=row.id,
        name=row.name,
        parent=row.parent,
        layers=tuple(
            VersionLayer(
                layer_id=layer.layer_id,
                name=layer.name,
                family=layer.family,
                finished_g=layer.finished_g,
                water_lost_g=layer.water_lost_g,
                ingredients=tuple(
                    VersionIngredient(ingredient_id=one.ingredient_id, name=one.name, role=one.role, grams=one.grams)
                    for one in layer.ingredients
                ),
            )
            for layer in row.layers
        ),
    )


def write_single_fields(row: MatchRow, study: Study) -> None:
    """Puts a study's single fields on its row.

    Args:
        row: The match's own row.
        study: What to write.
    """
    row.name, row.maker, row.region = study.name, study.maker, study.region.value
    row.net_weight, row.pieces_per_pack = study.label.net_weight, study.label.pieces_per_pack
    row.serving, row.basis, row.statement = study.label.serving, study.label.basis.value, study.statement
    row.piece_length, row.piece_width, row.piece_height = study.size.length, study.size.width, study.size.height


def child_rows(match_id: str, match: Match) -> list[object]:
    """Every row that hangs on the match's own.

    Args:
        match_id: Whose.
        match: What to write.
    """
    study = match.study
    rows: list[object] = [LabelRowRow(match_id=match_id, row=row.value, typed=typed) for row, typed in study.label.rows.items()]
    rows += [CorrectionRow(match_id=match_id, item=item, ingredient_id=food) for item, food in study.corrections.items()]
    rows += [
        LayerRow(match_id=match_id, id=la.id, position=at, name=la.name, family=la.family, place=la.place.value, host=la.host)
        for at, la in enumerate(study.layers)
    ]
    rows += [
        PlacementRow(match_id=match_id, item=item, layer_id=layer_id, whereabouts=where.value)
        for (item, layer_id), where in study.placements.items()
    ]
    rows += [
        ReadingRow(match_id=match_id, subject=subject, position=at, typed=typed)
        for subject, texts in study.weighings.items()
        for at, typed in enumerate(texts)
    ]
    rows += [DoubtRow(match_id=match_id, evidence_id=evidence_id) for evidence_id in sorted(study.doubted)]
    for at, version in enumerate(match.versions):
        rows += _version_rows(match_id, at, version)
    for at, plan in enumerate(match.batches):
        rows.append(BatchRow(match_id=match_id, id=plan.id, position=at, version_id=plan.version_id, pieces=plan.pieces))
        rows += [
            BatchLossRow(match_id=match_id, batch_id=plan.id, layer_id=layer_id, typed=typed)
            for layer_id, typed in plan.left_on_tools.items()
        ]
        rows += [
            InHouseRow(match_id=match_id, batch_id=plan.id, ingredient_id=food, typed=typed)
            for food, typed in plan.in_house.items()
        ]
    return rows


def _version_rows(match_id: str, at: int, version: Version) -> list[object]:
    rows: list[object] = [VersionRow(match_id=match_id, id=version.id, position=at, name=version.name, parent=version.parent)]
    for layer_at, layer in enumerate(version.layers):
        key = {"match_id": match_id, "version_id": version.id, "layer_id": layer.layer_id}
        rows.append(
            VersionLayerRow(
                **key,
                position=layer_at,
                name=layer.name,
                family=layer.family,
                finished_g=layer.finished_g,
                water_lost_g=layer.water_lost_g,
            )
        )
        rows += [
            VersionIngredientRow(
                **key, position=one_at, ingredient_id=one.ingredient_id, name=one.name, role=one.role, grams=one.grams
            )
            for one_at, one in enumerate(layer.ingredients)
        ]
    return rows
