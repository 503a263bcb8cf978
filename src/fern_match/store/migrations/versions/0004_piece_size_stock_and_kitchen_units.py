"""piece size, what is in the house, and the kitchen's units, height and thermometer

Purpose: a piece's outside dimensions, amounts in the house per batch, and what the kitchen shows and reads.
Risk: none; new columns have defaults.
"""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None

_SIZES = ("piece_length", "piece_width", "piece_height")
_KITCHEN = {"temperature_unit": "C", "length_unit": "mm", "altitude": "", "boiling_reading": ""}


def upgrade() -> None:
    with op.batch_alter_table("matches") as table:
        for name in _SIZES:
            table.add_column(sa.Column(name, sa.String(), nullable=False, server_default=""))
    with op.batch_alter_table("kitchen") as table:
        for name, default in _KITCHEN.items():
            table.add_column(sa.Column(name, sa.String(), nullable=False, server_default=default))
    op.create_table(
        "in_house",
        sa.Column("match_id", sa.String(), nullable=False),
        sa.Column("batch_id", sa.String(), nullable=False),
        sa.Column("ingredient_id", sa.String(), nullable=False),
        sa.Column("typed", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(
            ["match_id", "batch_id"],
            ["batches.match_id", "batches.id"],
            name=op.f("fk_in_house_match_id_batches"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("match_id", "batch_id", "ingredient_id", name=op.f("pk_in_house")),
    )


def downgrade() -> None:
    op.drop_table("in_house")
    with op.batch_alter_table("kitchen") as table:
        for name in reversed(_KITCHEN):
            table.drop_column(name)
    with op.batch_alter_table("matches") as table:
        for name in reversed(_SIZES):
            table.drop_column(name)
