"""What a batch waits for, or how large it is, in words."""

from collections.abc import Mapping

from fern_match.core.batch.plan import BatchPlan, PlanBy
from fern_match.core.batch.portion import pieces_words
from fern_match.core.batch.scale import Batch
from fern_match.core.batch.stock import Stock
from fern_match.core.formulate import OriginKind, Version
from fern_match.core.measures import Comma, read_count
from fern_match.core.study.reading import StudyReading

_ROOM = 14  # signs that stand under a step's name on the path


def batch_words(versions: int, batches: int, only: str) -> str:
    """The words under Batch on the path.

    Args:
        versions: How many there are.
        batches: How many there are.
        only: How large the only batch is, in words.
    """
    if not versions:
        return "no version"
    if batches > 1:
        return f"{batches} batches"
    if len(only) > _ROOM:  # a mould's own name may be of any length
        return "1 batch"
    return only or "pieces to say"


def batch_line_words(plan: BatchPlan, reading: StudyReading, gear: Mapping[str, str]) -> str:
    """How large a batch is, or in what it is made, for a list; empty while that is to say.

    Args:
        plan: As typed.
        reading: For names of ingredients and layers, and what a comma means.
        gear: Names of the kitchen's gear by id.
    """
    named = gear.get(plan.gear, "")
    if plan.by in {PlanBy.PAN, PlanBy.MOULD} and named:
        many = f"{plan.gear_count} × " if plan.gear_count.strip() not in {"", "1"} else ""
        return f"in {many}{named}"
    if plan.by is PlanBy.HOUSE:
        return "by what is in the house"
    if plan.by in {PlanBy.AMOUNT, PlanBy.WHOLE}:
        layers = {one.id: one.name for one in reading.study.layers}
        food = reading.pantry.by_id.get(plan.whole)
        of = layers.get(plan.portioned, "") if plan.by is PlanBy.AMOUNT else food.name if food is not None else ""
        return f"by {plan.amount}{f' of {of.lower()}' if of else ''}" if plan.amount.strip() else ""
    return _counted(plan.pieces, reading.comma)


def _counted(pieces: str, comma: Comma) -> str:
    found = read_count(pieces, comma=comma).value
    return "" if found is None else pieces_words(int(found))


def outdated_words(version: Version, key: str) -> str | None:
    """What moved on since a version was taken from the estimate; None where nothing did, or it was not taken so.

    Args:
        key: Fingerprint of the study as it is now.
    """
    if version.origin.kind is not OriginKind.ESTIMATE or version.origin.key in {"", key}:
        return None
    return "The study has changed since this version was taken, and the estimate with it. Take it again for the newest."


def stock_words(stock: Stock | None, batch: Batch) -> str:
    """What the house is enough for."""
    if stock is None or stock.pieces is None:
        return "Write what is in the house, in grams, spoons or cups, and what to buy follows."
    name = next((line.name.lower() for line in batch.shopping if line.ingredient_id == stock.scarce), None)
    if name is None:
        return f"What was looked for is there for all {batch.pieces} pieces."
    return f"The house is enough for {stock.pieces} of {batch.pieces} pieces; first to run out: {name}."
