"""What is in a pan that is boiled: dissolved, water, and the rest; what a heat means for its weight, a weight for its heat, and
how long it takes.

Worked example: a caramel whose sugars, 54 g of 60 sucrose and 40 syrup, end with 9.7 g of water: 84.8 % of the water phase is
solids. A clear syrup of that boils at 113.7 °C; one that rises 1.08 times as far beside water at 114.8.
"""

from collections.abc import Mapping, Sequence

from fern_match.core.cook.lines import Taken
from fern_match.core.cook.step import Boil
from fern_match.core.food import Pantry
from fern_match.core.physics.heat import boiling_min
from fern_match.core.physics.syrup import boils_with_c, mass_left_g, syrup_of

_FROM_C, _WATER_BOILS_C, _HOTTEST_C = 20.0, 100.0, 160.0
_WATER_J, _DRY_J = 4.18, 1.7  # heat capacities [J/(g K)] (approximate)
_STIRRED_MIN = 2.0  # to dissolve it before it boils (approximate)


def boil_of(taken: Sequence[Taken], water_lost_g: float, pantry: Pantry, rise: float = 1.0) -> Boil:
    """What is in the pan of what goes in there [g].

    Args:
        taken: All that is in the pan as the boil ends.
        water_lost_g: Of it [g], 0 or more.
        pantry: For compositions.
        rise: How its boiling point rises beside that of a clear syrup, above 0.
    """
    made = syrup_of((pantry.by_id.get(one.line.ingredient_id), one.line.grams * one.share) for one in taken)
    return Boil(
        dissolved=made.dissolved,
        water_g=made.water_g,
        others_g=max(0.0, made.total_g - made.water_g - sum(made.dissolved.values())),
        left_g=max(0.0, made.total_g - water_lost_g),
        rise=rise,
        known=made.known and not any(one.line.unread for one in taken),
    )


def capacity_of(dissolved: Mapping[str, float], water_g: float, others_g: float) -> float:
    """Heat capacity of what is in a pan [J/(g K)], by its water and the rest.

    Args:
        dissolved: Solute -> grams.
        water_g: 0 or more.
        others_g: 0 or more.

    Source: weighted sum; 4.18 for water, 1.7 for the rest (approximate).
    """
    dry = sum(dissolved.values()) + others_g
    return (water_g * _WATER_J + dry * _DRY_J) / (water_g + dry) if water_g + dry > 0 else _DRY_J


def water_left_g(boil: Boil) -> float:
    """Water in the pan when the boil has ended [g]; never below 0.

    Args:
        boil: What is in the pan.
    """
    return max(0.0, boil.left_g - sum(boil.dissolved.values()) - boil.others_g)


def water_left_share(boil: Boil) -> float | None:
    """How much of what is left is water [g/g]; None where nobody knows what all of it is made of, or nothing is left.

    Args:
        boil: What is in the pan.
    """
    return water_left_g(boil) / boil.left_g if boil.known and boil.left_g > 0 else None


def heat_at_g(boil: Boil, pan_g: float) -> float | None:
    """What a pan reads at sea level when so much is left in it [degC]; None where nothing is dissolved, or no water can be left.

    Args:
        boil: What is in the pan.
        pan_g: Left in it, the pan taken off [g].

    Accuracy: 1.5 degC to 85 % of solids in the water phase, 4 above (approximate).
    """
    water = pan_g - sum(boil.dissolved.values()) - boil.others_g
    clear = boils_with_c(boil.dissolved, water)
    return None if clear is None else _WATER_BOILS_C + boil.rise * (clear - _WATER_BOILS_C)


def mass_at_c(boil: Boil, sea_level_c: float) -> float | None:
    """What is left in a pan as it reads so much at sea level [g]; None where nothing is dissolved.

    Args:
        boil: What is in the pan.
        sea_level_c: 100 to 160 degrees Celsius.
    """
    if sum(boil.dissolved.values()) <= 0:
        return None
    clear = min(_HOTTEST_C, _WATER_BOILS_C + (sea_level_c - _WATER_BOILS_C) / boil.rise)
    return mass_left_g(boil.dissolved, boil.others_g, clear)


def minutes_of(boil: Boil, end_c: float, net_kw: float) -> float:
    """How long it takes from cold to its end [min].

    Args:
        boil: What is in the pan.
        end_c: Where it ends [degC].
        net_kw: What reaches the pan [kW], 0.05 to 20.
    """
    start = sum(boil.dissolved.values()) + boil.water_g + boil.others_g
    capacity = min(4.2, max(1.0, capacity_of(boil.dissolved, boil.water_g, boil.others_g)))
    return _STIRRED_MIN + boiling_min(start, max(0.0, end_c - _FROM_C), capacity, max(0.0, start - boil.left_g), net_kw)
