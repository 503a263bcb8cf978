"""The application, put together."""

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse
from fastapi.routing import APIRoute
from fastapi.staticfiles import StaticFiles

from fern_match import __version__
from fern_match.api import (
    adapt,
    batch,
    cook,
    estimate,
    formulate,
    frame,
    history,
    kitchen,
    matches,
    pantry,
    photos,
    recipes,
    study,
    taste,
    trials,
)
from fern_match.api.access import add_access, fresh_key
from fern_match.api.deps import Desk
from fern_match.api.errors import Problem, add_error_handlers, refusal
from fern_match.api.guard import add_guard
from fern_match.api.hands import Hands, hands_of_process
from fern_match.api.runner import Runner
from fern_match.api.settings import Settings
from fern_match.core.errors import Stopped
from fern_match.core.families import standard_families
from fern_match.core.food import standard_pantry
from fern_match.demo.world import fill
from fern_match.store import Database
from fern_match.store.trees import purge


def create_app(settings: Settings, hands: Hands | None = None) -> FastAPI:
    """The application on a database.

    Args:
        settings: Where the database and the built interface are.
        hands: Processes that do long work; those that all applications of this process share where None.
    """

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        desk = Desk(
            Database(settings.database), standard_pantry(), standard_families(), Runner(Stopped, hands or hands_of_process())
        )
        app.state.desk = desk
        with desk.database.writing() as session:
            purge(session)
        if settings.demo:
            fill(desk.database, desk.pantry, desk.families, desk.line)
        yield
        desk.runner.close()
        desk.database.close()

    app = FastAPI(
        title="Fern Match",
        version=__version__,
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        responses={"default": {"model": Problem, "description": "Refused, and why"}},
        generate_unique_id_function=_operation_name,
    )
    add_error_handlers(app)
    if settings.beyond_loopback:
        add_access(app, settings.key or fresh_key())
    add_guard(app, settings.accepted_hosts(), addresses=settings.beyond_loopback)

    @app.get("/api/health", tags=["health"])
    def health() -> dict[str, str]:
        """Whether the application answers."""
        return {"status": "ok", "version": __version__}

    for part in (
        recipes,
        matches,
        frame,
        study,
        estimate,
        formulate,
        adapt,
        batch,
        cook,
        trials,
        photos,
        taste,
        history,
        kitchen,
        pantry,
    ):
        app.include_router(part.router)
    _add_interface(app, settings.web)
    return app


def _operation_name(route: APIRoute) -> str:
    return route.name


def _add_interface(app: FastAPI, web: Path) -> None:
    """The built pages; any other path is a page of theirs."""
    if not (web / "index.html").is_file():
        return
    app.mount("/assets", StaticFiles(directory=web / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False, response_model=None)
    def page(path: str) -> FileResponse:
        """The page, or one of the few files beside it."""
        if path.startswith("api/"):
            return refusal(404, "NotKnown", "There is nothing at this address.")  # type: ignore[return-value]
        return FileResponse(_file_in(web, path) or web / "index.html")


def _file_in(web: Path, path: str) -> Path | None:
    """A file of the built pages; None where the path is none, or leads out of them."""
    try:
        wanted = (web / path).resolve()
        return wanted if path and wanted.is_file() and web.resolve() in wanted.parents else None
    except (ValueError, OSError):  # no path at all: a null byte, or thousands of signs
        return None
