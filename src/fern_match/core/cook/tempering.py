"""Tempering with seed: how much of it, the three heats of this coat, and what to do when it was overshot.

Worked example: dark chocolate of 35 % fat, melted to 45 °C and to be worked at 32, seed at 20: 0.3145 g of seed a gram melted,
so of 750 g in all 571 g are melted and 179 g are held back.
"""

from fern_match.core.batch import BatchLayer
from fern_match.core.cook.step import Bench
from fern_match.core.cook.tables import by_family, windows
from fern_match.core.errors import check_range
from fern_match.core.food import Nutrient
from fern_match.core.measures.shown import shown_range, shown_temperature

_LIQUID_J, _SOLID_J, _MELTING_J = 1.65, 1.6, 140.0  # J/(g K), J/(g K), J/g of fat (approximate)
_USUAL_FAT = 0.34


def seed_ratio(fat: float, melted_c: float, work_c: float, seed_c: float) -> float:
    """How much seed brings a gram of melted chocolate to its working heat [g/g], no heat lost to the room.

    Args:
        fat: Share of the chocolate [g/g], 0.15 to 1.
        melted_c: Of the melted part [degC].
        work_c: Wanted [degC], between the two others.
        seed_c: Of the seed [degC].

    Raises:
        OutOfRange: fat is outside, or the working heat not between the others.

    Source: heat balance, c_l (T_melt - T_work) / (c_s (T_work - T_seed) + f L).

    >>> round(seed_ratio(0.35, 45, 32, 20), 4)
    0.3145
    """
    check_range("fat", fat, 0.15, 1.0)
    check_range("working heat", work_c, seed_c + 0.5, melted_c, unit="°C")
    return _LIQUID_J * (melted_c - work_c) / (_SOLID_J * (work_c - seed_c) + fat * _MELTING_J)


def seed_words(layer: BatchLayer, key: str, bench: Bench) -> str:
    """How much is melted and how much held back, and the heats of this coat; empty where nothing is known of it.

    Args:
        layer: A coat, or what is made with one.
        key: Of the step: "melt" says the seed, any other the heats.
        bench: The kitchen and its schools.
    """
    coat = by_family(windows(), layer.family, bench.families)
    if coat is None:
        return ""

    def shown(temp_c: float) -> str:
        return shown_temperature(temp_c, bench.unit)

    if key == "melt":
        limit = f"Never above {shown(coat.burns_above_c)}: it burns there."
        if bench.school("coat", layer.layer_id) != "temper" or coat.cool_c is None:
            return limit
        ratio = seed_ratio(_fat_of(layer, bench), coat.melt_c[0], sum(coat.work_c) / 2, min(bench.room_c, 24.0))
        seed = layer.added_g * ratio / (1 + ratio)
        return f"Melt {layer.added_g - seed:.0f} g, hold {seed:.0f} g back as seed. {limit}"
    if coat.cool_c is None or coat.lost_above_c is None:
        return ""
    cool, work = shown_range(*coat.cool_c, bench.unit), shown_range(*coat.work_c, bench.unit)
    return (
        f"Its heats: melted at {shown(coat.melt_c[0])}; without seed cooled to {cool}; worked at {work}. "
        f"Above {shown(coat.lost_above_c)} its temper is lost: begin again."
    )


def _fat_of(layer: BatchLayer, bench: Bench) -> float:
    known = total = 0.0
    for line in layer.ingredients:
        food = bench.pantry.by_id.get(line.ingredient_id)
        fat = food.per_100_g.get(Nutrient.FAT) if food is not None else None
        if fat is not None:
            known += line.grams * fat / 100
            total += line.grams
    return min(1.0, max(0.15, known / total)) if total > 0 else _USUAL_FAT
