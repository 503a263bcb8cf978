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
    with files(__package__).joinpath(table).open(encoding="utf-8", newline="") as text:
        return list(csv.DictReader(text))
