"""A trial as plain values, for whoever reads it by machine."""

from typing import Any

from fern_match.core.trials.closeness import Compared
from fern_match.core.trials.finding import LayerTrial
from fern_match.core.trials.keeping import keeping
from fern_match.core.trials.looked_at import Looked
from fern_match.core.trials.telling import apart_words, closeness_summary, ranking_words, take_words


def trial_told(looked: Looked, taken: list[str]) -> dict[str, Any]:
    """Closeness, causes and the proposed change of a trial.

    Args:
        looked: The trial from all sides.
        taken: Ids of the versions there are, for that of the next.
    """
    close, made = looked.close, looked.next([one.id for one in looked.changes], taken)
    kept = keeping(looked.of.read, looked.of.made)
    return {
        "trial": looked.trial.id,
        "version": looked.seen.version.id,
        "closeness": None
        if close is None
        else {"best": close.best, "low": close.low, "high": close.high, "of": close.of, "words": close.words},
        "summary": closeness_summary(looked.compared),
        "compared": [_compared(one) for one in looked.compared],
        "layers": [_layer(one) for one in looked.layers if one.wrong],
        "changes": [
            {
                "id": one.id,
                "layer": one.layer_id,
                "what": one.what,
                "by": one.by,
                "words": one.words.replace("Δ", ""),
                "why": one.why,
                "effect": one.effect,
                "chance": one.chance,
            }
            for one in looked.changes
        ],
        "next": None
        if made is None
        else {
            "id": made.version.id,
            "name": made.version.name,
            "parent": made.version.parent,
            "moved": list(made.done),
            "not_moved": list(made.not_done),
        },
        "tastings": [
            {
                "id": key,
                "kind": one.kind.value,
                "tasters": one.tasters,
                "right": one.right,
                "chance": one.chance,
                "told": one.is_told,
            }
            for key, one in looked.verdicts.items()
        ],
        "keeping": {"advice": list(kept.advice), "seen": kept.seen, "caution": kept.caution},
    }


def _compared(one: Compared) -> dict[str, Any]:
    apart = one.apart
    return {
        "id": one.id,
        "title": one.title,
        "unit": one.unit,
        "original": None
        if one.original is None
        else {"value": one.original.value, "error": one.original.error, "by": one.from_original},
        "copy": None if one.copy is None else {"value": one.copy.value, "error": one.copy.error, "by": one.from_copy},
        "apart": None
        if apart is None
        else {"value": apart.value, "low": apart.low, "high": apart.high, "told": apart.is_told, "finds": apart.finds},
        "words": apart_words(one),
    }


def _layer(one: LayerTrial) -> dict[str, Any]:
    ranking = one.faulty.ranking if one.faulty is not None else None
    return {
        "layer": one.layer_id,
        "wrong": [row.id for row in one.wrong],
        "words": ranking_words(ranking) if ranking is not None else "",
        "causes": [
            {
                "id": cause.cause.id,
                "says": cause.cause.says,
                "chance": cause.chance,
                "spoken": [{"clue": said.clue, "times": said.times, "words": said.words} for said in cause.spoken],
            }
            for cause in (ranking.causes if ranking is not None else ())
        ],
        "to_take": [{"ask": ask, "now": now} for ask, now in (take_words(ranking) if ranking is not None else ())],
    }
