"""pictures

Purpose: pictures of originals and copies, by their hash, kept beside the parts that name them.
Risk: none; a new table.
"""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "images",
        sa.Column("tree_id", sa.String(), nullable=False),
        sa.Column("hash", sa.String(), nullable=False),
        sa.Column("body", sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(["tree_id"], ["trees.id"], name=op.f("fk_images_tree_id_trees"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("tree_id", "hash", name=op.f("pk_images")),
    )


def downgrade() -> None:
    op.drop_table("images")
