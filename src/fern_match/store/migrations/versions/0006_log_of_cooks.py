"""the log of cooks

Purpose: what happens at the stove, entry by entry, kept beside the parts: it is only ever added to.
Risk: none; a new table.
"""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "cook_log",
        sa.Column("tree_id", sa.String(), nullable=False),
        sa.Column("cook_id", sa.String(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("at_ms", sa.Integer(), nullable=False),
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("body", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(["tree_id"], ["trees.id"], name=op.f("fk_cook_log_tree_id_trees"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("tree_id", "cook_id", "number", name=op.f("pk_cook_log")),
    )
    op.create_index("ix_cook_log_key", "cook_log", ["tree_id", "cook_id", "key"], unique=True)


def downgrade() -> None:
    op.drop_index("ix_cook_log_key", "cook_log")
    op.drop_table("cook_log")
