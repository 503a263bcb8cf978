"""What the path says under Trials."""


def trial_words(batches: int, trials: int) -> str:
    """The words under Trials on the path.

    Args:
        batches: How many there are.
        trials: How many there are.
    """
    if trials:
        return "1 trial" if trials == 1 else f"{trials} trials"
    return "none tried" if batches else "no batch yet"
