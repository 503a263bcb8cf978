"""The tables. Everything of a match hangs on its row and goes with it."""

from datetime import datetime

from sqlalchemy import ForeignKey, ForeignKeyConstraint, LargeBinary, MetaData, Text, false
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship

_CASCADE = "all, delete-orphan"


class Base(DeclarativeBase):
    """Names every constraint, so that migrations can."""

    metadata = MetaData(
        naming_convention={
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )


def _match_key() -> Mapped[str]:
    return mapped_column(ForeignKey("matches.id", ondelete="CASCADE"), primary_key=True)


class MatchRow(Base):
    """A match with its study's single fields."""

    __tablename__ = "matches"

    id: Mapped[str] = mapped_column(primary_key=True)
    revision: Mapped[int]
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]
    name: Mapped[str]
    maker: Mapped[str]
    region: Mapped[str]
    net_weight: Mapped[str]
    pieces_per_pack: Mapped[str]
    serving: Mapped[str]
    basis: Mapped[str]
    statement: Mapped[str] = mapped_column(Text)
    piece_length: Mapped[str] = mapped_column(default="", server_default="")
    piece_width: Mapped[str] = mapped_column(default="", server_default="")
    piece_height: Mapped[str] = mapped_column(default="", server_default="")
    archived: Mapped[bool] = mapped_column(default=False, server_default=false())
    deleted_at: Mapped[datetime | None]

    label_rows: Mapped[list["LabelRowRow"]] = relationship(cascade=_CASCADE, passive_deletes=True)
    corrections: Mapped[list["CorrectionRow"]] = relationship(cascade=_CASCADE, passive_deletes=True)
    layers: Mapped[list["LayerRow"]] = relationship(cascade=_CASCADE, passive_deletes=True, order_by="LayerRow.position")
    placements: Mapped[list["PlacementRow"]] = relationship(cascade=_CASCADE, passive_deletes=True)
    readings: Mapped[list["ReadingRow"]] = relationship(
        cascade=_CASCADE, passive_deletes=True, order_by="(ReadingRow.subject, ReadingRow.position)"
    )
    doubts: Mapped[list["DoubtRow"]] = relationship(cascade=_CASCADE, passive_deletes=True)
    versions: Mapped[list["VersionRow"]] = relationship(cascade=_CASCADE, passive_deletes=True, order_by="VersionRow.position")
    batches: Mapped[list["BatchRow"]] = relationship(cascade=_CASCADE, passive_deletes=True, order_by="BatchRow.position")


class KitchenRow(Base):
    """The one kitchen, as typed."""

    __tablename__ = "kitchen"

    id: Mapped[int] = mapped_column(primary_key=True)
    scale_step: Mapped[str]
    measures: Mapped[str]
    mass_unit: Mapped[str]
    temperature_unit: Mapped[str] = mapped_column(default="C", server_default="C")
    length_unit: Mapped[str] = mapped_column(default="mm", server_default="mm")
    altitude: Mapped[str] = mapped_column(default="", server_default="")
    boiling_reading: Mapped[str] = mapped_column(default="", server_default="")


class RevisionRow(Base):
    """A state of a match: its match file, compressed, and where undo and redo lead from it."""

    __tablename__ = "revisions"

    match_id: Mapped[str] = _match_key()
    number: Mapped[int] = mapped_column(primary_key=True)
    saved_at: Mapped[datetime]
    words: Mapped[str] = mapped_column(Text)
    undo_to: Mapped[int | None]
    redo_to: Mapped[int | None]
    file: Mapped[bytes] = mapped_column(LargeBinary)


class LabelRowRow(Base):
    """A nutrition row as typed."""

    __tablename__ = "label_rows"

    match_id: Mapped[str] = _match_key()
    row: Mapped[str] = mapped_column(primary_key=True)
    typed: Mapped[str]


class CorrectionRow(Base):
    """The user's match of a name on the statement."""

    __tablename__ = "corrections"

    match_id: Mapped[str] = _match_key()
    item: Mapped[str] = mapped_column(primary_key=True)
    ingredient_id: Mapped[str]


class LayerRow(Base):
    """A layer of the build."""

    __tablename__ = "layers"

    match_id: Mapped[str] = _match_key()
    id: Mapped[str] = mapped_column(primary_key=True)
    position: Mapped[int]
    name: Mapped[str]
    family: Mapped[str]
    place: Mapped[str]
    host: Mapped[str | None]


class PlacementRow(Base):
    """The user's answer to where an ingredient is."""

    __tablename__ = "placements"

    match_id: Mapped[str] = _match_key()
    item: Mapped[str] = mapped_column(primary_key=True)
    layer_id: Mapped[str] = mapped_column(primary_key=True)
    whereabouts: Mapped[str]


class ReadingRow(Base):
    """One weighing as typed; an empty subject list is one row with no position."""

    __tablename__ = "readings"

    match_id: Mapped[str] = _match_key()
    subject: Mapped[str] = mapped_column(primary_key=True)
    position: Mapped[int] = mapped_column(primary_key=True)
    typed: Mapped[str]


class DoubtRow(Base):
    """A piece of evidence that is switched off."""

    __tablename__ = "doubts"

    match_id: Mapped[str] = _match_key()
    evidence_id: Mapped[str] = mapped_column(primary_key=True)


class VersionRow(Base):
    """A formula to cook."""

    __tablename__ = "versions"

    match_id: Mapped[str] = _match_key()
    id: Mapped[str] = mapped_column(primary_key=True)
    position: Mapped[int]
    name: Mapped[str]
    parent: Mapped[str | None]

    layers: Mapped[list["VersionLayerRow"]] = relationship(
        cascade=_CASCADE, passive_deletes=True, order_by="VersionLayerRow.position"
    )


class VersionLayerRow(Base):
    """A layer of a version, for one piece."""

    __tablename__ = "version_layers"
    __table_args__ = (ForeignKeyConstraint(["match_id", "version_id"], ["versions.match_id", "versions.id"], ondelete="CASCADE"),)

    match_id: Mapped[str] = mapped_column(primary_key=True)
    version_id: Mapped[str] = mapped_column(primary_key=True)
    layer_id: Mapped[str] = mapped_column(primary_key=True)
    position: Mapped[int]
    name: Mapped[str]
    family: Mapped[str]
    finished_g: Mapped[float]
    water_lost_g: Mapped[float]

    ingredients: Mapped[list["VersionIngredientRow"]] = relationship(
        cascade=_CASCADE, passive_deletes=True, order_by="VersionIngredientRow.position"
    )


class VersionIngredientRow(Base):
    """An ingredient as added, for one piece."""

    __tablename__ = "version_ingredients"
    __table_args__ = (
        ForeignKeyConstraint(
            ["match_id", "version_id", "layer_id"],
            ["version_layers.match_id", "version_layers.version_id", "version_layers.layer_id"],
            ondelete="CASCADE",
        ),
    )

    match_id: Mapped[str] = mapped_column(primary_key=True)
    version_id: Mapped[str] = mapped_column(primary_key=True)
    layer_id: Mapped[str] = mapped_column(primary_key=True)
    position: Mapped[int] = mapped_column(primary_key=True)
    ingredient_id: Mapped[str]
    name: Mapped[str]
    role: Mapped[str]
    grams: Mapped[float]


class BatchRow(Base):
    """What was asked of a batch, as typed."""

    __tablename__ = "batches"

    match_id: Mapped[str] = _match_key()
    id: Mapped[str] = mapped_column(primary_key=True)
    position: Mapped[int]
    version_id: Mapped[str]
    pieces: Mapped[str]

    losses: Mapped[list["BatchLossRow"]] = relationship(cascade=_CASCADE, passive_deletes=True)
    in_house: Mapped[list["InHouseRow"]] = relationship(cascade=_CASCADE, passive_deletes=True)


class BatchLossRow(Base):
    """What stays on the tools of one layer, as typed."""

    __tablename__ = "batch_losses"
    __table_args__ = (ForeignKeyConstraint(["match_id", "batch_id"], ["batches.match_id", "batches.id"], ondelete="CASCADE"),)

    match_id: Mapped[str] = mapped_column(primary_key=True)
    batch_id: Mapped[str] = mapped_column(primary_key=True)
    layer_id: Mapped[str] = mapped_column(primary_key=True)
    typed: Mapped[str]


class InHouseRow(Base):
    """How much of an ingredient is in the house for a batch, as typed."""

    __tablename__ = "in_house"
    __table_args__ = (ForeignKeyConstraint(["match_id", "batch_id"], ["batches.match_id", "batches.id"], ondelete="CASCADE"),)

    match_id: Mapped[str] = mapped_column(primary_key=True)
    batch_id: Mapped[str] = mapped_column(primary_key=True)
    ingredient_id: Mapped[str] = mapped_column(primary_key=True)
    typed: Mapped[str]
