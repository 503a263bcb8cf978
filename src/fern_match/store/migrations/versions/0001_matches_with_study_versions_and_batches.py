"""matches with study versions and batches

Purpose: the first tables. Risk: none, there is nothing before them.
"""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "matches",
        sa.Column("id", sa.String(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("changed_at", sa.DateTime(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("maker", sa.String(), nullable=False),
        sa.Column("region", sa.String(), nullable=False),
        sa.Column("net_weight", sa.String(), nullable=False),
        sa.Column("pieces_per_pack", sa.String(), nullable=False),
        sa.Column("serving", sa.String(), nullable=False),
        sa.Column("basis", sa.String(), nullable=False),
        sa.Column("statement", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_matches")),
    )
    op.create_table(
        "batches",
        sa.Column("match_id", sa.String(), nullable=False),
        sa.Column("id", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("version_id", sa.String(), nullable=False),
        sa.Column("pieces", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(["match_id"], ["matches.id"], name=op.f("fk_batches_match_id_matches"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("match_id", "id", name=op.f("pk_batches")),
    )
    op.create_table(
        "corrections",
        sa.Column("match_id", sa.String(), nullable=False),
        sa.Column("item", sa.String(), nullable=False),
        sa.Column("ingredient_id", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(["match_id"], ["matches.id"], name=op.f("fk_corrections_match_id_matches"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("match_id", "item", name=op.f("pk_corrections")),
    )
    op.create_table(
        "doubts",
        sa.Column("match_id", sa.String(), nullable=False),
        sa.Column("evidence_id", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(["match_id"], ["matches.id"], name=op.f("fk_doubts_match_id_matches"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("match_id", "evidence_id", name=op.f("pk_doubts")),
    )
    op.create_table(
        "label_rows",
        sa.Column("match_id", sa.String(), nullable=False),
        sa.Column("row", sa.String(), nullable=False),
        sa.Column("typed", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(["match_id"], ["matches.id"], name=op.f("fk_label_rows_match_id_matches"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("match_id", "row", name=op.f("pk_label_rows")),
    )
    op.create_table(
        "layers",
        sa.Column("match_id", sa.String(), nullable=False),
        sa.Column("id", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("family", sa.String(), nullable=False),
        sa.Column("place", sa.String(), nullable=False),
        sa.Column("host", sa.String(), nullable=True),
        sa.ForeignKeyConstraint(["match_id"], ["matches.id"], name=op.f("fk_layers_match_id_matches"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("match_id", "id", name=op.f("pk_layers")),
    )
    op.create_table(
        "placements",
        sa.Column("match_id", sa.String(), nullable=False),
        sa.Column("item", sa.String(), nullable=False),
        sa.Column("layer_id", sa.String(), nullable=False),
        sa.Column("whereabouts", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(["match_id"], ["matches.id"], name=op.f("fk_placements_match_id_matches"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("match_id", "item", "layer_id", name=op.f("pk_placements")),
    )
    op.create_table(
        "readings",
        sa.Column("match_id", sa.String(), nullable=False),
        sa.Column("subject", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("typed", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(["match_id"], ["matches.id"], name=op.f("fk_readings_match_id_matches"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("match_id", "subject", "position", name=op.f("pk_readings")),
    )
    op.create_table(
        "versions",
        sa.Column("match_id", sa.String(), nullable=False),
        sa.Column("id", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("parent", sa.String(), nullable=True),
        sa.ForeignKeyConstraint(["match_id"], ["matches.id"], name=op.f("fk_versions_match_id_matches"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("match_id", "id", name=op.f("pk_versions")),
    )
    op.create_table(
        "batch_losses",
        sa.Column("match_id", sa.String(), nullable=False),
        sa.Column("batch_id", sa.String(), nullable=False),
        sa.Column("layer_id", sa.String(), nullable=False),
        sa.Column("typed", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(
            ["match_id", "batch_id"],
            ["batches.match_id", "batches.id"],
            name=op.f("fk_batch_losses_match_id_batches"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("match_id", "batch_id", "layer_id", name=op.f("pk_batch_losses")),
    )
    op.create_table(
        "version_layers",
        sa.Column("match_id", sa.String(), nullable=False),
        sa.Column("version_id", sa.String(), nullable=False),
        sa.Column("layer_id", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("family", sa.String(), nullable=False),
        sa.Column("finished_g", sa.Double(), nullable=False),
        sa.Column("water_lost_g", sa.Double(), nullable=False),
        sa.ForeignKeyConstraint(
            ["match_id", "version_id"],
            ["versions.match_id", "versions.id"],
            name=op.f("fk_version_layers_match_id_versions"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("match_id", "version_id", "layer_id", name=op.f("pk_version_layers")),
    )
    op.create_table(
        "version_ingredients",
        sa.Column("match_id", sa.String(), nullable=False),
        sa.Column("version_id", sa.String(), nullable=False),
        sa.Column("layer_id", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("ingredient_id", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("role", sa.String(), nullable=False),
        sa.Column("grams", sa.Double(), nullable=False),
        sa.ForeignKeyConstraint(
            ["match_id", "version_id", "layer_id"],
            ["version_layers.match_id", "version_layers.version_id", "version_layers.layer_id"],
            name=op.f("fk_version_ingredients_match_id_version_layers"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("match_id", "version_id", "layer_id", "position", name=op.f("pk_version_ingredients")),
    )


def downgrade() -> None:
    op.drop_table("version_ingredients")
    op.drop_table("version_layers")
    op.drop_table("batch_losses")
    op.drop_table("versions")
    op.drop_table("readings")
    op.drop_table("placements")
    op.drop_table("layers")
    op.drop_table("label_rows")
    op.drop_table("doubts")
    op.drop_table("corrections")
    op.drop_table("batches")
    op.drop_table("matches")
