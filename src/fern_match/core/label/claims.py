"""Claims that a label may and may not carry, as far as figures decide it.

Worked example: a bar with 0.6 g sugars in 100 g is not sugar-free in the EU, where the limit is 0.5 g; with 0.2 g in its serving
of 40 g it is in the US, where the limit is under 0.5 g a serving.
"""

from collections.abc import Collection, Mapping
from dataclasses import dataclass

from fern_match.core.data import rows
from fern_match.core.label.rows import Region, RowId

_RULES_OF = {Region.UK: "EU"}
_REDUCED = {Region.US: 0.25, Region.CA: 0.25}
_REDUCED_ELSEWHERE = 0.30
_POLYOL_WARNING = 10.0  # g in 100 g


@dataclass(frozen=True, slots=True, kw_only=True)
class Claim:
    """A claim, whether the figures allow it, and why."""

    claim: str
    allowed: bool
    sentence: str
    source: str


def claims(
    region: Region,
    per_100_g: Mapping[RowId, float],
    serving_g: float | None,
    *,
    original: Mapping[RowId, float] | None = None,
    added_sugar: bool = True,
    vegan: str = "check",
    allergens: Collection[str] = (),
) -> tuple[Claim, ...]:
    """What the figures say of the usual claims in a region; none of it is advice of a lawyer.

    Args:
        region: Whose rules.
        per_100_g: Rows of the version for 100 g, in the rows' units.
        serving_g: What a serving weighs [g]; claims by serving are left out where None.
        original: Rows of the original for 100 g, for claims that compare.
        added_sugar: Whether any sugar, or food added for its sweetness, is in it.
        vegan: yes, no, or check.
        allergens: That it contains.

    Source: as each claim says; data/claims.csv.
    """
    found = []
    for row in rows("claims.csv"):
        if row["region"] != _RULES_OF.get(region, region.value) or (row["basis"] == "serving" and serving_g is None):
            continue
        got, unit = _measure(row, per_100_g, serving_g)
        limit, below = float(row["limit"]), row["below"] == "yes"
        strict = below and row["basis"] == "serving" and row["measure"] == "sugars"
        allowed = (got < limit if strict else got <= limit) if below else got >= limit
        side = "under" if strict else "at most" if below else "at least"
        title = row["measure"].removesuffix(" energy").capitalize()
        sentence = f"{title} {got:.2g} {unit}, where {side} {limit:g} {unit} is asked."
        found.append(Claim(claim=row["claim"], allowed=allowed, sentence=sentence, source=row["source"]))
    found += _compared(region, per_100_g, original)
    found.append(
        Claim(
            claim="No added sugar",
            allowed=not added_sugar,
            sentence="No sugar and nothing that sweetens as sugar does is added; say so if it holds sugars by nature."
            if not added_sugar
            else "A sugar, a syrup, or a food added for its sweetness is in it.",
            source="Regulation (EC) 1924/2006 Annex; 21 CFR 101.60(c)(2)",
        )
    )
    found.append(_vegan(vegan))
    if "gluten" not in allergens and "wheat" not in allergens:
        found.append(
            Claim(
                claim="Gluten-free",
                allowed=False,
                sentence="No line holds gluten by the pantry, but the claim wants 20 mg/kg or less, measured, and no traces.",
                source="Regulation (EU) 828/2014; 21 CFR 101.91",
            )
        )
    polyols = per_100_g.get(RowId.POLYOLS, 0.0)
    if polyols > _POLYOL_WARNING:
        found.append(
            Claim(
                claim="Warning to print: excessive consumption may produce laxative effects",
                allowed=True,
                sentence=f"Polyols {polyols:.0f} g in 100 g, above 10 g.",
                source="Regulation (EU) 1169/2011 Annex III",
            )
        )
    return tuple(found)


def _measure(row: Mapping[str, str], per_100_g: Mapping[RowId, float], serving_g: float | None) -> tuple[float, str]:
    """What a claim is about, and its unit; a serving smaller than the reference amount counts as that."""
    if row["measure"] == "protein energy":
        energy = per_100_g.get(RowId.ENERGY_KCAL, 0.0)
        return (100 * 4 * per_100_g.get(RowId.PROTEIN, 0.0) / energy if energy > 0 else 0.0), "% of energy"
    value = per_100_g.get(RowId(row["measure"]), 0.0)
    if row["basis"] != "serving":
        return value, "g in 100 g"
    least_g, eaten_g = float(row["least_basis_g"] or 0), serving_g or 0.0
    unit = "g a serving" if eaten_g >= least_g else f"g in the reference amount of {least_g:g} g"
    return value * max(eaten_g, least_g) / 100, unit


def _compared(region: Region, per_100_g: Mapping[RowId, float], original: Mapping[RowId, float] | None) -> list[Claim]:
    if original is None or original.get(RowId.SUGARS, 0.0) <= 0:
        return []
    share = _REDUCED.get(region, _REDUCED_ELSEWHERE)
    less = 1 - per_100_g.get(RowId.SUGARS, 0.0) / original[RowId.SUGARS]
    more_energy = per_100_g.get(RowId.ENERGY_KCAL, 0.0) > original.get(RowId.ENERGY_KCAL, 0.0) > 0
    held_by_energy = share == _REDUCED_ELSEWHERE and more_energy
    words = f"{100 * abs(less):.0f} % {'less' if less >= 0 else 'more'} sugars than the original"
    return [
        Claim(
            claim="Reduced sugar",
            allowed=less >= share and not held_by_energy,
            sentence=f"{words}, where {100 * share:.0f} % less is asked{'; and its energy is higher' if held_by_energy else ''}.",
            source="Regulation (EC) 1924/2006 Annex; 21 CFR 101.60(c)(5)",
        )
    ]


def _vegan(vegan: str) -> Claim:
    words = {
        "yes": "No line is of animal origin by the pantry. No law defines the word; it says nothing of traces.",
        "no": "At least one line is of animal origin.",
    }
    return Claim(
        claim="Vegan",
        allowed=vegan == "yes",
        sentence=words.get(vegan, "Some lines depend on the maker: ask before saying it."),
        source="no legal definition; ISO 23662:2021",
    )
