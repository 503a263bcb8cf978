"""The house keeps its order: imports point inwards, public functions say what they take, tables are whole."""

import ast
import csv
import math
import re
from pathlib import Path

import pytest

SOURCE = Path(__file__).parents[2] / "src" / "fern_match"
CORE = SOURCE / "core"
# What each outer layer may import of ours.
MAY_IMPORT = {
    "core": {"core"},
    "exchange": {"core", "exchange"},
    "store": {"core", "exchange", "store"},  # contents are kept in the open format
    "demo": {"core", "store", "demo"},
    "devices": {"core", "devices"},
    "api": {"core", "store", "exchange", "devices", "demo", "api"},
    "cli.py": {"core", "store", "exchange", "api"},
    "__init__.py": set(),
}
# Inside core, what may lean on what; steps do not know each other's insides.
INSIDE_CORE = {
    "__init__.py": set(),
    "data": {"data"},
    "errors.py": set(),
    "record": {"record", "errors"},
    "food": {"food", "record", "data", "errors"},
    "families": {"families", "food", "record", "data", "errors"},
    "label": {"label", "food", "data", "measures", "errors"},
    "measures": {"measures", "food", "errors"},
    "physics": {"physics", "food", "data", "errors"},
    "kitchen": {"kitchen", "measures", "physics", "record", "data", "errors"},
    "study": {"study", "record", "food", "families", "label", "measures", "physics", "errors"},
    "estimate": {"estimate", "study", "record", "food", "families", "label", "measures", "physics", "errors"},
    "recipe": {"recipe", "food", "data", "label", "measures", "errors"},
    "formulate": {
        "formulate",
        "estimate",
        "study",
        "recipe",
        "record",
        "food",
        "families",
        "label",
        "measures",
        "physics",
        "data",
        "errors",
    },
    "adapt": {"adapt", "formulate", "study", "record", "food", "families", "label", "physics", "data", "errors"},
    "batch": {
        "batch",
        "data",
        "adapt",
        "formulate",
        "study",
        "kitchen",
        "record",
        "food",
        "families",
        "measures",
        "physics",
        "errors",
    },
    "cook": {
        "cook",
        "adapt",
        "batch",
        "data",
        "formulate",
        "study",
        "kitchen",
        "record",
        "food",
        "families",
        "measures",
        "physics",
        "errors",
    },
    "trials": {
        "trials",
        "adapt",
        "batch",
        "cook",
        "data",
        "estimate",
        "formulate",
        "study",
        "kitchen",
        "record",
        "food",
        "families",
        "label",
        "measures",
        "physics",
        "errors",
    },
    "match.py": {"study", "formulate", "batch", "cook", "trials", "food", "families", "label", "record", "errors"},
    "house.py": {"kitchen", "food", "record", "errors"},
    "steps.py": {"study", "estimate", "formulate", "adapt", "batch", "cook", "trials"},
    "summary.py": {"study", "estimate", "match", "record"},
    "names.py": {"match", "house", "study", "trials", "food", "families", "label", "record"},
    "history": {"history", "names", "record"},
}
# What another step may take from a step's folder: its doorway, its record and its words, never its insides.
STEPS = {"study", "estimate", "formulate", "adapt", "batch", "cook", "trials"}
DOORS = {
    "study": {"record", "reading", "words", "whereabouts", "starters", "flags"},
    "estimate": {"result", "words", "inputs"},
    # pose, program and targets: for whoever poses the same question with limits of its own
    "formulate": {
        "beginning.component",
        "judging.to_say",
        "record.diet",
        "record.properties",
        "solving.pose",
        "solving.posed",
        "solving.prices",
        "solving.program",
        "solving.targets",
        "telling.told",
        "telling.words",
    },
    "adapt": {"consequences", "told", "words"},
    "batch": {"plan", "words"},
    "cook": {"record", "words"},
    "trials": {"record", "told", "words"},
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


def inside(folder: Path) -> set[str]:
    """Names of the modules and packages in a folder."""
    return {path.name for path in folder.iterdir() if path.suffix == ".py" or (path.is_dir() and any(path.glob("*.py")))}


def test_every_folder_has_its_place() -> None:
    """A new one says here what it may lean on, or this fails."""
    assert inside(SOURCE) == set(MAY_IMPORT)
    assert inside(CORE) == set(INSIDE_CORE)


def files_of(folder: Path) -> list[Path]:
    """All modules of a folder, or the module itself."""
    return [path for path in ([folder] if folder.is_file() else folder.rglob("*.py")) if "migrations" not in path.parts]


@pytest.mark.parametrize("step", sorted(STEPS))
def test_steps_come_in_by_each_other_s_doors(step: str) -> None:
    """No step imports the inside of another."""
    for path in files_of(CORE / step):
        for name in imported(path):
            steps = name.split(".")
            if name.startswith("fern_match.core.") and steps[2] in STEPS - {step} and len(steps) > 3:
                assert ".".join(steps[3:]) in DOORS[steps[2]], f"{path} imports {name}"


def test_the_parts_of_formulate_lean_one_way() -> None:
    """What a version is knows nothing of how it is solved, solving nothing of beginning, judging nothing of either."""
    below = {
        "record": {"record"},
        "solving": {"record", "solving"},
        "judging": {"record", "judging"},
        "beginning": {"record", "solving", "beginning"},
        "telling": {"record", "solving", "judging", "beginning", "telling"},
    }
    inside = "fern_match.core.formulate."
    for part, allowed in below.items():
        for path in files_of(CORE / "formulate" / part):
            reached = {name.removeprefix(inside).split(".")[0] for name in imported(path) if name.startswith(inside)}
            assert reached <= allowed, f"{path} imports {reached - allowed}"


@pytest.mark.parametrize("layer", sorted(MAY_IMPORT))
def test_imports_point_inwards(layer: str) -> None:
    """No layer imports one that is further out."""
    for path in files_of(SOURCE / layer):
        outward = ours(path, 1) - MAY_IMPORT[layer] - {"__version__"}
        assert not outward, f"{path} imports {outward}"


@pytest.mark.parametrize("part", sorted(INSIDE_CORE))
def test_parts_of_the_core_lean_one_way(part: str) -> None:
    """Inside core no part reaches into one that builds on it."""
    allowed = {name.removesuffix(".py") for name in INSIDE_CORE[part]}
    for path in files_of(CORE / part):
        reached = {name.split(".")[2] for name in imported(path) if name.startswith("fern_match.core.")}
        assert reached <= allowed, f"{path} imports {reached - allowed}"


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


def test_public_functions_say_what_their_figures_are() -> None:
    """Each has a docstring, and every number it takes is described in it: its unit, its range, or what it counts."""
    for place, node in public_functions():
        text = ast.get_docstring(node) or ""
        assert text, place
        for argument in (*node.args.args, *node.args.kwonlyargs):
            kind = ast.unparse(argument.annotation) if argument.annotation else ""
            if {"float", "int"} & set(re.findall(r"\w+", kind)) and "[" not in kind:
                assert f"{argument.arg}:" in text, f"{place} does not describe {argument.arg}"


def test_functions_that_refuse_say_so() -> None:
    """A public function that checks a range says in its docstring what it raises."""
    for place, node in public_functions():
        calls = {call.func.id for call in ast.walk(node) if isinstance(call, ast.Call) and isinstance(call.func, ast.Name)}
        if "check_range" in calls and node.name != "check_range":
            assert "Raises:" in (ast.get_docstring(node) or ""), place


# Rows, and the sum of every figure, of each table: nothing is lost, gained or changed unnoticed.
TABLES = {
    "aliases.csv": (712, 12251.01),
    "alike.csv": (38, 0.0),
    "allergen_names.csv": (24, 0.0),
    "approvals.csv": (3, 0.0),
    "ask_maker.csv": (23, 0.0),
    "bake.csv": (6, 2505.0),
    "becomes.csv": (2, 0.0),
    "boiling_sucrose.csv": (21, 4025.5),
    "build_signs.csv": (59, 142.45),
    "causes.csv": (211, 703.0),
    "chocolate_rules.csv": (37, 651.89),
    "claims.csv": (21, 231.9),
    "clues.csv": (81, 591.81),
    "cook_cautions.csv": (15, 0.0),
    "cook_methods.csv": (88, 0.0),
    "cook_steps.csv": (166, 37312.5),
    "cue_kinds.csv": (8, 0.0),
    "cues.csv": (21, 5151.0),
    "extracts.csv": (2, 45.0),
    "families.csv": (109, 23499.799),
    "family_roles.csv": (868, 34917.12),
    "fat_limits.csv": (9, 2.83),
    "faults.csv": (78, 0.0),
    "fillings.csv": (14, 59.45),
    "ganache_windows.csv": (7, 360.0),
    "handling.csv": (32, 1385.5),
    "hydration.csv": (6, 38.0),
    "ingredient_steps.csv": (35, 0.0),
    "ingredients.csv": (333, 653366.817),
    "kitchen_forms.csv": (14, 0.0),
    "lacking.csv": (5, 16.5),
    "largest_shares.csv": (288, 3530.35),
    "lay.csv": (67, 10732.2),
    "may_hold.csv": (19, 0.0),
    "one_of.csv": (19, 0.0),
    "polyol_energy.csv": (29, 356.32),
    "polyol_warnings.csv": (5, 115.0),
    "polyols.csv": (7, 842.17),
    "prices.csv": (38, 10110385.912),
    "ready_shares.csv": (7, 16.82),
    "recipe_pieces.csv": (37, 9971.4),
    "recipe_strengths.csv": (12, 501.5),
    "recipe_tongues.csv": (106, 0.0),
    "recipe_treatments.csv": (8, 0.0),
    "recipe_words.csv": (169, 128.62),
    "reduced_sugar.csv": (4, 6.05),
    "rescues.csv": (30, 0.0),
    "roast.csv": (11, 3753.0),
    "rule_sets.csv": (10, 0.0),
    "rules.csv": (25, 203.13),
    "schools.csv": (27, 0.0),
    "search_words.csv": (59, 0.0),
    "second_figures.csv": (20, 541.3),
    "senses.csv": (13, 0.0),
    "setting_times.csv": (15, 21543.9),
    "shaping_usual.csv": (27, 0.0),
    "solid_fat.csv": (6, 21.312),
    "solutes.csv": (18, 5046.54),
    "spreads.csv": (38, 3.49),
    "stage_cues.csv": (37, 2063.7),
    "strengths.csv": (6, 11.89),
    "swaps.csv": (147, 0.0),
    "sweetener_levels.csv": (6, 177.0),
    "systems.csv": (11, 0.0),
    "tempering.csv": (18, 4890.5),
    "to_say.csv": (7, 7.562),
    "tolerances.csv": (13, 328.0),
    "tongues.csv": (488, 0.0),
    "traits.csv": (72, 306.38),
    "unlisted.csv": (32, 0.0),
    "until.csv": (6, 0.0),
    "usual_gear.csv": (33, 6539.0),
    "ways_back.csv": (21, 0.0),
    "work.csv": (13, 39.35),
}


@pytest.mark.parametrize("table", sorted(path.name for path in (CORE / "data").glob("*.csv")))
def test_tables_are_whole(table: str) -> None:
    """No table has lost or gained a row, and no figure in it has changed, unnoticed."""
    with (CORE / "data" / table).open(encoding="utf-8", newline="") as text:
        rows = list(csv.DictReader(text))
    figures = [float(cell) for row in rows for cell in row.values() if re.fullmatch(r"-?\d+(\.\d+)?", cell or "")]
    assert (len(rows), round(math.fsum(figures), 3)) == TABLES[table]


def test_every_table_says_where_it_comes_from() -> None:
    """The folder's README names each table."""
    readme = (CORE / "data" / "README.md").read_text()
    for table in TABLES:
        assert table in readme
