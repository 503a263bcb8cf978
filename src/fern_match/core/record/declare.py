"""How a record is declared: limits stand in its types, everything else beside its fields.

```
@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    __pydantic_config__: ClassVar = STRICT
    id: Key
    subject: Key = told("Weighed", says="subject", refers="layer")
    typed: Cell = told("Reading", says="grams")

readings: Annotated[tuple[Reading, ...], Count(400)] = told("Readings", label="{subject}, reading {n}", value="typed", default=())
```
"""

from collections.abc import Callable, Mapping
from dataclasses import MISSING, dataclass, field
from typing import Any, Final

STRICT: Final[Mapping[str, str]] = {"extra": "forbid"}  # for whoever reads records from JSON: unknown fields are refused


@dataclass(frozen=True, slots=True)
class Signs:
    """A text of at most so many signs, without control signs but line ends and tabs."""

    most: int

    def __get_pydantic_json_schema__(self, schema: Any, handler: Any) -> dict[str, Any]:
        """For published schemas; the limit itself is held by `check_limits`."""
        return {**handler(schema), "maxLength": self.most}


@dataclass(frozen=True, slots=True)
class Id:
    """An id: letters, digits, hyphens and underscores, so that it can stand in an address."""

    most: int = 80

    @property
    def pattern(self) -> str:
        """As a regular expression."""
        return rf"^[A-Za-z0-9][A-Za-z0-9_-]{{0,{self.most - 1}}}$"  # with fullmatch: a dollar lets a line end by

    def __get_pydantic_json_schema__(self, schema: Any, handler: Any) -> dict[str, Any]:
        """For published schemas."""
        return {**handler(schema), "pattern": self.pattern}


@dataclass(frozen=True, slots=True)
class Count:
    """At most so many entries or keys."""

    most: int

    def __get_pydantic_json_schema__(self, schema: Any, handler: Any) -> dict[str, Any]:
        """For published schemas."""
        found = handler(schema)
        return {**found, "maxProperties" if found.get("type") == "object" else "maxItems": self.most}


def told(
    title: str,
    *,
    default: Any = MISSING,
    factory: Callable[[], Any] | None = None,
    says: str = "",
    keys: tuple[str, ...] = (),
    label: str = "",
    noun: str = "",
    value: str = "",
    refers: str = "",
    provides: str = "",
    added: str = "",
    removed: str = "",
    silent: str = "",
    binds: bool = False,
    together: str = "",
    follows: str = "",
) -> Any:
    """A field of a record, with what its history says of it.

    Args:
        title: What a user calls it; for a mapping with {0} and {1} for its keys.
        says: What its value names: ingredient, family, layer, subject, evidence; or grams, for a bare figure.
        keys: What the keys of a mapping name, from the outer to the inner; also item and row.
        label: What an entry of the list is called, with {field} for its fields and {n} for its number among its like.
        noun: What an entry is: "layer".
        value: The entry's field that stands for all of it; such an entry is told as a value, not as added or removed.
        refers: What its value points at, or the innermost keys of a mapping: layer, version.
        provides: What the ids of the list's entries can be pointed at as: layer, version.
        added: For a plain list that is a set, what is said of a new member, with {0} for it.
        removed: The same of one that went.
        silent: Why nothing is said of it: it tells a user nothing.
        binds: Whether an entry goes with what this field points at, though the field could be empty.
        together: Fields of one record with the same word here are one decision: two windows that change any of them ask.
        follows: The same word where this field only follows from the others: it is decided with them, and not asked about.
    """
    metadata = {
        "called": title,
        "says": says,
        "keys": keys,
        "label": label,
        "noun": noun,
        "value": value,
        "refers": refers,
        "provides": provides,
        "added": added,
        "removed": removed,
        "silent": silent,
        "binds": binds,
        "together": together,
        "follows": follows,
    }
    kept = {name: entry for name, entry in metadata.items() if entry}
    if factory is not None:
        return field(default_factory=factory, metadata=kept)
    return field(default=default, metadata=kept) if default is not MISSING else field(metadata=kept)
