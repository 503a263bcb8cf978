"""The match file: the whole of a match as JSON, versioned, with a schema made from these models."""

import json
from typing import Annotated, Final, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, ValidationError

from fern_match.core.errors import CoreError
from fern_match.core.formulate import Version, VersionIngredient, VersionLayer
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.match import BatchPlan, Match
from fern_match.core.study.record import LabelText, Layer, PieceSize, Place, Study, Whereabouts

FORMAT: Final = "fern-match"
VERSION: Final = 1
MOST_BYTES = 2_000_000
_NO_CONTROL = r"^[^\x00-\x08\x0b\x0c\x0e-\x1f]*$"
Name = Annotated[str, StringConstraints(max_length=120, pattern=_NO_CONTROL)]
Key = Annotated[str, StringConstraints(min_length=1, max_length=400, pattern=_NO_CONTROL)]
Cell = Annotated[str, StringConstraints(max_length=200, pattern=_NO_CONTROL)]
Statement = Annotated[str, StringConstraints(max_length=20_000, pattern=_NO_CONTROL)]
Grams = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]


class BadMatchFile(CoreError):
    """A file that is not a match file; its text says where and why."""


class _Shape(BaseModel):
    model_config = ConfigDict(extra="forbid")


class LabelFile(_Shape):
    """The label's figures as typed; nothing is corrected."""

    net_weight: Cell = ""
    pieces_per_pack: Cell = ""
    serving: Cell = Field("", description="Grams of one serving, as typed.")
    basis: Basis = Field(Basis.PER_100_G, description="What the nutrition rows are for.")
    rows: dict[RowId, Cell] = Field(default_factory=dict, description="Nutrition rows as printed, by row.")


class LayerFile(_Shape):
    """One layer of the build: coats from outside in, then the stack from bottom to top."""

    id: Key
    name: Name
    family: Key = Field(description="A family id, such as soft-caramel.")
    place: Place
    host: Key | None = Field(None, description="For an inclusion, the id of the layer it lies in.")


class PlacementFile(_Shape):
    """The user's own answer to whether an ingredient is in a layer."""

    item: Key = Field(description="Names of the statement from the top down: 'dark chocolate > sugar'.")
    layer: Key
    where: Whereabouts


class WeighingFile(_Shape):
    """Readings of one subject, as typed."""

    subject: Key = Field(description="'piece' for whole pieces, else a layer's id.")
    readings: list[Cell] = Field(max_length=60)


class CorrectionFile(_Shape):
    """The user's own match of a name on the statement."""

    item: Key
    ingredient: Key = Field(description="An ingredient id of the pantry, or 'none' to leave the name out.")


class PieceSizeFile(_Shape):
    """Outside dimensions of a piece, as typed."""

    length: Cell = ""
    width: Cell = ""
    height: Cell = ""


class StudyFile(_Shape):
    """All that was written down about the original."""

    name: Name
    maker: Name = ""
    region: Region = Region.EU
    label: LabelFile = Field(default_factory=LabelFile)
    statement: Statement = ""
    corrections: list[CorrectionFile] = Field(default_factory=list, max_length=400)
    layers: list[LayerFile] = Field(default_factory=list, max_length=20)
    placements: list[PlacementFile] = Field(default_factory=list, max_length=2000)
    weighings: list[WeighingFile] = Field(default_factory=list, max_length=40)
    size: PieceSizeFile = Field(default_factory=PieceSizeFile)
    doubted: list[Key] = Field(default_factory=list, max_length=400, description="Ids of evidence that is switched off.")

    def to_core(self) -> Study:
        """The study as the core has it.

        Raises:
            BadMatchFile: two layers have the same id.
        """
        ids = [layer.id for layer in self.layers]
        if len(set(ids)) != len(ids):
            raise BadMatchFile("Two layers have the same id.")
        return Study(
            name=self.name,
            maker=self.maker,
            region=self.region,
            label=LabelText(**{**dict(self.label), "rows": dict(self.label.rows)}),
            statement=self.statement,
            corrections={entry.item: entry.ingredient for entry in self.corrections},
            layers=tuple(Layer(**dict(layer)) for layer in self.layers),
            placements={(entry.item, entry.layer): entry.where for entry in self.placements},
            weighings={entry.subject: tuple(entry.readings) for entry in self.weighings if entry.readings},
            size=PieceSize(**dict(self.size)),
            doubted=frozenset(self.doubted),
        )

    @classmethod
    def of(cls, study: Study) -> Self:
        """The file's shape of a study."""
        label = study.label
        return cls(
            name=study.name,
            maker=study.maker,
            region=study.region,
            label=LabelFile(
                net_weight=label.net_weight,
                pieces_per_pack=label.pieces_per_pack,
                serving=label.serving,
                basis=label.basis,
                rows={row: label.rows[row] for row in RowId if row in label.rows},
            ),
            statement=study.statement,
            corrections=[CorrectionFile(item=item, ingredient=food) for item, food in sorted(study.corrections.items())],
            layers=[
                LayerFile(id=layer.id, name=layer.name, family=layer.family, place=layer.place, host=layer.host)
                for layer in study.layers
            ],
            placements=[
                PlacementFile(item=item, layer=layer, where=where) for (item, layer), where in sorted(study.placements.items())
            ],
            weighings=[WeighingFile(subject=subject, readings=list(texts)) for subject, texts in sorted(study.weighings.items())],
            size=PieceSizeFile(length=study.size.length, width=study.size.width, height=study.size.height),
            doubted=sorted(study.doubted),
        )


class VersionIngredientFile(_Shape):
    """An ingredient as added, for one piece."""

    ingredient: Key
    name: Name
    role: Name
    grams: Grams


class VersionLayerFile(_Shape):
    """A layer of a version, for one piece: sum of ingredients - water lost = finished."""

    layer: Key
    name: Name
    family: Key
    finished_g: Grams
    water_lost_g: Grams
    ingredients: list[VersionIngredientFile] = Field(max_length=200)


class VersionFile(_Shape):
    """A formula to cook."""

    id: Key
    name: Name
    parent: Key | None = None
    layers: list[VersionLayerFile] = Field(max_length=20)

    def to_core(self) -> Version:
        """The version as the core has it."""
        return Version(
            id=self.id,
            name=self.name,
            parent=self.parent,
            layers=tuple(
                VersionLayer(
                    layer_id=layer.layer,
                    name=layer.name,
                    family=layer.family,
                    finished_g=layer.finished_g,
                    water_lost_g=layer.water_lost_g,
                    ingredients=tuple(
                        VersionIngredient(ingredient_id=one.ingredient, name=one.name, role=one.role, grams=one.grams)
                        for one in layer.ingredients
                    ),
                )
                for layer in self.layers
            ),
        )

    @classmethod
    def of(cls, version: Version) -> Self:
        """The file's shape of a version."""
        return cls(
            id=version.id,
            name=version.name,
            parent=version.parent,
            layers=[
                VersionLayerFile(
                    layer=layer.layer_id,
                    name=layer.name,
                    family=layer.family,
                    finished_g=layer.finished_g,
                    water_lost_g=layer.water_lost_g,
                    ingredients=[
                        VersionIngredientFile(ingredient=one.ingredient_id, name=one.name, role=one.role, grams=one.grams)
                        for one in layer.ingredients
                    ],
                )
                for layer in version.layers
            ],
        )


class BatchFile(_Shape):
    """What was asked of a batch, as typed."""

    id: Key
    version: Key
    pieces: Cell = ""
    left_on_tools: dict[Key, Cell] = Field(default_factory=dict, description="Layer id -> per cent as typed.")
    in_house: dict[Key, Cell] = Field(default_factory=dict, description="Ingredient id -> amount in the house as typed.")

    def to_core(self) -> BatchPlan:
        """The plan as the core has it."""
        return BatchPlan(
            id=self.id,
            version_id=self.version,
            pieces=self.pieces,
            left_on_tools=dict(self.left_on_tools),
            in_house=dict(self.in_house),
        )

    @classmethod
    def of(cls, plan: BatchPlan) -> Self:
        """The file's shape of a plan."""
        return cls(
            id=plan.id,
            version=plan.version_id,
            pieces=plan.pieces,
            left_on_tools=dict(plan.left_on_tools),
            in_house=dict(plan.in_house),
        )


class MatchFile(_Shape):
    """The whole of a match."""

    format: Literal["fern-match"] = FORMAT
    version: Literal[1] = VERSION
    study: StudyFile
    versions: list[VersionFile] = Field(default_factory=list, max_length=50)
    batches: list[BatchFile] = Field(default_factory=list, max_length=50)

    def to_core(self) -> Match:
        """The match as the core has it."""
        return Match(
            study=self.study.to_core(),
            versions=tuple(version.to_core() for version in self.versions),
            batches=tuple(one.to_core() for one in self.batches),
        )

    @classmethod
    def of(cls, match: Match) -> Self:
        """The file's shape of a match."""
        return cls(
            study=StudyFile.of(match.study),
            versions=[VersionFile.of(version) for version in match.versions],
            batches=[BatchFile.of(plan) for plan in match.batches],
        )


def read_match_file(text: str | bytes) -> Match:
    """A match from the text of a match file; all of it or nothing.

    Args:
        text: JSON.

    Raises:
        BadMatchFile: with the line or the place in the file, and why.
    """
    if len(text) > MOST_BYTES:
        raise BadMatchFile(f"The file is larger than {MOST_BYTES / 1e6:g} MB; a match file is not.")
    try:
        raw = json.loads(text)
    except UnicodeDecodeError:
        raise BadMatchFile("The file is not text; a match file is JSON in UTF-8.") from None
    except (json.JSONDecodeError, RecursionError) as error:
        line = getattr(error, "lineno", 1)
        raise BadMatchFile(f"The file is not JSON: line {line} could not be read. Nothing was imported.") from None
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise BadMatchFile('This is not a match file: it does not say "format": "fern-match". Nothing was imported.')
    try:
        match = MatchFile.model_validate(raw).to_core()
    except BadMatchFile as error:
        raise BadMatchFile(f"{error} Nothing was imported.") from None
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(step) for step in first["loc"]) or "the whole file"
        raise BadMatchFile(f"At {place}: {first['msg']}. Nothing was imported.") from None
    check_links(match)
    return match


def check_links(match: Match) -> None:
    """Refuses a match whose parts do not hang together.

    Args:
        match: As read from a file.

    Raises:
        BadMatchFile: an id stands twice, or a batch is of no version.
    """
    versions = [version.id for version in match.versions]
    batches = [plan.id for plan in match.batches]
    for what, keys in (("versions", versions), ("batches", batches)):
        if len(set(keys)) != len(keys):
            raise BadMatchFile(f"Two {what} have the same id. Nothing was imported.")
    for version in match.versions:
        layers = [layer.layer_id for layer in version.layers]
        if len(set(layers)) != len(layers):
            raise BadMatchFile(f"Version “{version.id}” has a layer twice. Nothing was imported.")
    for plan in match.batches:
        if plan.version_id not in versions:
            raise BadMatchFile(
                f"Batch “{plan.id}” is of version “{plan.version_id}”, which is not in the file. Nothing was imported."
            )


def written_match_file(match: Match) -> str:
    """A match as the text of a match file.

    Args:
        match: All of it is written.
    """
    return MatchFile.of(match).model_dump_json(indent=2) + "\n"


def match_file_schema() -> str:
    """The JSON Schema of match files, as published in docs/formats."""
    return json.dumps(MatchFile.model_json_schema(), indent=2, ensure_ascii=False) + "\n"
