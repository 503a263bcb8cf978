"""piece size, what is in the house, and the kitchen's units, height and thermometer

Purpose: a piece's outside dimensions, amounts in the house per batch, and what the kitchen shows and reads.
Risk: none; new columns have defaults. Columns are added and dropped in place: a table made anew would take along all
that hangs on it.
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
    for name in _SIZES:
        op.add_column("matches", sa.Column(name, sa.String(), nullable=False, server_default=""))
    for name, default in _KITCHEN.items():
        op.add_column("kitchen", sa.Column(name, sa.String(), nullable=False, server_default=default))
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
    for name in reversed(_KITCHEN):
        op.drop_column("kitchen", name)
    for name in reversed(_SIZES):
        op.drop_column("matches", name)
