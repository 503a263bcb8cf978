"""The examples in docstrings are run: what they show is what comes out."""

import doctest
import importlib
import pkgutil

import pytest

import fern_match.core

MODULES = [found.name for found in pkgutil.walk_packages(fern_match.core.__path__, "fern_match.core.")]
WITH_EXAMPLES = [
    name for name in MODULES if any(test.examples for test in doctest.DocTestFinder().find(importlib.import_module(name)))
]


@pytest.mark.parametrize("name", WITH_EXAMPLES)
def test_examples_hold(name: str) -> None:
    """Each of them."""
    flags = doctest.ELLIPSIS | doctest.IGNORE_EXCEPTION_DETAIL
    found = doctest.testmod(importlib.import_module(name), optionflags=flags)
    assert found.attempted > 0
    assert found.failed == 0


def test_there_are_examples() -> None:
    """Formulas show one; a search that finds none has lost its way."""
    assert len(WITH_EXAMPLES) >= 12
