"""One error shape for every refusal, and the only table from errors to statuses."""

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from fern_match.core.errors import CoreError, MissingValue, NotKnown, OutOfRange
from fern_match.exchange.shapes import BadMatchFile
from fern_match.store import FieldsClash, NothingThere, Stale

STATUS: dict[type[CoreError], int] = {
    OutOfRange: 422,
    MissingValue: 422,
    NotKnown: 404,
    Stale: 409,
    FieldsClash: 409,
    NothingThere: 409,
    BadMatchFile: 422,
}


class Problem(BaseModel):
    """Why something was refused, as a sentence."""

    code: str
    message: str
    field: str | None = None


def add_error_handlers(app: FastAPI) -> None:
    """Every error leaves in one shape.

    Args:
        app: To add to.
    """

    @app.exception_handler(CoreError)
    def core_error(_request: Request, error: CoreError) -> JSONResponse:
        field = getattr(error, "field", None)
        return _answer(STATUS.get(type(error), 422), type(error).__name__, str(error), field)

    @app.exception_handler(RequestValidationError)
    def malformed(_request: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        place = ".".join(str(step) for step in first["loc"])
        return _answer(422, "Malformed", f"The request could not be read at {place}: {first['msg']}.", place)

    @app.exception_handler(HTTPException)
    def http_error(_request: Request, error: HTTPException) -> JSONResponse:
        return _answer(error.status_code, "Http", str(error.detail), None)

    @app.exception_handler(Exception)
    def mistake(_request: Request, _error: Exception) -> JSONResponse:
        return _answer(500, "Mistake", "The app made a mistake. Nothing was changed; what you typed is still here.", None)


def refusal(status: int, code: str, message: str) -> JSONResponse:
    """An answer in the one error shape.

    Args:
        status: HTTP status.
        code: For programs.
        message: For people.
    """
    return _answer(status, code, message, None)


def _answer(status: int, code: str, message: str, field: str | None) -> JSONResponse:
    return JSONResponse(Problem(code=code, message=message, field=field).model_dump(), status_code=status)
