"""Rows of a panel that cannot be true together: flagged, never refused."""

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import product

from fern_match.core.label.intervals import Interval
from fern_match.core.label.rows import Region, RowId, panel_rows

_KJ_PER_KCAL = 4.184
_ALLULOSE_LESS = 3.6  # kcal/g by which allulose has less than other carbohydrate
# Organic acids, alcohol and rounding of each part leave this much room on both sides of a computed energy.
_ENERGY_ROOM = 0.03


@dataclass(frozen=True, slots=True)
class Contradiction:
    """Two or more figures that fight, as a sentence."""

    rows: tuple[str, ...]
    sentence: str


def contradictions(
    region: Region, declared: Mapping[RowId, Interval], basis_g: float | None, *, allulose: bool = False
) -> tuple[Contradiction, ...]:
    """Every pair of rows that no food could have, and energy that does not follow from its parts.

    Args:
        allulose: Whether the statement names it: it counts as carbohydrate and has next to no energy.
        declared: What each declared row stands for, in its unit on the label's basis.
        basis_g: The grams the figures are for, or None when unknown.

    Source: 21 CFR 101.9(c)(1)(i), methods B and C; Regulation (EU) 1169/2011, Annex XIV.
    """
    found = [*_parts_above_whole(region, declared), *_energy(region, declared, allulose=allulose), *_kj_against_kcal(declared)]
    found += _more_than_the_food(region, declared, basis_g)
    return tuple(found)


def energy_interval_kcal(region: Region, declared: Mapping[RowId, Interval], *, allulose: bool = False) -> Interval | None:
    """Energy that the declared parts allow by any permitted method [kcal]; None when fat, carbohydrate or protein is missing.

    Args:
        declared: Intervals of the rows, in g.
        allulose: Whether some of the carbohydrate may be allulose that no row declares.

    Source: as `contradictions`.
    """
    if not {RowId.FAT, RowId.CARBOHYDRATE, RowId.PROTEIN} <= declared.keys():
        return None
    ends: list[tuple[float, float]] = []
    for factor_fibre, factor_polyol in product(*_factors(region)):
        low = high = 0.0
        for row, factor in _terms(region, declared, factor_fibre, factor_polyol):
            interval = declared[row]
            low += factor * (interval.low if factor > 0 else interval.high)
            high += factor * (interval.high if factor > 0 else interval.low)
        if allulose and RowId.ALLULOSE not in declared:
            low -= _ALLULOSE_LESS * _undeclared(declared)
        ends.append((low, high))
    return Interval(max(0.0, min(low for low, _ in ends)), max(high for _, high in ends))


def _undeclared(declared: Mapping[RowId, Interval]) -> float:
    """The most of the carbohydrate that may be allulose [g]: what is neither sugar, fibre nor polyol."""
    known = sum(declared[row].low for row in (RowId.SUGARS, RowId.FIBRE, RowId.POLYOLS) if row in declared)
    return max(0.0, declared[RowId.CARBOHYDRATE].high - known)


def _factors(region: Region) -> tuple[tuple[float, float], tuple[float, float]]:
    """Lowest and highest energy of fibre and of polyols in use [kcal/g]."""
    return ((0.0, 4.0), (0.0, 4.0)) if region.counts_fibre else ((2.0, 2.0), (0.0, 2.4))


def _terms(region: Region, declared: Mapping[RowId, Interval], fibre: float, polyol: float) -> list[tuple[RowId, float]]:
    terms = [(RowId.FAT, 9.0), (RowId.PROTEIN, 4.0), (RowId.CARBOHYDRATE, 4.0)]
    if RowId.FIBRE in declared:
        terms.append((RowId.FIBRE, fibre - 4.0 if region.counts_fibre else fibre))
    if RowId.POLYOLS in declared:
        terms.append((RowId.POLYOLS, polyol - 4.0))
    if RowId.ALLULOSE in declared:
        terms.append((RowId.ALLULOSE, -_ALLULOSE_LESS))
    return terms


def _parts_above_whole(region: Region, declared: Mapping[RowId, Interval]) -> list[Contradiction]:
    found = []
    titles = {row.id: row.title for row in panel_rows(region)}
    for row in panel_rows(region):
        if row.part_of is None or row.id not in declared or row.part_of not in declared:
            continue
        part, whole = declared[row.id], declared[row.part_of]
        if part.low > whole.high:
            found.append(
                Contradiction(
                    (row.id, row.part_of),
                    f"{_capital(row.title)} ({part.low:g} g or more) cannot exceed {titles[row.part_of].lower()} "
                    f"({whole.high:g} g at most). Check both figures.",
                )
            )
    return found


def _energy(region: Region, declared: Mapping[RowId, Interval], *, allulose: bool) -> list[Contradiction]:
    computed = energy_interval_kcal(region, declared, allulose=allulose)
    stated = declared.get(RowId.ENERGY_KCAL)
    if computed is None or stated is None:
        return []
    low, high = computed.low * (1 - _ENERGY_ROOM) - 1, computed.high * (1 + _ENERGY_ROOM) + 1
    if not region.counts_fibre and RowId.FIBRE not in declared:
        high += 2.0 * 15.0  # fibre need not be declared in the EU and UK; up to 15 g would not surprise
    if stated.low <= high and stated.high >= low:
        return []
    return [
        Contradiction(
            (RowId.ENERGY_KCAL, RowId.FAT, RowId.CARBOHYDRATE, RowId.PROTEIN),
            f"Fat, carbohydrate and protein make {computed.low:.0f} to {computed.high:.0f} kcal, but the label says "
            f"{stated.middle:.0f}. Check the four figures; undeclared polyols or fibre can also explain it.",
        )
    ]


def _kj_against_kcal(declared: Mapping[RowId, Interval]) -> list[Contradiction]:
    kj, kcal = declared.get(RowId.ENERGY_KJ), declared.get(RowId.ENERGY_KCAL)
    if kj is None or kcal is None:
        return []
    low, high = kcal.low * _KJ_PER_KCAL * 0.97 - 4, kcal.high * _KJ_PER_KCAL * 1.03 + 4
    if kj.low <= high and kj.high >= low:
        return []
    return [
        Contradiction(
            (RowId.ENERGY_KJ, RowId.ENERGY_KCAL),
            f"{kj.middle:.0f} kJ is {kj.middle / _KJ_PER_KCAL:.0f} kcal, but the label says {kcal.middle:.0f} kcal. "
            "One of the two is mistyped.",
        )
    ]


def _more_than_the_food(region: Region, declared: Mapping[RowId, Interval], basis_g: float | None) -> list[Contradiction]:
    rows = [RowId.FAT, RowId.CARBOHYDRATE, RowId.PROTEIN] + ([] if region.counts_fibre else [RowId.FIBRE, RowId.SALT])
    least = sum(declared[row].low for row in rows if row in declared)
    if basis_g is None or least <= basis_g * 1.005:
        return []
    return [
        Contradiction(
            tuple(row.value for row in rows if row in declared),
            f"Fat, carbohydrate and protein add up to at least {least:.1f} g in {basis_g:g} g of food. "
            "Check the figures and what they are for (a serving or 100 g).",
        )
    ]


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]
