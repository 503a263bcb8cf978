"""The house keeps its order: imports point inwards, public functions say what they take, tables are whole."""

import ast
import csv
from pathlib import Path

import pytest

SOURCE = Path(__file__).parents[2] / "src" / "fern_match"
CORE = SOURCE / "core"
# What each outer layer may import of ours.
MAY_IMPORT = {
    "core": {"core"},
    "store": {"core", "exchange", "store"},  # each revision is a match file
    "exchange": {"core", "exchange"},
    "demo": {"core", "store", "demo"},
    "api": {"core", "store", "exchange", "demo", "api"},
}
# Inside core, what may lean on what.
INSIDE_CORE = {
    "food": {"food", "data", "errors"},
    "families": {"families", "food", "data", "errors"},
    "label": {"label", "food", "measures", "errors"},
    "measures": {"measures", "food", "errors"},
    "physics": {"physics", "food", "data", "errors"},
    "study": {"study", "food", "families", "label", "measures", "errors"},
    "estimate": {"estimate", "study", "food", "families", "label", "physics", "errors"},
    "formulate": {"formulate", "estimate", "errors"},
    "batch": {"batch", "formulate", "food", "families", "measures", "physics", "errors"},
    "kitchen": {"kitchen", "measures", "physics", "errors"},
    "history": {"history", "match", "study", "food", "families", "label", "errors"},
}
FRAMEWORKS = {"fastapi", "pydantic", "sqlalchemy", "alembic", "starlette", "uvicorn", "typer", "httpx2", "os", "time", "datetime"}


def modules() -> list[Path]:
    """Every module of ours but the migrations."""
    return [path for path in SOURCE.rglob("*.py") if "migrations" not in path.parts]


def imported(path: Path) -> set[str]:
    """Full names of all modules that a module imports."""
    names: set[str] = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            names |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            names.add(node.module)
    return names


def ours(path: Path, depth: int) -> set[str]:
    """The part of our own names that stands at a depth below the package."""
    found = set()
    for name in imported(path):
        steps = name.split(".")
        if steps[0] == "fern_match" and len(steps) > depth:
            found.add(steps[depth])
    return found


@pytest.mark.parametrize("layer", sorted(MAY_IMPORT))
def test_imports_point_inwards(layer: str) -> None:
    """No layer imports one that is further out."""
    for path in (SOURCE / layer).rglob("*.py"):
        if "migrations" in path.parts:
            continue
        outward = ours(path, 1) - MAY_IMPORT[layer] - {"__version__"}
        assert not outward, f"{path} imports {outward}"


@pytest.mark.parametrize("part", sorted(INSIDE_CORE))
def test_parts_of_the_core_lean_one_way(part: str) -> None:
    """Inside core no part reaches into one that builds on it."""
    for path in (CORE / part).rglob("*.py"):
        reached = {name.split(".")[2] for name in imported(path) if name.startswith("fern_match.core.")}
        assert reached <= INSIDE_CORE[part], f"{path} imports {reached - INSIDE_CORE[part]}"


def test_core_knows_no_framework_clock_or_network() -> None:
    """The job's rules stay free of everything that is not arithmetic."""
    for path in CORE.rglob("*.py"):
        assert not {name.split(".")[0] for name in imported(path)} & FRAMEWORKS, path


def public_functions() -> list[tuple[str, ast.FunctionDef]]:
    """Module-level functions of the core that do not begin with an underscore."""
    found = []
    for path in CORE.rglob("*.py"):
        for node in ast.parse(path.read_text()).body:
            if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
                found.append((f"{path.relative_to(CORE)}:{node.name}", node))
    return found


def test_public_functions_say_what_they_take() -> None:
    """Every argument of a public function of the core is named in its docstring's Args."""
    for place, node in public_functions():
        text = ast.get_docstring(node) or ""
        assert text, place
        arguments = [argument.arg for argument in (*node.args.args, *node.args.kwonlyargs) if argument.arg not in {"self", "cls"}]
        if not arguments:
            continue
        assert "Args:" in text, place
        for argument in arguments:
            assert f"{argument}:" in text, f"{place} does not describe {argument}"


def test_functions_that_refuse_say_so() -> None:
    """A public function that checks a range says in its docstring what it raises."""
    for place, node in public_functions():
        calls = {call.func.id for call in ast.walk(node) if isinstance(call, ast.Call) and isinstance(call.func, ast.Name)}
        if "check_range" in calls and node.name != "check_range":
            assert "Raises:" in (ast.get_docstring(node) or ""), place


@pytest.mark.parametrize(
    ("table", "rows"),
    [("ingredients.csv", 220), ("families.csv", 74), ("family_roles.csv", 532), ("solid_fat.csv", 6)],
)
def test_tables_are_whole(table: str, rows: int) -> None:
    """No table has lost or gained a row unnoticed."""
    with (CORE / "data" / table).open(encoding="utf-8", newline="") as text:
        assert len(list(csv.DictReader(text))) == rows


def test_every_table_says_where_it_comes_from() -> None:
    """The folder's README names each table."""
    readme = (CORE / "data" / "README.md").read_text()
    for table in (CORE / "data").glob("*.csv"):
        assert table.name in readme
