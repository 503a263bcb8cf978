"""What stands under Adapt on the path."""


def adapt_words(versions: int) -> str:
    """What can be done there.

    Args:
        versions: How many there are.
    """
    return "by a rule" if versions else "no version"
