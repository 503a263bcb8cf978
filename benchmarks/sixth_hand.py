"""Twenty pieces by a sixth hand, then twelve to eighteen each by a seventh to a fourteenth: further first looks.

Each was written out when the reader and the estimate were done with the one before.

`data/sixth_hand.txt` and its like hold a block each: id, region, language, net weight and pieces; how the list begins and ends; a
line per layer (family, place, finished grams, share of water lost, what the label heads its list with and `%` where the head says
its share, then the recipe in parts as added); `%` declared shares, `~` what the label calls an ingredient.
"""

import re
from pathlib import Path
from typing import Any

from fifth_hand import L, P, as_layers, statement
from own_pieces import made_up

_BLOCK = re.compile(r"\[(?P<id>\S+) (?P<region>\w+) (?P<language>\w+) (?P<net>\d+ g) x(?P<pieces>\d+)(?P<twos> twos)?\]")
_LAYER = re.compile(
    r"(?P<family>[a-z-]+) (?P<place>\w+) (?P<grams>[\d.]+) (?P<lost>[\d.]+) ?(?P<head>[^=%]*?) ?(?P<percent>%)? ?= (?P<parts>.+)"
)


def pieces_by(hand: str) -> list[dict[str, Any]]:
    """The pieces in the shape of the other sets.

    Args:
        hand: sixth to fourteenth.
    """
    blocks = (Path(__file__).parent / "data" / f"{hand}_hand.txt").read_text(encoding="utf-8").strip().split("\n\n")
    return [
        made_up(one.id, one.region, one.net, one.pieces, as_layers(one), statement(one))
        for one in (_piece(block.splitlines()) for block in blocks)
    ]


def _piece(lines: list[str]) -> P:
    head = _BLOCK.fullmatch(lines[0])
    assert head, lines[0]
    begins, _, ends = lines[1].partition("|")
    layers: list[L] = []
    says: dict[str, str] = {}
    shares: tuple[str, ...] = ()
    for line in lines[2:]:
        if line.startswith("~ "):
            says = {food: name for food, _, name in (pair.partition("=") for pair in line[2:].split("; "))}
        elif line.startswith("% "):
            shares = tuple(line[2:].split(", "))
        else:
            layers.append(_layer(line, layers))
    return P(
        head["id"],
        head["region"],
        head["language"],
        head["net"],
        int(head["pieces"]),
        tuple(layers),
        begins.strip() + " ",
        " " + ends.strip(),
        says,
        shares,
        twos=bool(head["twos"]),
    )


def _layer(line: str, before: list[L]) -> L:
    found = _LAYER.fullmatch(line)
    assert found, line
    host = next((one.id for one in reversed(before) if one.place != "coat"), None) if found["place"] == "inclusion" else None
    return L(
        f"l{len(before)}",
        found["family"],
        found["place"],
        float(found["grams"]),
        found["parts"],
        float(found["lost"]),
        found["head"].strip(),
        bool(found["percent"]),
        host,
    )
