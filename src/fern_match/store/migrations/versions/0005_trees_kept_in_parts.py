"""matches and the kitchen become trees kept in parts

Purpose: each part's content once under its hash, a change as what was and what is; with all history. The tables of studies,
versions and batches go: no query ever asked them.
Risk: everything is rewritten. It is one transaction: a kill leaves the database as it was. There is no way back down; a backup
made before is one.
"""

import hashlib
import json
import zlib
from collections.abc import Iterator
from typing import Any

import sqlalchemy as sa
from alembic import op

from fern_match.exchange.upgrade import from_1_to_2

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

Plain = dict[str, Any]
_OLD = (
    "in_house",
    "batch_losses",
    "batches",
    "version_ingredients",
    "version_layers",
    "versions",
    "doubts",
    "readings",
    "placements",
    "layers",
    "corrections",
    "label_rows",
    "revisions",
    "kitchen",
    "matches",
)


def upgrade() -> None:
    _make_tables()
    connection = op.get_bind()
    for row in connection.execute(sa.text("select * from matches order by created_at, id")).mappings().all():
        _carry_match(connection, dict(row))
    kitchen = connection.execute(sa.text("select * from kitchen where id = 1")).mappings().first()
    if kitchen is not None:
        state = {("kitchen", "kitchen"): {key: value for key, value in kitchen.items() if key != "id"}}
        head = {"id": "house", "revision": 1, "archived": False, "deleted_at": None}
        moment = "1970-01-01 00:00:00.000000"
        _write_tree(
            connection,
            "house",
            {**head, "created_at": moment, "changed_at": moment},
            [(1, moment, "made", None, [], None, None, state)],
            {},
        )
    for table in _OLD:
        op.drop_table(table)


def downgrade() -> None:
    raise NotImplementedError("There is no way back from parts to rows; restore a backup made before.")


def _carry_match(connection: sa.Connection, row: Plain) -> None:
    """A match with all its revisions."""
    changes = list(_old_changes(connection, row))
    now = _parts(_from_tables(connection, row))
    if not changes:
        changes = [(row["revision"], row["changed_at"], "made", None, [], None, None, now)]
    elif changes[-1][0] != row["revision"]:
        changes.append((row["revision"], row["changed_at"], "change", None, [], changes[-1][0], None, now))
    study = now["study", "study"]
    line = {
        "name": study["name"],
        "maker": study["maker"],
        "region": study["region"],
        "net_weight": study["label"]["net_weight"],
        "layers": len(study["layers"]),
    }
    _write_tree(connection, "match", row, changes, line)


def _old_changes(connection: sa.Connection, row: Plain) -> Iterator[tuple[Any, ...]]:
    """Each revision with its cause, read from the words it was told in, and the state it left."""
    root: dict[int, int] = {}
    was: Plain | None = None
    undo_to: dict[int, int | None] = {}
    for old in connection.execute(
        sa.text("select * from revisions where match_id = :id order by number"), {"id": row["id"]}
    ).mappings():
        number, words = old["number"], old["words"].split("\n") if old["words"] else []
        cause, of = "change", None
        if was is None:
            cause, words = "made", []
        elif words and words[0].startswith("Undone: ") and was["undo_to"] is not None:
            cause, of, words = "undo", root[was["number"]], []
            root[number] = root.get(was["undo_to"], was["undo_to"])
        elif words and words[0].startswith("Done again: ") and was["redo_to"] is not None:
            target = was["redo_to"]
            cause, of, words = "redo", root.get(target, target), []
            root[number] = of
        elif words and words[0].startswith("Returned to moment "):
            cause, of, words = "return", int(words[0].rpartition(" ")[2]), words[1:]
        root.setdefault(number, number)
        back = old["undo_to"]
        undo_to[number] = root.get(back, back) if back is not None else None
        state = _parts(json.loads(zlib.decompress(old["file"])))
        yield number, old["saved_at"], cause, of, words, undo_to[number], old["redo_to"], state
        was = dict(old)


def _parts(match_file: Plain) -> dict[tuple[str, str], Plain]:
    """The parts of a match file of version 1, as version 2 has them."""
    plain = from_1_to_2(match_file)
    parts = {("study", "study"): plain["study"]}
    for kind in ("versions", "batches"):
        parts |= {(kind, one["id"]): one for one in plain.get(kind, ())}
    return parts


def _write_tree(connection: sa.Connection, kind: str, row: Plain, changes: list[tuple[Any, ...]], line: Plain) -> None:
    connection.execute(
        sa.text(
            "insert into trees (id, kind, revision, created_at, changed_at, archived, deleted_at, line, picture) "
            "values (:id, :kind, :revision, :created_at, :changed_at, :archived, :deleted_at, :line, '')"
        ),
        {
            **{key: row[key] for key in ("id", "revision", "created_at", "changed_at", "archived", "deleted_at")},
            "kind": kind,
            "line": json.dumps(line),
        },
    )
    before: dict[tuple[str, str], tuple[int, str]] = {}
    for number, saved_at, cause, of, words, undo_to, redo_to, state in changes:
        after = _pointers(connection, state)
        connection.execute(
            sa.text("insert into changes values (:tree, :number, :saved_at, :cause, :of, :words, :undo_to, :redo_to)"),
            {
                "tree": row["id"],
                "number": number,
                "saved_at": saved_at,
                "cause": cause,
                "of": of,
                "words": json.dumps(words),
                "undo_to": undo_to,
                "redo_to": redo_to,
            },
        )
        for key in dict.fromkeys((*before, *after)):
            if before.get(key) != after.get(key):
                (position_before, hash_before), (position_after, hash_after) = (
                    side.get(key, (None, None)) for side in (before, after)
                )
                connection.execute(
                    sa.text("insert into change_parts values (:tree, :kind, :id, :number, :pb, :hb, :pa, :ha)"),
                    {
                        "tree": row["id"],
                        "kind": key[0],
                        "id": key[1],
                        "number": number,
                        "pb": position_before,
                        "hb": hash_before,
                        "pa": position_after,
                        "ha": hash_after,
                    },
                )
        before = after
    for (part_kind, part_id), (position, content) in before.items():
        connection.execute(
            sa.text("insert into parts values (:tree, :kind, :id, :position, :hash)"),
            {"tree": row["id"], "kind": part_kind, "id": part_id, "position": position, "hash": content},
        )


def _pointers(connection: sa.Connection, state: dict[tuple[str, str], Plain]) -> dict[tuple[str, str], tuple[int, str]]:
    """Where each part stands and its content, which is kept where it is not yet."""
    pointers = {}
    counted: dict[str, int] = {}
    for (kind, key), plain in state.items():
        content = json.dumps(plain, ensure_ascii=False, sort_keys=True, separators=(",", ":")).encode()
        name = hashlib.sha256(content).hexdigest()
        connection.execute(
            sa.text("insert or ignore into contents values (:hash, 2, :size, :body)"),
            {"hash": name, "size": len(content), "body": zlib.compress(content, 6)},
        )
        pointers[kind, key] = (counted.get(kind, 0), name)
        counted[kind] = counted.get(kind, 0) + 1
    return pointers


def _from_tables(connection: sa.Connection, row: Plain) -> Plain:
    """A match as it stands in the old tables, as a match file of version 1."""

    def rows(table: str, order: str = "rowid") -> list[Plain]:
        found = connection.execute(sa.text(f"select * from {table} where match_id = :id order by {order}"), {"id": row["id"]})
        return [dict(one) for one in found.mappings()]

    weighings: dict[str, list[str]] = {}
    for one in rows("readings", "subject, position"):
        weighings.setdefault(one["subject"], []).append(one["typed"])
    lines, losses, house = rows("version_ingredients", "position"), rows("batch_losses"), rows("in_house")
    layers = rows("version_layers", "position")
    return {
        "study": {
            **{key: row[key] for key in ("name", "maker", "region", "statement")},
            "label": {
                **{key: row[key] for key in ("net_weight", "pieces_per_pack", "serving", "basis")},
                "rows": {one["row"]: one["typed"] for one in rows("label_rows")},
            },
            "corrections": [{"item": one["item"], "ingredient": one["ingredient_id"]} for one in rows("corrections")],
            "layers": [
                {key: one[key] for key in ("id", "name", "family", "place", "host")} for one in rows("layers", "position")
            ],
            "placements": [
                {"item": one["item"], "layer": one["layer_id"], "where": one["whereabouts"]} for one in rows("placements")
            ],
            "weighings": [{"subject": subject, "readings": readings} for subject, readings in weighings.items()],
            "size": {side: row[f"piece_{side}"] for side in ("length", "width", "height")},
            "doubted": [one["evidence_id"] for one in rows("doubts")],
        },
        "versions": [
            {
                **{key: version[key] for key in ("id", "name", "parent")},
                "layers": [
                    {
                        "layer": layer["layer_id"],
                        **{key: layer[key] for key in ("name", "family", "finished_g", "water_lost_g")},
                        "ingredients": [
                            {"ingredient": one["ingredient_id"], **{key: one[key] for key in ("name", "role", "grams")}}
                            for one in lines
                            if (one["version_id"], one["layer_id"]) == (version["id"], layer["layer_id"])
                        ],
                    }
                    for layer in layers
                    if layer["version_id"] == version["id"]
                ],
            }
            for version in rows("versions", "position")
        ],
        "batches": [
            {
                **{key: batch[key] for key in ("id", "pieces")},
                "version": batch["version_id"],
                "left_on_tools": {one["layer_id"]: one["typed"] for one in losses if one["batch_id"] == batch["id"]},
                "in_house": {one["ingredient_id"]: one["typed"] for one in house if one["batch_id"] == batch["id"]},
            }
            for batch in rows("batches", "position")
        ],
    }


def _make_tables() -> None:
    tree = ("trees.id",)
    op.create_table(
        "trees",
        sa.Column("id", sa.String(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("changed_at", sa.DateTime(), nullable=False),
        sa.Column("archived", sa.Boolean(), server_default=sa.false(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(), nullable=True),
        sa.Column("line", sa.Text(), server_default="{}", nullable=False),
        sa.Column("picture", sa.Text(), server_default="", nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_trees")),
    )
    op.create_table(
        "contents",
        sa.Column("hash", sa.String(), nullable=False),
        sa.Column("format", sa.Integer(), nullable=False),
        sa.Column("size", sa.Integer(), nullable=False),
        sa.Column("body", sa.LargeBinary(), nullable=False),
        sa.PrimaryKeyConstraint("hash", name=op.f("pk_contents")),
    )
    op.create_table(
        "parts",
        sa.Column("tree_id", sa.String(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("id", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("hash", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(["tree_id"], tree, name=op.f("fk_parts_tree_id_trees"), ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["hash"], ["contents.hash"], name=op.f("fk_parts_hash_contents")),
        sa.PrimaryKeyConstraint("tree_id", "kind", "id", name=op.f("pk_parts")),
    )
    op.create_table(
        "changes",
        sa.Column("tree_id", sa.String(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("saved_at", sa.DateTime(), nullable=False),
        sa.Column("cause", sa.String(), nullable=False),
        sa.Column("of", sa.Integer(), nullable=True),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("undo_to", sa.Integer(), nullable=True),
        sa.Column("redo_to", sa.Integer(), nullable=True),
        sa.ForeignKeyConstraint(["tree_id"], tree, name=op.f("fk_changes_tree_id_trees"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("tree_id", "number", name=op.f("pk_changes")),
    )
    op.create_table(
        "change_parts",
        sa.Column("tree_id", sa.String(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("id", sa.String(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("position_before", sa.Integer(), nullable=True),
        sa.Column("hash_before", sa.String(), nullable=True),
        sa.Column("position_after", sa.Integer(), nullable=True),
        sa.Column("hash_after", sa.String(), nullable=True),
        sa.ForeignKeyConstraint(["tree_id"], tree, name=op.f("fk_change_parts_tree_id_trees"), ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["hash_before"], ["contents.hash"], name=op.f("fk_change_parts_hash_before_contents")),
        sa.ForeignKeyConstraint(["hash_after"], ["contents.hash"], name=op.f("fk_change_parts_hash_after_contents")),
        sa.PrimaryKeyConstraint("tree_id", "kind", "id", "number", name=op.f("pk_change_parts")),
    )
    op.create_index("ix_change_parts_number", "change_parts", ["tree_id", "number"])
