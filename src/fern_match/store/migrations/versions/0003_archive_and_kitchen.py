"""archive and kitchen

Purpose: matches can be put away, and deleted with a way back; one kitchen holds scale, measures and units.
Risk: none; new columns have defaults. Columns are added and dropped in place: a table made anew would take along all
that hangs on it.
"""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("matches", sa.Column("archived", sa.Boolean(), nullable=False, server_default=sa.false()))
    op.add_column("matches", sa.Column("deleted_at", sa.DateTime(), nullable=True))
    op.create_table(
        "kitchen",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("scale_step", sa.String(), nullable=False),
        sa.Column("measures", sa.String(), nullable=False),
        sa.Column("mass_unit", sa.String(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_kitchen")),
    )


def downgrade() -> None:
    op.drop_table("kitchen")
    op.drop_column("matches", "deleted_at")
    op.drop_column("matches", "archived")
