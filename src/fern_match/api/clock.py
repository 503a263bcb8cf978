"""What time it is, for logs: the wall clock as the program found it, and steady from then on, whatever is set meanwhile."""

import time


class SteadyClock:
    """Milliseconds since 1970 that never jump while the program runs."""

    def __init__(self) -> None:
        """Begins with what the wall clock says."""
        self._wall_s, self._steady_s = time.time(), time.monotonic()

    def now_ms(self) -> int:
        """The present moment."""
        return int(1000 * (self._wall_s + time.monotonic() - self._steady_s))

    def not_before(self, moment_ms: int) -> None:
        """Goes on from a moment that was written down, where the wall clock was set back while the program did not run.

        Args:
            moment_ms: Of the last entry of a log.
        """
        behind_ms = moment_ms - self.now_ms()
        if behind_ms > 0:
            self._wall_s += behind_ms / 1000


CLOCK = SteadyClock()
