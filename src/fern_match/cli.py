"""The command line: serve, and each step of the way on a match file; statement, recipe, export, import, backups, schema."""

import ctypes
import json
import os
import socket
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import asdict
from pathlib import Path
from typing import Annotated, Any, NoReturn

import typer
from pydantic import ValidationError

from fern_match.api.settings import Settings
from fern_match.core.batch import BatchPlan, batch_of, pieces_of
from fern_match.core.errors import CoreError
from fern_match.core.estimate import Estimate, estimate
from fern_match.core.estimate.causes import read_by_evidence
from fern_match.core.estimate.inputs import input_key
from fern_match.core.families import standard_families
from fern_match.core.food import standard_pantry
from fern_match.core.food.names import known_name
from fern_match.core.formulate import FAITHFUL, OriginKind, Version, kitchen_version, overview, serving_g
from fern_match.core.house import House, with_gear
from fern_match.core.kitchen import Kitchen, KitchenReading, read_kitchen
from fern_match.core.label.rows import Region
from fern_match.core.match import Match
from fern_match.core.measures import Measures
from fern_match.core.recipe import RecipeLine, read_line, tongue_of
from fern_match.core.study.plain_statement import statement_read
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study
from fern_match.core.summary import match_line
from fern_match.exchange import Brought, read_brought, written_match_file
from fern_match.exchange.match_file import match_file_schema

app = typer.Typer(no_args_is_help=True, add_completion=False, help="From a label and a few weighings to a batch in grams.")


@app.command("estimate")
def estimate_file(file: Annotated[Path, typer.Argument(help="A match file (JSON).")]) -> None:
    """Reads a match file and prints its estimate as JSON; 2 as exit status when there is too little or the file is broken.

    Where the study does not fit and one other reading of it settles all, the estimate is of that, and says so.
    """
    match = _read(file)
    found, cause = read_by_evidence(StudyReading(match.study, standard_pantry().with_pinned(match.pinned)))
    if not isinstance(found, Estimate):
        _give_up(" ".join(found.sentences))
    anew = cause and {"title": cause.title, "outcome": cause.outcome}
    print(json.dumps(_plain({**asdict(found), "read_anew": anew}), indent=2, ensure_ascii=False))


@app.command("measure-next")
def measure_next(file: Annotated[Path, typer.Argument(help="A match file (JSON).")]) -> None:
    """Reads a match file and prints which weighing would narrow its estimate most per minute, the best first, as JSON."""
    match = _read(file)
    found = estimate(StudyReading(match.study, standard_pantry().with_pinned(match.pinned)))
    if not isinstance(found, Estimate):
        _give_up(" ".join(found.sentences))
    print(json.dumps(_plain([asdict(one) for one in found.to_weigh]), indent=2, ensure_ascii=False))


@app.command()
def formulate(
    file: Annotated[Path, typer.Argument(help="A match file (JSON).")],
    version: Annotated[str | None, typer.Option(help="A version's id; the first one, or the faithful one, without.")] = None,
) -> None:
    """Reads a match file and prints a version as JSON: amounts, targets, label, and what holds it back."""
    from fern_match.core.formulate.telling.told import formulate_told

    match = _read(file)
    reading = StudyReading(match.study, standard_pantry().with_pinned(match.pinned))
    chosen = next((one for one in match.versions if one.id == version or version is None), None)
    if chosen is None and version is not None:
        known = ", ".join(one.id for one in match.versions) or "none yet"
        _give_up(f"{file} holds no version “{version}”. It holds: {known}.")
    with _stdout_kept_clean():
        chosen = chosen or _faithful(reading)
        pieces = pieces_of(match.batches, chosen.id, reading)
        _, out = batch_of(overview(chosen, reading), pieces, {}, reading, read_kitchen(Kitchen()))
        weighed = {(line.layer_id, line.line_id): line.measured_g for line in out.lines}
        told = formulate_told(chosen, reading, pieces=pieces, weigh_out_g=weighed)
    print(json.dumps(_plain(told), indent=2, ensure_ascii=False))


@app.command()
def plan(
    file: Annotated[Path, typer.Argument(help="A match file (JSON).")],
    batch: Annotated[str | None, typer.Option(help="A batch's id; the first one without.")] = None,
) -> None:
    """Reads a match file and prints the plan of a cook as JSON: steps in their order, and when each is done."""
    from fern_match.core.cook.told import plan_told

    brought, chosen, reading, kitchen = _batch_in(file, batch)
    with _stdout_kept_clean():
        told = plan_told(brought.match.version(chosen.version), chosen, brought.match.cooks, reading, kitchen)
    if not told["steps"]:
        _give_up(str(told["waits"]))
    print(json.dumps(_plain(told), indent=2, ensure_ascii=False))


@app.command("batch")
def print_batch(
    file: Annotated[Path, typer.Argument(help="A match file (JSON); it carries the gear that its batches use.")],
    batch: Annotated[str | None, typer.Option(help="A batch's id; the first one without.")] = None,
) -> None:
    """Reads a match file and prints a batch as JSON: amounts, what the gear makes of it, lots, wrapping, shopping, cautions."""
    from fern_match.core.batch.told import batch_told

    brought, chosen, reading, kitchen = _batch_in(file, batch)
    with _stdout_kept_clean():
        told = batch_told(brought.match.version(chosen.version), chosen, reading, kitchen)
    if not told["layers"]:
        _give_up(str(told["waits"]))
    print(json.dumps(_plain(told), indent=2, ensure_ascii=False))


@app.command("trial")
def print_trial(
    file: Annotated[Path, typer.Argument(help="A match file (JSON); it carries logs and trials.")],
    trial: Annotated[str | None, typer.Option(help="A trial's id; the last one without.")] = None,
) -> None:
    """Reads a match file and prints a trial as JSON: closeness with its doubt, causes, the proposed change."""
    from fern_match.core.trials import looked_at, prepared, tried
    from fern_match.core.trials.told import trial_told

    brought = _brought(file)
    match = brought.match
    chosen = next((one for one in reversed(match.trials) if one.id == trial or trial is None), None)
    if chosen is None:
        known = ", ".join(one.id for one in match.trials) or "none yet"
        _give_up(f"{file} holds no trial “{trial}”. It holds: {known}." if trial else f"{file} holds no trial yet.")
    reading = StudyReading(match.study, standard_pantry().with_pinned(match.pinned))
    kitchen = read_kitchen(Kitchen(gear=brought.gear, wraps=brought.wraps))
    batch = next(one for one in match.batches if one.id == chosen.batch)
    cook = next((one for one in match.cooks if one.id == chosen.cook), None)
    version = match.version(batch.version)
    with _stdout_kept_clean():
        found = estimate(reading)
        made = prepared(version, batch, cook, reading, kitchen)
        of = tried(chosen, made, cook.log if cook is not None else (), reading, kitchen)
        looked = looked_at(of, made.seen, found if isinstance(found, Estimate) else None)
        told = trial_told(looked, [one.id for one in match.versions])
    print(json.dumps(_plain(told), indent=2, ensure_ascii=False))


def _batch_in(file: Path, batch: str | None) -> tuple[Brought, BatchPlan, StudyReading, KitchenReading]:
    """A batch of a match file, and the kitchen that the file tells of it."""
    brought = _brought(file)
    match = brought.match
    chosen = next((one for one in match.batches if one.id == batch or batch is None), None)
    if chosen is None:
        known = ", ".join(one.id for one in match.batches) or "none yet"
        _give_up(f"{file} holds no batch “{batch}”. It holds: {known}." if batch else f"{file} holds no batch yet.")
    reading = StudyReading(match.study, standard_pantry().with_pinned(match.pinned))
    return brought, chosen, reading, read_kitchen(Kitchen(gear=brought.gear, wraps=brought.wraps))


@app.command()
def adapt(
    file: Annotated[Path, typer.Argument(help="A match file (JSON).")],
    rule: Annotated[list[str], typer.Option(help="A rule: vegan, keto, keto:4, sugar-free, without-milk … Repeat for several.")],
    refused: Annotated[list[str] | None, typer.Option("--without", help="An ingredient's id that is not to be used.")] = None,
    required: Annotated[
        list[str] | None, typer.Option("--with", help="layer:ingredient, by their ids, that is to be used.")
    ] = None,
) -> None:
    """Reads a match file and prints proposals under rules as JSON; 2 as exit status where nothing fits or a rule is not known."""
    from fern_match.core.adapt import BadRule, adapted, rules_of
    from fern_match.core.adapt.told import adapt_told

    match = _read(file)
    reading = StudyReading(match.study, standard_pantry().with_pinned(match.pinned))
    try:
        rules = rules_of(rule, match.study.region, reading.pantry)
        with _stdout_kept_clean():
            made = [one for one in match.versions if one.origin.kind is OriginKind.ESTIMATE]
            version = next((one for one in (*made, *match.versions)), None) or _faithful(reading)
            seen = overview(version, reading)
            serving = serving_g(reading, seen.formula)
            found = adapted(
                seen.formula,
                seen.targets,
                rules,
                reading,
                serving_g=serving,
                forbidden=refused or (),
                required=required or (),
            )
    except BadRule as error:
        _give_up(str(error))
    with _stdout_kept_clean():
        told = adapt_told(found, seen, rules, reading, serving)
    if found.unmet is not None:
        print(json.dumps(_plain(told), indent=2, ensure_ascii=False))
        _give_up(f"{found.unmet.because} Nearest: {found.unmet.nearest or 'none'}.")
    print(json.dumps(_plain(told), indent=2, ensure_ascii=False))


@app.command()
def statement(
    region: Annotated[Region, typer.Option(help="Where the label is from.")] = Region.EU,
) -> None:
    """Reads an ingredient statement on standard input and prints it as JSON: names with what they are taken for, lists, notes."""
    study = Study(name="statement", region=region, statement=sys.stdin.read())
    print(json.dumps(statement_read(StudyReading(study, standard_pantry())), indent=2, ensure_ascii=False))


@app.command()
def recipe(
    country: Annotated[Measures, typer.Option(help="Whose cups, spoons and cans.")] = Measures.METRIC,
) -> None:
    """Reads recipe lines on standard input and prints a JSON array: grams, range, ingredient, what was assumed or is asked."""
    pantry = standard_pantry()
    written = [line.rstrip("\n") for line in sys.stdin if line.strip()]
    tongue = tongue_of("\n".join(written), known_name)
    lines = [read_line(line, pantry, measures=country, tongue=tongue) for line in written]
    print(json.dumps([_line_told(one) for one in lines], indent=2, ensure_ascii=False))


@app.command()
def serve(
    host: Annotated[str | None, typer.Option(help="Where to listen.")] = None,
    port: Annotated[int | None, typer.Option(help="The port to listen on.")] = None,
    demo: Annotated[bool, typer.Option(help="Put the demo matches into an empty database.")] = False,
    database: Annotated[Path | None, typer.Option(help="The SQLite file; FERN_MATCH_DATABASE, or var/fern-match.db.")] = None,
) -> None:
    """Serves the application."""
    import uvicorn  # here, so that the other commands start fast

    from fern_match.api.access import address_with_key, fresh_key
    from fern_match.api.app import create_app
    from fern_match.store import CannotKeep, Database

    settings = _settings()
    settings = settings.model_copy(
        update={
            "host": host or settings.host,
            "port": port or settings.port,
            "demo": demo or settings.demo,
            "database": database or settings.database,
        }
    )
    if settings.beyond_loopback:
        settings = settings.model_copy(update={"key": settings.key or fresh_key()})
        print("Other devices in your network can reach this, by this machine’s own address and the key below.", flush=True)
    try:
        Database(settings.database).close()  # so that what is wrong with it is said in a sentence, before anything starts
    except CannotKeep as error:
        _give_up(str(error))
    if taken := _taken(settings.host, settings.port):
        _give_up(taken)
    address = f"http://{settings.host}:{settings.port}"
    shown = address_with_key(address, settings.key) if settings.beyond_loopback else address
    print(f"Fern Match is at {shown}", flush=True)
    uvicorn.run(create_app(settings), host=settings.host, port=settings.port, log_level="warning")


def _settings() -> Settings:
    """What is set from outside; what cannot be is a sentence."""
    try:
        return Settings()
    except ValidationError as error:
        wrong = error.errors()[0]
        name = f"FERN_MATCH_{str(wrong['loc'][0]).upper()}" if wrong["loc"] else "A setting"
        _give_up(f"{name} cannot be “{wrong['input']}”: {wrong['msg'].removeprefix('Value error, ')}.")


def _taken(host: str, port: int) -> str:
    """Why one cannot listen there; empty where one can."""
    try:
        family, kind, protocol, _, address = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)[0]
        with socket.socket(family, kind, protocol) as trying:
            trying.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            trying.bind(address)
    except OSError as error:
        return (
            f"{host}:{port} cannot be listened on ({error.strerror}). Is Fern Match running already? Else choose another --port."
        )
    return ""


@app.command("export")
def export_match(match_id: str) -> None:
    """Prints a match of the database as a match file."""
    from fern_match.store.cook_log import with_logs
    from fern_match.store.images import with_images
    from fern_match.store.trees import house, load

    with _database() as database, database.reading() as session:
        match = with_images(session, match_id, with_logs(session, match_id, load(session, match_id, Match).whole))
        kitchen = house(session).whole.kitchen
    print(written_match_file(match, kitchen), end="")


@app.command("import")
def import_match(file: Path) -> None:
    """Puts a match file into the database and prints the new match's id."""
    from fern_match.store.trees import NewTree, create, house

    brought = _brought(file)
    new = NewTree.of(brought.match, _line(brought.match))
    with _database() as database:
        with database.reading() as session:
            kept = house(session)
        if with_gear(kept.whole, brought.gear, brought.wraps) != kept.whole:
            _house_keeper(database).save(kept.revision, lambda own: with_gear(own, brought.gear, brought.wraps))
        with database.writing() as session:
            print(create(session, new))


def _house_keeper(database: Any) -> Any:
    """Keeps the changes of the house."""
    from fern_match.store import HOUSE, Keeper

    return Keeper(
        database=database,
        tree_id=HOUSE,
        whole=House,
        pantry=standard_pantry(),
        families=standard_families(),
        line=lambda _: {},
    )


@app.command()
def backup(file: Path) -> None:
    """Writes every match and the house into one file; a file that is there already is left alone."""
    from fern_match.exchange.backup import written_backup
    from fern_match.store.trees import everything

    if file.exists():
        _give_up(f"{file} is there already, and a backup writes over nothing. Name another.")
    with _database() as database, database.reading() as session:
        house, matches = everything(session, images=True)
    file.write_text(written_backup(house, matches), encoding="utf-8")
    print(f"Everything is in {file}.")


@app.command()
def restore(file: Path) -> None:
    """Adds what a backup holds to what is here."""
    from fern_match.exchange.backup import read_backup
    from fern_match.store.backup import restore as put_back

    try:
        house, matches = read_backup(file.read_bytes())
    except OSError as error:
        _give_up(f"{file} could not be opened: {error.strerror}.")
    except CoreError as error:
        _give_up(f"{file}: {error}")
    with _database() as database:
        done = put_back(_house_keeper(database), house, matches, _line)
    print(done.words)


@app.command()
def schema() -> None:
    """Prints the JSON Schema of match files."""
    print(match_file_schema(), end="")


@app.command()
def openapi() -> None:
    """Prints the API's OpenAPI document."""
    from fern_match.api.app import create_app

    print(json.dumps(create_app(Settings(web=Path("/nonexistent"))).openapi(), indent=2))


def _faithful(reading: StudyReading) -> Version:
    """The faithful version of a study that has none."""
    found = estimate(reading)
    if not isinstance(found, Estimate):
        _give_up(" ".join(("There is no version, and no estimate to take one from.", *found.sentences)))
    return kitchen_version(FAITHFUL, found, reading, input_key(reading))


@contextmanager
def _stdout_kept_clean() -> Iterator[None]:
    """What libraries write past Python to standard output goes to standard error: the solver has such lines.

    They wait in C's own buffer where standard output is a file, and are to leave it before it is standard output again.
    """
    sys.stdout.flush()
    kept = os.dup(1)
    os.dup2(2, 1)
    try:
        yield
    finally:
        ctypes.CDLL(None).fflush(None)
        os.dup2(kept, 1)
        os.close(kept)


@contextmanager
def _database() -> Iterator[Any]:
    """The database of the settings; what is refused ends the command with its sentence."""
    from fern_match.store import Database

    try:
        database = Database(Settings().database)
    except CoreError as error:
        _give_up(str(error))
    try:
        yield database
    except CoreError as error:
        _give_up(str(error))
    finally:
        database.close()


def _line_told(line: RecipeLine) -> dict[str, Any]:
    known = line.ingredient_id is not None
    return {
        "line": line.line,
        "grams": _plain(line.grams),
        "low_g": _plain(line.low_g),
        "high_g": _plain(line.high_g),
        "ingredient": {"id": line.ingredient_id, "confidence": _plain(line.confidence)} if known else None,
        "assumed": list(line.assumed),
        "problem": line.problem,
    }


def _line(match: Match) -> dict[str, Any]:
    return asdict(match_line(StudyReading(match.study, standard_pantry(), standard_families())))


def _read(file: Path) -> Match:
    return _brought(file).match


def _brought(file: Path) -> Brought:
    try:
        return read_brought(file.read_bytes())
    except OSError as error:
        _give_up(f"{file} could not be opened: {error.strerror}.")
    except CoreError as error:
        _give_up(f"{file}: {error}")


def _give_up(sentence: str) -> NoReturn:
    print(sentence, file=sys.stderr)
    raise typer.Exit(2)


def _plain(value: Any) -> Any:
    """Floats rounded to what an estimate can mean; enums as their text."""
    if isinstance(value, dict):
        return {str(key): _plain(entry) for key, entry in value.items()}
    if isinstance(value, list | tuple):
        return [_plain(entry) for entry in value]
    return round(value, 5) if isinstance(value, float) else value


if __name__ == "__main__":
    app()
