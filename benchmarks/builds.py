"""How well builds are proposed from a wrapper alone: families shared with the truth, and the right number of layers.

Usage: `builds.py SET [held] [each]`, a set as in accuracy.py; `held` takes the half that was kept unlooked at, `each` prints
every piece that differs. Overlap is of the families as multisets; variants count as what they vary, coatings as one.
"""

import sys
from collections import Counter
from collections.abc import Iterable
from dataclasses import replace
from typing import Any

from bars import half, pieces_of, study_of

from fern_match.core.families import standard_families
from fern_match.core.food import standard_pantry
from fern_match.core.study.proposals import proposed_builds
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer

_HALVED = frozenset({"bars", "pieces"})


def kinds(layers: Iterable[Layer]) -> Counter[str]:
    """How often each kind of layer is there; what sort of coating it is, no set tells."""
    known = standard_families()
    roots = (known.root_of(layer.family) for layer in layers)
    return Counter("coating" if root.startswith("compound") else root for root in roots)


def compared(piece: dict[str, Any]) -> tuple[Counter[str], Counter[str]]:
    """The kinds of the truth, and those of the likeliest build."""
    study = study_of(piece, "none")
    found = proposed_builds(StudyReading(replace(study, layers=(), readings=()), standard_pantry()))
    return kinds(study.layers), kinds(found[0].layers if found else ())


def main() -> None:
    """Print a line per set."""
    names = [one for one in sys.argv[1:] if one not in {"held", "each"}]
    for name in names:
        pieces = pieces_of(name)
        if name in _HALVED:
            pieces = half(pieces, held="held" in sys.argv)
        overlaps, right = [], 0
        for piece in pieces:
            truth, found = compared(piece)
            overlaps.append((truth & found).total() / max(1, (truth | found).total()))
            right += truth.total() == found.total()
            if "each" in sys.argv and truth != found:
                print(
                    f"{piece['id']}: missing {sorted((truth - found).elements())}, too many {sorted((found - truth).elements())}"
                )
        held = ", held back" if "held" in sys.argv and name in _HALVED else ""
        overlap = sum(overlaps) / len(overlaps)
        print(f"{name}{held}: overlap {overlap:.2f}, right number of layers {right / len(pieces):.0%}, {len(pieces)} pieces")


if __name__ == "__main__":
    main()
