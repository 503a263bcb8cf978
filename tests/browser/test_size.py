"""What a first visit loads."""

import gzip
import re

import pytest
from tests.served import PAGES

pytestmark = pytest.mark.browser
MOST_JAVASCRIPT_KB = 250  # gzipped


def test_the_first_visit_loads_little_javascript() -> None:
    """All scripts that the page names, gzipped."""
    page = (PAGES / "index.html").read_text()
    scripts = [path for path in (PAGES / "assets").glob("*.js") if path.name in page]
    assert scripts
    assert sum(len(gzip.compress(path.read_bytes())) for path in scripts) < 1000 * MOST_JAVASCRIPT_KB


def test_nothing_is_loaded_from_elsewhere() -> None:
    """Neither page nor styles ask another host for anything."""
    elsewhere = re.compile(r"""(?:url\(|src=|href=|@import )\s*["']?(?:https?:)?//""")
    files = [path for path in (PAGES).rglob("*") if path.suffix in {".html", ".css"}]
    assert len(files) >= 2
    assert [path.name for path in files if elsewhere.search(path.read_text())] == []
