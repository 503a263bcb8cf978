"""What is in a pan that is boiled: dissolved, water, and the rest; where its own water says it ends, and how long it takes.

Worked example: a caramel whose sugars, 54 g of 60 sucrose and 40 syrup, are to end with 9.7 g of water: 84.8 % of the water
phase is solids, which boils at 113.7 °C.
"""

from collections.abc import Mapping, Sequence

from fern_match.core.cook.lines import Taken
from fern_match.core.cook.step import Boil
from fern_match.core.food import Nutrient, Pantry
from fern_match.core.physics.heat import boiling_min
from fern_match.core.physics.syrup import boils_c
from fern_match.core.physics.water_activity import solutes_per_100_g

_NEEDED = (Nutrient.WATER, Nutrient.SUGARS)
_DRIEST = 0.99
_FROM_C = 20.0
_WATER_J, _DRY_J = 4.18, 1.7  # heat capacities [J/(g K)] (approximate)
_STIRRED_MIN = 2.0  # to dissolve it before it boils (approximate)


def boil_of(taken: Sequence[Taken], water_lost_g: float, pantry: Pantry) -> Boil:
    """What is in the pan of what goes in there [g].

    Args:
        taken: All that is in the pan as the boil ends.
        water_lost_g: Of it [g], 0 or more.
        pantry: For compositions.
    """
    dissolved: dict[str, float] = {}
    water = total = 0.0
    known = True
    for one in taken:
        grams = one.line.grams * one.share
        total += grams
        food = pantry.by_id.get(one.line.ingredient_id)
        if one.line.unread or (grams > 0 and (food is None or any(food.per_100_g.get(what) is None for what in _NEEDED))):
            known = False
        if food is None:
            continue
        water += grams / 100 * (food.per_100_g.get(Nutrient.WATER) or 0.0)
        for name, per_100_g in solutes_per_100_g(food).items():
            dissolved[name] = dissolved.get(name, 0.0) + grams / 100 * per_100_g
    return Boil(
        dissolved=dissolved,
        water_g=water,
        others_g=max(0.0, total - water - sum(dissolved.values())),
        left_g=max(0.0, total - water_lost_g),
        known=known,
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


def own_end_c(boil: Boil) -> float | None:
    """Where a boil ends at sea level by its own sugars and the water it is to keep [degC].

    None where nothing is dissolved, and where nobody knows what all of it is made of.

    Args:
        boil: What is in the pan.

    Accuracy: 1.5 degC to 85 % of solids in the water phase, 4 above (approximate).
    """
    dissolved, water = sum(boil.dissolved.values()), water_left_g(boil)
    if dissolved <= 0 or water <= 0 or not boil.known:
        return None
    return boils_c(boil.dissolved, min(_DRIEST, dissolved / (dissolved + water)))


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
