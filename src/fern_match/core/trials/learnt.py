"""What past trials teach the next batch: what stays on tools and what breaks, each drawn towards the usual while trials are few.

Worked example: 3.5 % of a caramel usually stays on pan and spatula; two trials left 8 and 7 %: (3 x 3.5 + 8 + 7) / 5 = 5.1 %.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from fern_match.core.trials.finding import TrialOf

_AS_MANY = 3.0  # trials that the usual figure counts for (approximate)
_LEAST_MOVE = 0.2  # points of a percentage: less is no news
_MOST_LEFT = 0.5
BREAKS = "breaks"


@dataclass(frozen=True, slots=True, kw_only=True)
class Learnt:
    """A planned figure that trials would have otherwise [%]."""

    layer_id: str  # or "breaks", of whole pieces
    title: str
    seen: tuple[float, ...]
    usual: float
    proposed: float

    @property
    def words(self) -> str:
        """As in “Caramel, stays on tools: 5.1 %, from 2 trials (8.0, 7.0); usual 3.5”."""
        many = "1 trial" if len(self.seen) == 1 else f"{len(self.seen)} trials"
        figures = ", ".join(f"{one:.1f}" for one in self.seen)
        return f"{self.title}: {self.proposed:.1f} %, from {many} ({figures}); usual {self.usual:.1f}"


def learnt(trials: Sequence[TrialOf]) -> tuple[Learnt, ...]:
    """What trials say of losses, by layer, and of broken pieces.

    Args:
        trials: Of batches of one match; a layer is the same where its id and its kind are.
    """
    left: dict[tuple[str, str], list[float]] = {}
    usual: dict[tuple[str, str], tuple[str, float]] = {}
    broken: list[float] = []
    for trial in trials:
        for layer in trial.batch.batch.layers if trial.batch.batch is not None else ():
            share = _left(trial, layer.layer_id)
            if share is None:
                continue
            key = (layer.layer_id, layer.family)
            left.setdefault(key, []).append(100 * share)
            usual.setdefault(key, (layer.name, 100 * layer.left_on_tools))
        made, whole = trial.read.made.value, trial.read.whole.value
        if made and whole is not None and whole <= made:
            broken.append(100 * (1 - whole / made))
    found = [
        Learnt(
            layer_id=key[0],
            title=f"{usual[key][0]}, stays on tools",
            seen=tuple(seen),
            usual=usual[key][1],
            proposed=_drawn(seen, usual[key][1]),
        )
        for key, seen in left.items()
    ]
    if broken:
        found.append(
            Learnt(layer_id=BREAKS, title="Breaks or is tasted", seen=tuple(broken), usual=0.0, proposed=_drawn(broken, 0.0))
        )
    return tuple(one for one in found if abs(one.proposed - one.usual) >= _LEAST_MOVE)


def _left(trial: TrialOf, layer_id: str) -> float | None:
    """Share of a layer that stayed on tools [g/g]: as weighed, else what came out less what the pieces hold."""
    came_out = trial.read.came_out[layer_id].value if layer_id in trial.read.came_out else None
    left = trial.read.left[layer_id].value if layer_id in trial.read.left else None
    if came_out is None or came_out <= 0:
        return None
    if left is None:
        grams, made = trial.read.grams(layer_id), trial.read.made.value
        if not grams or not made:
            return None
        left = came_out - made * sum(grams) / len(grams)
    share = left / came_out
    return share if 0 <= share <= _MOST_LEFT else None


def _drawn(seen: Sequence[float], usual: float) -> float:
    return (_AS_MANY * usual + sum(seen)) / (_AS_MANY + len(seen))
