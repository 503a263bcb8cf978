"""A study in a file: everything as typed."""

from typing import Self

from pydantic import Field

from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.study.record import LabelText, Layer, PieceSize, Place, Study, Whereabouts
from fern_match.exchange.shapes import BadMatchFile, Cell, Key, Name, Shape, Statement


class LabelFile(Shape):
    """The label's figures as typed; nothing is corrected."""

    net_weight: Cell = ""
    pieces_per_pack: Cell = ""
    serving: Cell = Field("", description="Grams of one serving, as typed.")
    basis: Basis = Field(Basis.PER_100_G, description="What the nutrition rows are for.")
    rows: dict[RowId, Cell] = Field(default_factory=dict, description="Nutrition rows as printed, by row.")


class LayerFile(Shape):
    """One layer of the build: coats from outside in, then the stack from bottom to top."""

    id: Key
    name: Name
    family: Key = Field(description="A family id, such as soft-caramel.")
    place: Place
    host: Key | None = Field(None, description="For an inclusion, the id of the layer it lies in.")


class PlacementFile(Shape):
    """The user's own answer to whether an ingredient is in a layer."""

    item: Key = Field(description="Names of the statement from the top down: 'dark chocolate > sugar'.")
    layer: Key
    where: Whereabouts


class WeighingFile(Shape):
    """Readings of one subject, as typed."""

    subject: Key = Field(description="'piece' for whole pieces, else a layer's id.")
    readings: list[Cell] = Field(max_length=60)


class CorrectionFile(Shape):
    """The user's own match of a name on the statement."""

    item: Key
    ingredient: Key = Field(description="An ingredient id of the pantry, or 'none' to leave the name out.")


class PieceSizeFile(Shape):
    """Outside dimensions of a piece, as typed."""

    length: Cell = ""
    width: Cell = ""
    height: Cell = ""


class StudyFile(Shape):
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
