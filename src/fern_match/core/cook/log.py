"""The log of a cook: what happened, one entry after the other; entries are only ever added.

Worked example: a step is opened at 0, a timer of 12 minutes set at 60 s, a reading of 116.5 °C taken at 400 s: at 500 s the timer
has 280 s to go, whoever asks, and however often the program was started anew.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from fern_match.core.cook.record import EntryKind, Logged

_MS = 1000.0
_S_PER_MIN = 60.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Timer:
    """A timer that runs, or has run out."""

    id: str
    title: str
    step: str
    minutes: float
    left_s: float  # below 0 where it has run out


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """How far a cook is."""

    begun_ms: int | None = None
    ended_ms: int | None = None
    opened: Mapping[tuple[str, int], int] = field(default_factory=dict)  # step and round -> when
    done: Mapping[tuple[str, int], int] = field(default_factory=dict)
    timers: tuple[Timer, ...] = ()
    readings: tuple[Logged, ...] = ()  # of devices, and cues
    amounts: Mapping[tuple[str, str], float] = field(default_factory=dict)  # step and line -> g that went in
    speed: float = 0.0  # of practice; 0 where it is none
    heat: Mapping[str, tuple[int, int | None]] = field(default_factory=dict)  # step -> on and off, in practice
    last: int = 0  # number of the last entry

    @property
    def is_on(self) -> bool:
        """Whether it has begun and not ended."""
        return self.begun_ms is not None and self.ended_ms is None


def run_of(entries: Sequence[Logged], now_ms: int) -> Run:
    """How far a cook is by its log.

    Args:
        entries: In the order they were written.
        now_ms: By the clock that wrote them.
    """
    so_far = _SoFar()
    for one in entries:
        so_far.take(one)
    return Run(
        begun_ms=so_far.begun,
        ended_ms=so_far.ended,
        opened=so_far.opened,
        done=so_far.done,
        timers=tuple(_timer(key, one, now_ms, so_far.speed) for key, one in so_far.timers.items()),
        readings=tuple(so_far.readings),
        amounts=so_far.amounts,
        speed=so_far.speed,
        heat=so_far.heat,
        last=entries[-1].number if entries else 0,
    )


@dataclass
class _SoFar:
    """What the entries up to here say."""

    begun: int | None = None
    ended: int | None = None
    opened: dict[tuple[str, int], int] = field(default_factory=dict)
    done: dict[tuple[str, int], int] = field(default_factory=dict)
    timers: dict[str, Logged] = field(default_factory=dict)
    readings: list[Logged] = field(default_factory=list)
    amounts: dict[tuple[str, str], float] = field(default_factory=dict)
    heat: dict[str, tuple[int, int | None]] = field(default_factory=dict)
    speed: float = 0.0

    def take(self, one: Logged) -> None:
        """One more entry."""
        self._of_the_cook(one)
        self._of_a_step(one)
        self._of_a_device(one)

    def _of_the_cook(self, one: Logged) -> None:
        if one.entry.kind is EntryKind.BEGUN:
            self.begun, self.ended = (self.begun if self.begun is not None else one.at_ms), None
        elif one.entry.kind is EntryKind.ENDED:
            self.ended = one.at_ms

    def _of_a_step(self, one: Logged) -> None:
        entry, at = one.entry, (one.entry.step, one.entry.round)
        if entry.kind is EntryKind.OPENED:
            self.opened.setdefault(at, one.at_ms)
        elif entry.kind is EntryKind.DONE:
            self.done[at] = one.at_ms
        elif entry.kind is EntryKind.UNDONE:
            self.done.pop(at, None)
        elif entry.kind is EntryKind.TIMER:
            self.timers[entry.of or entry.step] = one
        elif entry.kind is EntryKind.TIMER_OFF:
            self.timers.pop(entry.of or entry.step, None)
        elif entry.kind is EntryKind.AMOUNT and entry.value is not None:
            self.amounts[(entry.step, entry.of)] = entry.value

    def _of_a_device(self, one: Logged) -> None:
        entry = one.entry
        if entry.kind in {EntryKind.READING, EntryKind.CUE}:
            self.readings.append(one)
        elif entry.kind is EntryKind.PRACTICE:
            self.speed = entry.value or 0.0
        elif entry.kind is EntryKind.HEAT_ON:
            self.heat[entry.step] = (one.at_ms, None)
        elif entry.kind is EntryKind.HEAT_OFF and entry.step in self.heat:
            self.heat[entry.step] = (self.heat[entry.step][0], one.at_ms)


def _timer(key: str, one: Logged, now_ms: int, speed: float) -> Timer:
    """A timer runs as fast as the practice does."""
    gone = (now_ms - one.at_ms) / _MS * (speed or 1.0)
    minutes = one.entry.value or 0.0
    return Timer(id=key, title=one.entry.text, step=one.entry.step, minutes=minutes, left_s=minutes * _S_PER_MIN - gone)
