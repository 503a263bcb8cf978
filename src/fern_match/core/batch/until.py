"""What is worked in until it holds: set out with something to spare, and what was left says how much was used.

Worked example: 320 g of icing sugar are planned, so 352 g are set out, a tenth more; 42 g are left: 310 g went in, 3 % less.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from fern_match.core.batch.scale import Batch
from fern_match.core.measures import Typed

MORE = 0.10  # set out beyond what is planned: flours and sugars differ so much in what they take up (approximate)
# Families that are worked by hand until they hold, and what does it.
_WORKED = {
    "uncooked-fondant": "sweet-bulk",
    "peanut-filling": "sweet-bulk",
    "keto-nut-filling": "sweet-bulk",
    "marzipan": "sweet-bulk",
    "cookie-dough": "flour",
    "protein-dough": "structure-protein",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class SetOut:
    """One line that is worked in until the layer holds."""

    ingredient_id: str
    planned_g: float
    out_g: float
    used_g: float | None  # None until it was said what is left
    words: str


def set_out(batch: Batch, left: Mapping[str, Typed]) -> dict[str, SetOut]:
    """Lines that are worked in until it holds, by ingredient; the largest of its role in each layer that is made so.

    Args:
        batch: With its lines [g].
        left: By ingredient: what was left of what was set out, as read [g].
    """
    found: dict[str, SetOut] = {}
    for layer in batch.layers:
        lines = [one for one in layer.ingredients if one.role == _WORKED.get(layer.family) and one.grams > 0 and not one.unread]
        if not lines:
            continue
        line = max(lines, key=lambda one: one.grams)
        planned, out = line.grams, line.grams * (1 + MORE)
        typed = left.get(line.ingredient_id)
        used = out - typed.value if typed is not None and typed.value is not None and typed.value <= out else None
        said = f"Set out {out:.0f} g and work it in until it holds; write what is left."
        if used is not None:
            off = used / planned - 1
            than = "as planned" if abs(off) < _SAME else f"{abs(off):.0%} {'more' if off > 0 else 'less'} than planned"
            said = f"{used:.0f} g went in, {than}.".replace("%", "\u00a0%")
        elif typed is not None and typed.value is not None:
            said = f"More is left than the {out:.0f} g that were to be set out: set out as much, or say what was."
        found[line.ingredient_id] = SetOut(
            ingredient_id=line.ingredient_id, planned_g=planned, out_g=out, used_g=used, words=said
        )
    return found


_SAME = 0.01
