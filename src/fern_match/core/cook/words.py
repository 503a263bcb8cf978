"""What a cook waits for, or how far it is, in words."""


def cook_words(versions: int, batches: int, cooks: int) -> str:
    """The words under Cook on the path.

    Args:
        versions: How many there are.
        batches: How many there are.
        cooks: How many there are.
    """
    if not versions:
        return "no version yet"
    if not batches:
        return "no batch yet"
    if cooks:
        return "1 cook" if cooks == 1 else f"{cooks} cooks"
    return "nothing planned yet"
