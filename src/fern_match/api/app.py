"""The application, put together."""

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse
from fastapi.routing import APIRoute
from fastapi.staticfiles import StaticFiles

from fern_match import __version__
from fern_match.api import batch, estimate, history, kitchen, matches, pantry, study
from fern_match.api.access import add_access, fresh_key
from fern_match.api.errors import Problem, add_error_handlers, refusal
from fern_match.api.guard import add_guard
from fern_match.api.runner import EstimateRunner
from fern_match.api.settings import Settings
from fern_match.core.food import standard_pantry
from fern_match.demo.world import fill
from fern_match.store import Database
from fern_match.store.matches import purge


def create_app(settings: Settings) -> FastAPI:
    """The application on a database.

    Args:
        settings: Where the database and the built interface are.
    """

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        app.state.database = Database(settings.database)
        app.state.runner = EstimateRunner(standard_pantry())
        with app.state.database.transaction() as session:
            purge(session)
        if settings.demo:
            fill(app.state.database, standard_pantry())
        yield
        app.state.runner.close()
        app.state.database.close()

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

    for router in (matches.router, study.router, estimate.router, batch.router, history.router, kitchen.router, pantry.router):
        app.include_router(router)
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
        wanted = (web / path).resolve()
        inside = path and wanted.is_file() and web.resolve() in wanted.parents
        return FileResponse(wanted if inside else web / "index.html")
