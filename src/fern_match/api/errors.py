"""One error shape for every refusal, and the only table from errors to statuses."""

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from sqlalchemy.exc import DatabaseError
from starlette.exceptions import HTTPException

from fern_match.core.adapt import BadRule
from fern_match.core.errors import CoreError, MissingValue, NotKnown, OutOfRange
from fern_match.core.food.sound import NotSound
from fern_match.core.formulate.beginning.component import NothingToKeep
from fern_match.core.formulate.solving.program import SolverFailed
from fern_match.core.measures.numbers import Unread
from fern_match.core.record import NotFitting
from fern_match.exchange import BadFile
from fern_match.exchange.images import BadImage
from fern_match.exchange.pantry_csv import BadPantryFile
from fern_match.store import CannotKeep, Clash, NothingThere, Stale
from fern_match.store.cook_log import LogIsFull
from fern_match.store.database import meaning_of


class NotReady(CoreError):
    """Something is asked for that is still being computed, or cannot be."""


class WouldOverwrite(CoreError):
    """A request would overwrite what the user may want to keep, and has to say so."""


class BreaksRule(CoreError):
    """What is asked for breaks a rule that a version was adapted under."""


STATUS: dict[type[Exception], int] = {
    OutOfRange: 422,
    MissingValue: 422,
    NotFitting: 422,
    NotSound: 422,
    NothingToKeep: 422,
    BadPantryFile: 422,
    BadFile: 422,
    BadImage: 422,
    Unread: 422,
    BadRule: 422,
    BreaksRule: 422,
    SolverFailed: 422,
    NotKnown: 404,
    Stale: 409,
    Clash: 409,
    NothingThere: 409,
    LogIsFull: 409,
    NotReady: 409,
    WouldOverwrite: 409,
    CannotKeep: 503,
}
_LONGEST_PLACE = 200


class Problem(BaseModel):
    """Why something was refused, as a sentence."""

    code: str
    message: str
    field: str | None = None
    revision: int | None = None  # the newest, where the request was made on an older one


def add_error_handlers(app: FastAPI) -> None:
    """Every error leaves in one shape."""

    @app.exception_handler(CoreError)
    def core_error(_request: Request, error: CoreError) -> JSONResponse:
        revision = getattr(error, "revision", getattr(error, "newest", None))
        problem = Problem(code=type(error).__name__, message=str(error), field=getattr(error, "field", None), revision=revision)
        return _answer(STATUS[type(error)], problem)

    @app.exception_handler(DatabaseError)
    def database_error(_request: Request, error: DatabaseError) -> JSONResponse:
        message = f"{meaning_of(error)} Nothing was changed; what you typed is still here."
        return _answer(503, Problem(code="CannotKeep", message=message))

    @app.exception_handler(RequestValidationError)
    def malformed(_request: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        place = ".".join(str(step) for step in first["loc"])[:_LONGEST_PLACE]
        message = f"The request could not be read at {place}: {first['msg']}."
        return _answer(422, Problem(code="Malformed", message=message, field=place))

    @app.exception_handler(HTTPException)
    def http_error(_request: Request, error: HTTPException) -> JSONResponse:
        return refusal(error.status_code, "Http", str(error.detail))

    @app.exception_handler(Exception)
    def mistake(_request: Request, _error: Exception) -> JSONResponse:
        return refusal(500, "Mistake", "The app made a mistake. Nothing was changed; what you typed is still here.")


def refusal(status: int, code: str, message: str) -> JSONResponse:
    """An answer in the one error shape.

    Args:
        status: HTTP status.
    """
    return _answer(status, Problem(code=code, message=message))


def _answer(status: int, problem: Problem) -> JSONResponse:
    return JSONResponse(problem.model_dump(), status_code=status)
