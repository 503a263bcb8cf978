"""Rules by the words they are asked for with: what there is, and what each means for a label's region.

Worked example: `keto:4/serving` is the keto rule with 4 g net carbohydrate a serving; `at-most-energy:150` at most 150 kcal a
piece; `no-polyol` leaves out every polyol, `without-milk` an allergen, `without-white-sugar` one ingredient.
"""

from collections.abc import Mapping, Sequence
from dataclasses import replace

from fern_match.core.adapt.rules import ENERGY, OWN_MEASURES, SET, BadRule, Rule, amount_for, rule_sets
from fern_match.core.data import rows
from fern_match.core.food import Pantry
from fern_match.core.formulate import Formula
from fern_match.core.label.rows import Region

WITHOUT, NO, AT_MOST, AT_LEAST = "without-", "no-", "at-most-", "at-least-"
_LEAVES_IN = {  # what a word does not mean everywhere
    "nuts": "; tree nuts alone, pine nuts among them: peanuts, coconut and chestnuts stay (“nuts and peanuts” leaves out both)",
    "nuts-and-peanuts": "; pine nuts go too; coconut and chestnuts stay",
}
_ALLERGENS = (
    "milk",
    "egg",
    "gluten",
    "wheat",
    "nuts",
    "peanuts",
    "nuts-and-peanuts",
    "soy",
    "sesame",
    "lupin",
    "coconut",
    "sulphites",
)
_OWN = (*OWN_MEASURES, ENERGY)
_OWN_LEAST = ("protein",)  # what more of can be asked for
_BASES = {"piece": "piece", "serving": "serving", "100g": "100 g"}
_SUGGESTED, _SUGGESTED_LEAST = 0.8, 1.5  # of what the version holds
_MOST = 5000.0  # g, or kcal


def rules_of(asked: Sequence[str], region: Region, pantry: Pantry) -> tuple[Rule, ...]:
    """Rules by their ids: `vegan`, `keto`, `keto:4` (a limit in g), `keto:4/serving`, `sugar-free`, `without-milk`, `no-polyol`,
    `without-white-sugar`, `at-most-fat:5` (g a piece), `at-most-fat:20/100g`, `at-least-protein:8`.

    Args:
        asked: Ids, each with a limit behind a colon where it has one, and what the limit is for behind a stroke.
        region: Whose limits.
        pantry: For rules that leave an ingredient or a kind of them out.

    Raises:
        BadRule: a rule is not known, a limit is no figure, or no rule is asked for.
    """
    if not asked:
        raise BadRule(f"Name at least one rule: {', '.join(rule_choices())}.")
    return tuple(_rule(one, region, pantry) for one in dict.fromkeys(asked))


def rule_choices() -> tuple[str, ...]:
    """Ids of the rules there are; any ingredient or category can be left out as well."""
    own = (f"{AT_MOST}{what}" for what in _OWN)
    return (
        *dict.fromkeys(row["id"] for row in rows("rules.csv")),
        *own,
        *(f"{AT_LEAST}{what}" for what in _OWN_LEAST),
        *(f"{WITHOUT}{name}" for name in _ALLERGENS),
        *rule_sets(),
    )


def category_choices(pantry: Pantry) -> tuple[str, ...]:
    """Ids of rules that leave out a whole category of the pantry.

    Args:
        pantry: With its categories.
    """
    return tuple(f"{NO}{name}" for name in sorted({food.category for food in pantry.all()}))


def suggested_limits(formula: Formula, region: Region, pantry: Pantry) -> tuple[Rule, ...]:
    """Limits of one's own to begin with: four fifths of what a version holds in a piece, half as much again where it is a least.

    Args:
        formula: As read.
        region: Whose energy factors.
        pantry: Compositions.
    """
    found = []
    for what in _OWN:
        got, _ = amount_for(formula, _own(what, 0.0, "piece", region), pantry, formula.piece_g)
        found.append(_own(what, float(f"{_SUGGESTED * got:.2g}"), "piece", region))
        if what in _OWN_LEAST:
            found.append(_own(what, float(f"{_SUGGESTED_LEAST * got:.2g}"), "piece", region, least=True))
    return tuple(found)


def shipped_rules(region: Region) -> tuple[Rule, ...]:
    """The rules of the table as they stand for a region.

    Args:
        region: Whose limits.
    """
    return tuple(_of_row(row, region) for row in rows("rules.csv") if _is_for(row, region))


def _rule(asked: str, region: Region, pantry: Pantry) -> Rule:
    key, _, rest = asked.partition(":")
    limit, _, basis = rest.partition("/")
    for row in rows("rules.csv"):
        if row["id"] == key and _is_for(row, region):
            rule = _of_row(row, region)
            return (
                _with_limit(rule, _limit(asked, limit, share=rule.basis == "share"), _basis(asked, basis, rule.basis))
                if rest
                else rule
            )
    for begins, measures, words in ((AT_MOST, _OWN, "may hold at most"), (AT_LEAST, _OWN_LEAST, "is to hold at least")):
        what = key.removeprefix(begins)
        if key.startswith(begins) and what in measures:
            if not limit:
                raise BadRule(f"“{asked}”: say how much a piece {words}, such as {key}:5.")
            return _own(what, _limit(asked, limit), _basis(asked, basis) or "piece", region, least=begins == AT_LEAST)
    left_out = _left_out(key, region, pantry)
    if left_out is not None and not rest:
        return left_out
    known = ", ".join(rule_choices())
    raise BadRule(
        f"“{asked}” is no rule known here. There are {known}, {WITHOUT} with any ingredient's id, and {NO} with a category."
    )


def _left_out(key: str, region: Region, pantry: Pantry) -> Rule | None:
    what = key.removeprefix(WITHOUT) if key.startswith(WITHOUT) else ""
    kind = key.removeprefix(NO) if key.startswith(NO) else ""
    own = "your own rule"
    if key in rule_sets():
        found = rule_sets()[key]
        return Rule(
            id=key,
            name=found.name,
            source=found.source,
            promises_not=found.promises_not,
            region=region,
            excludes=SET,
            excluded=key,
        )
    if what in _ALLERGENS:
        return Rule(
            id=key,
            name=f"Without {what.replace('-', ' ')}",
            source="the pantry's allergens, on the cautious side",
            promises_not=f"no traces: read every packet, and do not rely on it for an allergy{_LEAVES_IN.get(what, '')}",
            region=region,
            excludes="allergen",
            excluded=what.replace("-", " "),
        )
    if what in pantry:
        name = f"Without {pantry[what].name.lower()}"
        return Rule(
            id=key, name=name, source=own, promises_not="nothing else", region=region, excludes="ingredient", excluded=what
        )
    if any(food.category == kind for food in pantry.all()):
        name = f"No {kind.replace('-', ' ')}"
        hidden = "what holds a little of it inside, such as a chocolate, stays"
        return Rule(id=key, name=name, source=own, promises_not=hidden, region=region, excludes="category", excluded=kind)
    return None


def _with_limit(rule: Rule, limit: float, basis: str) -> Rule:
    """A rule with a limit of one's own; where it allows more than a claim does, it no longer bears the claim's name."""
    moved = replace(rule, limit=limit, basis=basis if basis and not rule.claim else rule.basis)
    looser = limit < (rule.limit or 0.0) if rule.basis == "share" or rule.least else limit > (rule.limit or 0.0)
    if not rule.claim or not looser:
        return moved
    what = f"{100 * limit:g} % less" if rule.basis == "share" else f"{rule.bound.capitalize()} {limit:g} {rule.unit}"
    name = f"{what} {rule.measure}{'' if rule.basis == 'share' else f' {rule.a_basis}'}"
    return replace(
        moved, name=name, no_more="", source="your own limit", promises_not=f"no claim: it is not “{rule.name.lower()}”"
    )


def _own(what: str, limit: float, basis: str, region: Region, *, least: bool = False) -> Rule:
    rule = Rule(
        id=f"{AT_LEAST if least else AT_MOST}{what}",
        name="",
        source="your own limit",
        promises_not="nothing that a label may claim",
        region=region,
        measure=what,
        basis=basis,
        limit=limit,
        least=least,
    )
    where = "" if basis == "piece" else f" {rule.a_basis}"
    return replace(rule, name=f"{rule.bound.capitalize()} {limit:g} {rule.unit} {what}{where}")


def _is_for(row: Mapping[str, str], region: Region) -> bool:
    return not row["regions"] or region.value in row["regions"].split("|")


def _of_row(row: Mapping[str, str], region: Region) -> Rule:
    return Rule(
        id=row["id"],
        name=row["name"],
        source=row["source"],
        promises_not=row["promises_not"],
        region=region,
        excludes="animal" if row["kind"] == "no animal" else "",
        measure=row["measure"],
        basis=row["basis"],
        limit=float(row["limit"]) if row["limit"] else None,
        claim=row["claim"] == "yes",
        no_more=row["no_more"],
        least_basis_g=float(row["least_basis_g"] or 0),
        variant_of=row["variant_of"],
        least=row["kind"] == "least",
    )


def _limit(asked: str, text: str, *, share: bool = False) -> float:
    what = "a share of what there is now, such as reduced-sugar:0.3" if share else "a figure, such as keto:4"
    most = 1.0 if share else _MOST
    try:
        value = float(text)
    except ValueError:
        raise BadRule(f"“{asked}”: the limit is {what}.") from None
    if not 0 <= value <= most:
        raise BadRule(f"“{asked}”: the limit is {what}, from 0 to {most:g}.")
    return value


def _basis(asked: str, text: str, own: str = "") -> str:
    if text and text == own.replace(" ", ""):
        return own
    if text and text not in _BASES:
        raise BadRule(f"“{asked}”: a limit is for a {', a '.join(list(_BASES)[:2])} or for 100g, such as keto:4/serving.")
    return _BASES[text] if text else ""
