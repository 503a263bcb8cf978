"""Spoons and cups: what they hold by country, and what they hold of an ingredient."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from fern_match.core.errors import check_range


class Measures(StrEnum):
    """Whose spoons and cups."""

    US = "US"
    METRIC = "metric"
    UK = "UK"
    AU = "AU"


# Millilitres. US customary; metric and UK spoons of 5 and 15; the Australian tablespoon is 20; the UK cup is half a pint.
MILLILITRES: Mapping[Measures, Mapping[str, float]] = {
    Measures.US: {"tsp": 4.92892, "tbsp": 14.78676, "cup": 236.58824, "fl oz": 29.57353, "pint": 473.17647, "quart": 946.35295},
    Measures.METRIC: {"tsp": 5.0, "tbsp": 15.0, "cup": 250.0, "fl oz": 28.41306, "pint": 568.26125, "quart": 1136.5225},
    Measures.UK: {"tsp": 5.0, "tbsp": 15.0, "cup": 284.13063, "fl oz": 28.41306, "pint": 568.26125, "quart": 1136.5225},
    Measures.AU: {"tsp": 5.0, "tbsp": 20.0, "cup": 250.0, "fl oz": 28.41306, "pint": 568.26125, "quart": 1136.5225},
}
SPOON_ERROR = 0.08  # relative: levelling, packing, the spoon itself (approximate)
CUP_ERROR = 0.10
_MOST_DENSITY = 3.0
_MOST_CUPS = 8
# What fills up where no spoon is near: millilitres, relative error, and how many anyone counts.
_PINCH_ML, _PINCH_ERROR, _MOST_PINCHES = 0.31, 0.5, 2
_DROP_ML, _DROP_ERROR, _MOST_DROPS = 0.05, 0.2, 12
_CLOSE = 0.03  # relative: closer than any spoon is filled, so the simplest words that are this close win
_CUP_PARTS = tuple(Fraction(part) for part in ("0", "1/4", "1/3", "1/2", "2/3", "3/4"))
_HALVES, _QUARTERS, _EIGHTHS = ((tuple(Fraction(at, under) for at in range(under))) for under in (2, 4, 8))
_WHOLE = (Fraction(0),)
# Ways to say a volume, simplest first: which measures, and which parts of each people own.
_Way = tuple[tuple[str, tuple[Fraction, ...]], ...]
_WITH_CUPS: tuple[_Way, ...] = (
    (("cup", _CUP_PARTS),),
    (("cup", _CUP_PARTS), ("tbsp", _HALVES)),
    (("cup", _CUP_PARTS), ("tbsp", _WHOLE), ("tsp", _HALVES)),
)
_WITH_TABLESPOONS: tuple[_Way, ...] = (
    (("tbsp", _HALVES),),
    (("tbsp", _WHOLE), ("tsp", _HALVES)),
    (("tbsp", _WHOLE), ("tsp", _QUARTERS)),
)
_WITH_TEASPOONS: tuple[_Way, ...] = ((("tsp", _QUARTERS),), (("tsp", _EIGHTHS),))


@dataclass(frozen=True, slots=True)
class Scooped:
    """An amount in spoons or cups, with what that holds."""

    words: str
    grams: float
    low_g: float  # one spoonful is like another within these
    high_g: float


@dataclass(frozen=True, slots=True)
class MeasuresChoice:
    """A country's spoons and cups, to choose."""

    measures: Measures
    words: str


def measures_choices() -> tuple[MeasuresChoice, ...]:
    """Whose spoons and cups there are, and what they hold."""
    names = {Measures.METRIC: "metric", Measures.US: "US", Measures.UK: "UK", Measures.AU: "Australian"}
    return tuple(
        MeasuresChoice(
            measures, f"{name}: {', '.join(f'{MILLILITRES[measures][unit]:.3g}' for unit in ('tsp', 'tbsp', 'cup'))} mL"
        )
        for measures, name in names.items()
    )


def spoon_error_words() -> str:
    """How far spoons and cups err."""
    return f"a spoon errs by about {100 * SPOON_ERROR:.0f} %, a cup by {100 * CUP_ERROR:.0f} %"


def scooped(grams: float, density_g_ml: float, measures: Measures, *, pours: bool = False) -> Scooped | None:
    """An amount as a person would scoop it: "3/4 cup + 2 tbsp", "1/8 tsp + a pinch"; None where no spoon comes near.

    The simplest words within 3 % are taken, else the closest; what they hold is never apart from the amount by more than
    spoons err: a pinch or drops fill up, and where they cannot, only a scale can tell.

    Args:
        grams: The amount [g], above 0.
        density_g_ml: As measured in a cup or spoon [g/mL], above 0 and at most 3.
        pours: Whether it is thin enough to drip, so that drops fill up and not pinches.

    Raises:
        OutOfRange: density_g_ml is outside.

    Source: data/ingredients.csv for densities (typical values); spoon errors approximate.

    >>> scooped(100.0, 0.85, Measures.US).words
    '1/2 cup'
    >>> scooped(0.92, 1.22, Measures.METRIC).words
    '1/8 tsp + a pinch'
    """
    check_range("density", density_g_ml, 0.01, _MOST_DENSITY, unit="g/mL")
    sizes = MILLILITRES[measures]
    volume = grams / density_g_ml
    if volume > _MOST_CUPS * sizes["cup"]:
        return None
    in_cups, in_tablespoons = volume >= 0.22 * sizes["cup"], volume >= 0.95 * sizes["tbsp"]
    ways = _WITH_CUPS if in_cups else _WITH_TABLESPOONS if in_tablespoons else _WITH_TEASPOONS
    said = [_said(volume, way, sizes) for way in ways]
    off = [abs(_held(parts, sizes) / volume - 1) for parts in said]
    best = next((at for at, error in enumerate(off) if error <= _CLOSE), off.index(min(off)))
    parts = said[best]
    held = _held(parts, sizes) * density_g_ml
    error = sum(
        float(count) * sizes[name] * density_g_ml * (CUP_ERROR if name == "cup" else SPOON_ERROR) for name, count in parts
    )
    if abs(held - grams) > error:
        return _filled_up(volume, density_g_ml, sizes["tsp"], pours=pours)
    words = " + ".join(_eighths_words(int(8 * count)) if name == "tsp" else _words(name, count) for name, count in parts)
    return Scooped(words, held, held - error, held + error)


def _filled_up(volume: float, density_g_ml: float, tsp_ml: float, *, pours: bool) -> Scooped | None:
    """Eighths of a teaspoon, filled up with a pinch or drops; None where that does not come near."""
    eighths = int(volume / (tsp_ml / 8) + 1e-9)
    spoon_ml = eighths * tsp_ml / 8
    size, relative, most = (_DROP_ML, _DROP_ERROR, _MOST_DROPS) if pours else (_PINCH_ML, _PINCH_ERROR, _MOST_PINCHES)
    count = max(1, round((volume - spoon_ml) / size))
    held_ml, error_ml = spoon_ml + count * size, spoon_ml * SPOON_ERROR + count * size * relative
    if count > most or abs(held_ml - volume) > error_ml:
        return None
    one, more = ("1 drop", "drops") if pours else ("a pinch", "pinches")
    fill = one if count == 1 else f"{count} {more}"
    words = f"{_eighths_words(eighths)} + {fill}" if eighths else fill
    low, high = ((held_ml + sign * error_ml) * density_g_ml for sign in (-1, 1))
    return Scooped(words, held_ml * density_g_ml, low, high)


def _eighths_words(eighths: int) -> str:
    """Eighths of a teaspoon by spoons that there are: no set holds three, five or seven of them in one."""
    whole, odd = divmod(eighths, 8)
    if odd in {3, 5, 7}:
        return f"{_words('tsp', Fraction(8 * whole + odd - 1, 8))} + {_words('tsp', Fraction(1, 8))}"
    return _words("tsp", Fraction(eighths, 8))


def _said(volume: float, way: _Way, sizes: Mapping[str, float]) -> list[tuple[str, Fraction]]:
    """As much as goes into each measure in turn, the last to the nearest."""
    parts = []
    for name, fractions in way:
        last = name == way[-1][0]
        whole = int(volume / sizes[name] + 1e-9)
        options = [whole + part for part in fractions] + ([Fraction(whole + 1)] if last else [])
        near = [option for option in options if last or float(option) * sizes[name] <= volume + 1e-9]
        count = min(near, key=lambda option: abs(float(option) * sizes[name] - volume))
        volume -= float(count) * sizes[name]
        if count:
            parts.append((name, count))
    return parts or [(way[-1][0], way[-1][1][1])]


def _held(parts: Sequence[tuple[str, Fraction]], sizes: Mapping[str, float]) -> float:
    return sum(float(count) * sizes[name] for name, count in parts)


def _words(name: str, count: Fraction) -> str:
    return f"{mixed_words(count)} {name}s" if name == "cup" and count > 1 else f"{mixed_words(count)} {name}"


def mixed_words(count: Fraction) -> str:
    """A count as kitchens write it: "1 1/2".

    Args:
        count: 0 or more.
    """
    whole, part = divmod(count, 1)
    return f"{whole} {part}" if whole and part else str(part or whole)
