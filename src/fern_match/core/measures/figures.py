"""How figures are written, in sentences and tables alike: decimals by size, ranges with the same decimals at both ends.

The interface writes its tables by the same rule (web/src/ui/figures.ts); tests/figures.json holds both to it.
"""

from decimal import ROUND_HALF_UP, Decimal


def decimals_for(value: float) -> int:
    """Decimals that suit a figure: none from 100, one from 1, two from 0.1, else three.

    Args:
        value: In whatever unit it is shown.
    """
    size = abs(value)
    return 0 if size >= 100 else 1 if size >= 1 else 2 if size >= 0.1 else 3


def figure(value: float, decimals: int | None = None) -> str:
    """A figure as text, with a proper minus.

    Args:
        value: In whatever unit it is shown.
        decimals: 0 to 6; by size where None.

    >>> figure(12.34), figure(-0.256), figure(0.0)
    ('12.3', '−0.26', '0')
    """
    text = _written(value, decimals_for(value) if decimals is None else decimals)
    return "0" if not text.strip("−0.") else text


def range_words(low: float, high: float, joint: str = " – ") -> str:
    """A range as text, low to high, both ends with the decimals that suit the high one; said once where they read the same.

    Args:
        low: Lower end.
        high: Upper end, in the same unit.

    >>> range_words(7.42, 12.0), range_words(874.6, 875.4)
    ('7.4 – 12.0', '875')
    """
    decimals = decimals_for(high)
    return "0" if low == high == 0 else joint.join(dict.fromkeys(_written(end, decimals) for end in (low, high)))


def _written(value: float, decimals: int) -> str:
    """With exactly so many decimals; a half goes away from nought, as the interface rounds."""
    return str(Decimal(value).quantize(Decimal(1).scaleb(-decimals), ROUND_HALF_UP)).replace("-", "−")
