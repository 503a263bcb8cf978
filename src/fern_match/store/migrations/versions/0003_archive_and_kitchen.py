"""archive and kitchen

Purpose: matches can be put away, and deleted with a way back; one kitchen holds scale, measures and units.
Risk: none; new columns have defaults.
"""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("matches") as table:
        table.add_column(sa.Column("archived", sa.Boolean(), nullable=False, server_default=sa.false()))
        table.add_column(sa.Column("deleted_at", sa.DateTime(), nullable=True))
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
    with op.batch_alter_table("matches") as table:
        table.drop_column("deleted_at")
        table.drop_column("archived")
