"""What a statement says once it is read: a tree of names, the lists beside it, and what was left over."""

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True, kw_only=True)
class Minimum:
    """A least content that the label promises: cocoa or milk solids of a chocolate."""

    of: str  # the chocolate's name; empty where the label does not say
    what: str  # cocoa or milk
    percent: float


@dataclass(frozen=True, slots=True, kw_only=True)
class StatementItem:
    """One name on the statement, with what stands in its brackets."""

    key: str  # its names from the top down, "dark chocolate > sugar"; a number follows where a name stands twice
    name: str
    percent: float | None = None  # declared, of the finished piece as used
    percent_decimals: int = 0
    of_bracket: bool = False  # its share is of what its bracket holds: "(40 % of the filling)"
    class_name: str | None = None  # emulsifier, acid ...: what it is there for
    at_most_percent: float | None = None  # it stands in a "2 % or less" group
    class_group: int = 0  # names of one class that are ranked together share a number: "sweeteners (maltitol, sucralose)"
    alternatives: tuple[str, ...] = ()  # names of neighbours of which at least one is in it
    source: str | None = None  # what it comes from: "milk" for "butter (milk)"
    contents: tuple[Minimum, ...] = ()  # "(54 % cocoa solids)"
    free_order: bool = False  # its brackets stand "in varying proportions"
    items: tuple["StatementItem", ...] = ()

    @property
    def is_compound(self) -> bool:
        """Whether brackets open what it is made of."""
        return bool(self.items)

    def leaves(self) -> tuple["StatementItem", ...]:
        """Every name below that is not opened further; itself when it is one."""
        return tuple(leaf for part in self.items for leaf in part.leaves()) if self.items else (self,)

    def everything(self) -> tuple["StatementItem", ...]:
        """Itself and every name below."""
        return (self, *(found for part in self.items for found in part.everything()))


@dataclass(frozen=True, slots=True, kw_only=True)
class Statement:
    """An ingredient statement, in its printed order."""

    items: tuple[StatementItem, ...] = ()
    problems: tuple[str, ...] = ()  # what is wrong with its brackets, in sentences
    contains: tuple[str, ...] = ()  # allergens that the label names
    may_contain: tuple[str, ...] = ()  # traces, and what is handled beside it
    minima: tuple[Minimum, ...] = ()
    says: str = ""  # what it is, where a sentence or a head stands before the one list: "Oat flapjack topped with ..."
    notes: tuple[str, ...] = ()  # advice, footnotes, claims
    unread: tuple[str, ...] = ()  # sentences that are none of these
    tongue: str = "English"  # the language it is printed in; names are in English here
    printed: Mapping[str, str] = field(default_factory=dict)  # English words of a name -> what the label prints for them

    def leaves(self) -> tuple[StatementItem, ...]:
        """Every name that is not opened further, from first to last."""
        return tuple(leaf for item in self.items for leaf in item.leaves())

    def everything(self) -> tuple[StatementItem, ...]:
        """Every name, opened or not, from first to last."""
        return tuple(found for item in self.items for found in item.everything())
