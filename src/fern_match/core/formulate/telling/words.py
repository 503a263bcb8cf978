"""What stands under Formulate on the path."""


def formulate_words(versions: int) -> str:
    """How many versions there are, or how one begins.

    Args:
        versions: How many there are.
    """
    if not versions:
        return "no version"
    return "1 version" if versions == 1 else f"{versions} versions"
