"""The tables. All of a tree hangs on its row and goes with it; contents are shared, and swept when nothing points at them."""

from datetime import datetime

from sqlalchemy import ForeignKey, Index, LargeBinary, MetaData, Text, false
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Names every constraint, so that migrations can."""

    metadata = MetaData(
        naming_convention={
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )


def _tree_key() -> Mapped[str]:
    return mapped_column(ForeignKey("trees.id", ondelete="CASCADE"), primary_key=True)


class TreeRow(Base):
    """A match, or the house."""

    __tablename__ = "trees"

    id: Mapped[str] = mapped_column(primary_key=True)
    kind: Mapped[str]  # match or house
    revision: Mapped[int]
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]
    archived: Mapped[bool] = mapped_column(default=False, server_default=false())
    deleted_at: Mapped[datetime | None]
    line: Mapped[str] = mapped_column(Text, default="{}", server_default="{}")  # what a list shows of it, as JSON
    picture: Mapped[str] = mapped_column(Text, default="", server_default="")  # its small slice, as JSON


class ContentRow(Base):
    """A part's content: its record as JSON, compressed, of the format version it was written in."""

    __tablename__ = "contents"

    hash: Mapped[str] = mapped_column(primary_key=True)
    format: Mapped[int]
    size: Mapped[int]  # uncompressed [bytes]
    body: Mapped[bytes] = mapped_column(LargeBinary)


class PartRow(Base):
    """A part of a tree as it is now."""

    __tablename__ = "parts"

    tree_id: Mapped[str] = _tree_key()
    kind: Mapped[str] = mapped_column(primary_key=True)
    id: Mapped[str] = mapped_column(primary_key=True)
    position: Mapped[int]
    hash: Mapped[str] = mapped_column(ForeignKey("contents.hash"))


class ChangeRow(Base):
    """One change of a tree, numbered by the revision it made."""

    __tablename__ = "changes"

    tree_id: Mapped[str] = _tree_key()
    number: Mapped[int] = mapped_column(primary_key=True)
    saved_at: Mapped[datetime]
    cause: Mapped[str]  # made, change, undo, redo or return
    of: Mapped[int | None]  # the change undone or done again, the revision returned to
    words: Mapped[str] = mapped_column(Text)  # JSON: sentences
    undo_to: Mapped[int | None]  # the revision whose state undoing brings back
    redo_to: Mapped[int | None]


class ChangePartRow(Base):
    """What a change did to one part; no hash where the part was not there."""

    __tablename__ = "change_parts"
    __table_args__ = (Index("ix_change_parts_number", "tree_id", "number"),)

    tree_id: Mapped[str] = _tree_key()
    kind: Mapped[str] = mapped_column(primary_key=True)
    id: Mapped[str] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    position_before: Mapped[int | None]
    hash_before: Mapped[str | None] = mapped_column(ForeignKey("contents.hash"))
    position_after: Mapped[int | None]
    hash_after: Mapped[str | None] = mapped_column(ForeignKey("contents.hash"))


class CookLogRow(Base):
    """One entry of the log of a cook: only ever added."""

    __tablename__ = "cook_log"
    __table_args__ = (Index("ix_cook_log_key", "tree_id", "cook_id", "key", unique=True),)

    tree_id: Mapped[str] = _tree_key()
    cook_id: Mapped[str] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    at_ms: Mapped[int]
    key: Mapped[str]  # of whoever wrote it: what is sent twice is there once
    body: Mapped[str] = mapped_column(Text)  # the entry as JSON


class ImageRow(Base):
    """A picture of a tree, under the hash of its bytes."""

    __tablename__ = "images"

    tree_id: Mapped[str] = _tree_key()
    hash: Mapped[str] = mapped_column(primary_key=True)
    body: Mapped[bytes] = mapped_column(LargeBinary)
