"""revisions

Purpose: each state of a match is kept, so that any change can be undone and any moment returned to.
Risk: none for what is there; a match from before has its first revision written at its next change.
"""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "revisions",
        sa.Column("match_id", sa.String(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("saved_at", sa.DateTime(), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("undo_to", sa.Integer(), nullable=True),
        sa.Column("redo_to", sa.Integer(), nullable=True),
        sa.Column("file", sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(["match_id"], ["matches.id"], name=op.f("fk_revisions_match_id_matches"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("match_id", "number", name=op.f("pk_revisions")),
    )


def downgrade() -> None:
    op.drop_table("revisions")
