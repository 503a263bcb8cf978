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


CLOCK = SteadyClock()
