"""The command line: serve, demo, estimate, export, import."""

import json
import sys
from dataclasses import asdict
from pathlib import Path
from typing import Annotated, Any

import typer

from fern_match.api.settings import Settings
from fern_match.core.errors import CoreError
from fern_match.core.estimate import Estimate, estimate
from fern_match.core.food import standard_pantry
from fern_match.core.study.reading import StudyReading
from fern_match.exchange import read_match_file, written_match_file
from fern_match.exchange.match_file import match_file_schema

app = typer.Typer(no_args_is_help=True, add_completion=False, help="From a label and a few weighings to a batch in grams.")


@app.command("estimate")
def estimate_file(file: Annotated[Path, typer.Argument(help="A match file (JSON).")]) -> None:
    """Reads a match file and prints its estimate as JSON; 2 as exit status when there is too little or the file is broken."""
    match = _read(file)
    found = estimate(StudyReading(match.study, standard_pantry()))
    if not isinstance(found, Estimate):
        _give_up(" ".join(found.sentences))
    print(json.dumps(_plain(asdict(found)), indent=2, ensure_ascii=False))


@app.command()
def serve(
    host: Annotated[str | None, typer.Option(help="Where to listen.")] = None,
    port: Annotated[int | None, typer.Option(help="The port to listen on.")] = None,
    demo: Annotated[bool, typer.Option(help="Put the demo matches into an empty database.")] = False,
) -> None:
    """Serves the application."""
    import uvicorn  # here, so that the other commands start fast

    from fern_match.api.access import fresh_key
    from fern_match.api.app import create_app

    settings = Settings()
    settings = settings.model_copy(
        update={"host": host or settings.host, "port": port or settings.port, "demo": demo or settings.demo}
    )
    if settings.beyond_loopback:
        settings = settings.model_copy(update={"key": settings.key or fresh_key()})
        print("Other devices in your network can reach this, by this machine’s own address and the key below.", flush=True)
    address = f"http://{settings.host}:{settings.port}"
    print(
        f"Fern Match is at {address}/?key={settings.key}" if settings.beyond_loopback else f"Fern Match is at {address}",
        flush=True,
    )
    uvicorn.run(create_app(settings), host=settings.host, port=settings.port, log_level="warning")


@app.command("export")
def export_match(match_id: str) -> None:
    """Prints a match of the database as a match file."""
    from fern_match.store import Database, matches

    database = Database(Settings().database)
    try:
        with database.transaction() as session:
            print(written_match_file(matches.load(session, match_id).match), end="")
    except CoreError as error:
        _give_up(str(error))


@app.command("import")
def import_match(file: Path) -> None:
    """Puts a match file into the database and prints the new match's id."""
    from fern_match.store import Database, matches

    match = _read(file)
    with Database(Settings().database).transaction() as session:
        print(matches.create(session, match).id)


@app.command()
def backup(file: Path) -> None:
    """Writes every match and the kitchen into one file."""
    from fern_match.exchange.backup import written_backup
    from fern_match.store import Database
    from fern_match.store.backup import everything

    with Database(Settings().database).transaction() as session:
        file.write_text(written_backup(*everything(session)))
    print(f"Everything is in {file}.")


@app.command()
def restore(file: Path) -> None:
    """Adds what a backup holds to what is here."""
    from fern_match.exchange.backup import read_backup
    from fern_match.store import Database
    from fern_match.store.backup import restore as put_back

    try:
        found, kitchen = read_backup(file.read_bytes())
    except OSError as error:
        _give_up(f"{file} could not be opened: {error.strerror}.")
    except CoreError as error:
        _give_up(f"{file}: {error}")
    with Database(Settings().database).transaction() as session:
        added, here = put_back(session, found, kitchen)
    print(f"{added} matches restored, {here} were already here.")


@app.command()
def schema() -> None:
    """Prints the JSON Schema of match files."""
    print(match_file_schema(), end="")


@app.command()
def openapi() -> None:
    """Prints the API's OpenAPI document."""
    from fern_match.api.app import create_app

    print(json.dumps(create_app(Settings(web=Path("/nonexistent"))).openapi(), indent=2))


def _read(file: Path) -> Any:
    try:
        return read_match_file(file.read_bytes())
    except OSError as error:
        _give_up(f"{file} could not be opened: {error.strerror}.")
    except CoreError as error:
        _give_up(f"{file}: {error}")


def _give_up(sentence: str) -> None:
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
