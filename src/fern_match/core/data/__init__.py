"""Tables the core reads, each with its source in README.md beside it. No code but the reader of a table."""

import csv
from importlib.resources import files


def rows(table: str) -> list[dict[str, str]]:
    """The rows of a CSV table of this folder, by column name.

    Args:
        table: File name, such as `families.csv`.

    Raises:
        FileNotFoundError: there is no such table.
    """
    text = files(__package__).joinpath(table).read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))
