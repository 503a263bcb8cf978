"""Claims that a label may and may not carry, as far as figures decide it.

Worked example: a bar with 0.6 g sugars in 100 g is not sugar-free in the EU, where the limit is 0.5 g; with 0.2 g in its serving
of 40 g it is in the US, where the limit is under 0.5 g a serving. A 20 g piece with 2 g of fat holds 5 g in 50 g: not low in fat
in the US, where a small serving is judged by 50 g.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from fern_match.core.data import rows
from fern_match.core.food.together import Allergens
from fern_match.core.label.rows import Region, RowId

_RULES_OF = {Region.UK: "EU"}
_STRICT = frozenset({(RowId.SUGARS, "serving"), (RowId.ENERGY_KCAL, "serving")})  # “under”, where others are “at most”
Figures = Mapping[RowId, float | None]
_TO_PRINT = "Warning to print: "


@dataclass(frozen=True, slots=True, kw_only=True)
class Claim:
    """A claim, whether the figures allow it, and why."""

    claim: str
    allowed: bool | None  # None where a figure that decides is not known
    sentence: str
    source: str


def claims(
    region: Region,
    per_100_g: Figures,
    serving_g: float | None,
    *,
    original: Figures | None = None,
    added_sugar: bool | None = True,
    vegan: str = "check",
    allergens: Allergens | None = None,
    polyols: Mapping[str, float] | None = None,
) -> tuple[Claim, ...]:
    """What the figures say of the usual claims in a region; none of it is advice of a lawyer.

    Args:
        region: Whose rules.
        per_100_g: Rows of the version for 100 g, in the rows' units; None where it is not known.
        serving_g: What a serving weighs [g]; claims by serving are left out where None.
        original: Rows of the original for 100 g, for claims that compare.
        added_sugar: Whether any sugar, or food added for its sweetness, is in it; None where that is not known.
        vegan: yes, no, or check.
        allergens: That it contains, and of what they are not known; nothing is said of gluten where None.
        polyols: Grams in 100 g by kind.

    Source: as each claim says; data/claims.csv, reduced_sugar.csv, polyol_warnings.csv.
    """
    found: dict[str, Claim] = {}
    for row in rows("claims.csv"):
        if row["region"] != _RULES_OF.get(region, region.value) or (row["basis"] == "serving" and serving_g is None):
            continue
        one = _by_figure(row, per_100_g, serving_g)
        found[one.claim] = _both(found[one.claim], one) if one.claim in found else one
    compared = _compared(region, per_100_g, original, serving_g)
    gluten = _gluten_free(allergens) if allergens is not None else []
    warning = _polyol_warning(region, polyols or {}, serving_g)
    return (*found.values(), *compared, _no_added_sugar(added_sugar), _vegan(vegan), *gluten, *warning)


def _by_figure(row: Mapping[str, str], per_100_g: Figures, serving_g: float | None) -> Claim:
    got, unit = _measure(row, per_100_g, serving_g)
    title = row["measure"].removesuffix(" energy").removesuffix("_kcal").capitalize()
    if got is None:
        return Claim(claim=row["claim"], allowed=None, sentence=f"{title} is not known.", source=row["source"])
    limit, below = float(row["limit"]), row["below"] == "yes"
    strict = below and (row["measure"], row["basis"]) in _STRICT
    allowed = (got < limit if strict else got <= limit) if below else got >= limit
    side = "under" if strict else "at most" if below else "at least"
    sentence = f"{title} {got:.2g} {unit}, where {side} {limit:g} {unit} is asked."
    return Claim(claim=row["claim"], allowed=allowed, sentence=sentence, source=row["source"])


def _both(one: Claim, other: Claim) -> Claim:
    """A claim of which two things are asked: it holds where both do."""
    allowed = False if False in {one.allowed, other.allowed} else None if None in {one.allowed, other.allowed} else True
    return replace(other, allowed=allowed, sentence=f"{one.sentence} {other.sentence}")


def _measure(row: Mapping[str, str], per_100_g: Figures, serving_g: float | None) -> tuple[float | None, str]:
    """What a claim is about, and its unit; a serving smaller than the reference amount counts as that."""
    if row["measure"] == "protein energy":
        energy, protein = per_100_g.get(RowId.ENERGY_KCAL), per_100_g.get(RowId.PROTEIN)
        known = energy is not None and protein is not None
        return (100 * 4 * (protein or 0.0) / energy if known and energy else 0.0 if known else None), "% of energy"
    value = per_100_g.get(RowId(row["measure"]))
    unit = "kcal" if row["measure"] == RowId.ENERGY_KCAL else "g"
    if row["basis"] != "serving":
        return value, f"{unit} in 100 g"
    least_g, eaten_g = float(row["least_basis_g"] or 0), serving_g or 0.0
    unit = f"{unit} a serving" if eaten_g >= least_g else f"{unit} in the reference amount of {least_g:g} g"
    return value * max(eaten_g, least_g) / 100 if value is not None else None, unit


def _compared(region: Region, per_100_g: Figures, original: Figures | None, serving_g: float | None) -> list[Claim]:
    whole, now = (original or {}).get(RowId.SUGARS), per_100_g.get(RowId.SUGARS)
    if not whole:
        return []
    row = next(one for one in rows("reduced_sugar.csv") if region.value in one["regions"].split("|"))
    if now is None:
        return [Claim(claim="Reduced sugar", allowed=None, sentence="Sugars are not known.", source=row["source"])]
    less, share = 1 - now / whole, float(row["less"])
    words = f"{100 * abs(less):.0f} % {'less' if less >= 0 else 'more'} sugars than the original"
    asked, allowed = f"where {100 * share:.0f} % less is asked", less >= share
    energies = [(original or {}).get(RowId.ENERGY_KCAL), per_100_g.get(RowId.ENERGY_KCAL)]
    if row["no_more_energy"] == "yes" and energies[0]:
        if energies[1] is None:
            asked += "; whether its energy is no higher is not known"
            return [
                Claim(
                    claim="Reduced sugar", allowed=None if allowed else False, sentence=f"{words}, {asked}.", source=row["source"]
                )
            ]
        if energies[1] > energies[0]:
            asked, allowed = f"{asked}; and its energy is higher", False
    if row["least_less_g"] and serving_g is not None:
        fewer = (whole - now) * serving_g / 100
        asked += f" and {row['least_less_g']} g a serving, of which it is {max(0.0, fewer):.2g}"
        allowed = allowed and fewer >= float(row["least_less_g"])
    return [Claim(claim="Reduced sugar", allowed=allowed, sentence=f"{words}, {asked}.", source=row["source"])]


def _no_added_sugar(added: bool | None) -> Claim:
    words = {
        False: "No sugar and nothing that sweetens as sugar does is added; say so if it holds sugars by nature.",
        True: "A sugar, a syrup, or a food added for its sweetness is in it.",
        None: "Whether a line adds sugar is not known.",
    }
    source = "Regulation (EC) 1924/2006 Annex; 21 CFR 101.60(c)(2); verify the current text"
    return Claim(claim="No added sugar", allowed=None if added is None else not added, sentence=words[added], source=source)


def _vegan(vegan: str) -> Claim:
    words = {
        "yes": "No line is of animal origin by the pantry. No law defines the word; it says nothing of traces.",
        "no": "At least one line is of animal origin.",
    }
    return Claim(
        claim="Vegan",
        allowed={"yes": True, "no": False}.get(vegan),
        sentence=words.get(vegan, "Some lines depend on the maker: ask before saying it."),
        source="no legal definition; ISO 23662:2021",
    )


def _gluten_free(allergens: Allergens) -> list[Claim]:
    if {"gluten", "wheat"} & set(allergens.holds):
        return []
    seen = "No line holds gluten by the pantry" if allergens.known else f"Of {', '.join(allergens.not_known)} it is not known"
    return [
        Claim(
            claim="Gluten-free",
            allowed=False,
            sentence=f"{seen}, but the claim wants 20 mg/kg or less, measured, and no traces.",
            source="Regulation (EU) 828/2014; 21 CFR 101.91; verify the current text",
        )
    ]


def polyol_words(region: Region, polyols: Mapping[str, float], serving_g: float | None) -> list[str]:
    """The words themselves, where a region's law asks for them.

    Args:
        polyols: In 100 g, by kind [g].
        serving_g: What a serving weighs [g]; None where nobody says.
    """
    return [one.claim.removeprefix(_TO_PRINT) for one in _polyol_warning(region, polyols, serving_g)]


def _polyol_warning(region: Region, polyols: Mapping[str, float], serving_g: float | None) -> list[Claim]:
    """The words that a region's law asks for where there are many polyols; none where it has no such law."""
    for row in rows("polyol_warnings.csv"):
        if region.value not in row["regions"].split("|") or (row["basis"] == "serving" and serving_g is None):
            continue
        wanted = row["polyol_kinds"].split("|") if row["polyol_kinds"] else None
        in_100_g = sum(grams for kind, grams in polyols.items() if wanted is None or kind in wanted)
        got = in_100_g * (serving_g or 0.0) / 100 if row["basis"] == "serving" else in_100_g
        limit, above = float(row["from_g"]), row["side"] == "above"
        if got > limit or (got == limit and not above):
            which = f" of {', '.join(wanted)}" if wanted else ""
            per = "a serving" if row["basis"] == "serving" else "in 100 g"
            return [
                Claim(
                    claim=f"{_TO_PRINT}{row['words']}",
                    allowed=True,
                    sentence=f"Polyols{which} {got:.0f} g {per}, where it is asked for {row['side']} {limit:g} g.",
                    source=row["source"],
                )
            ]
    return []
