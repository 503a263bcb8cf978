"""Keeps other pages from driving the app: Host, Origin and content type of every request, and strict headers."""

from collections.abc import Awaitable, Callable
from urllib.parse import urlsplit

from fastapi import FastAPI, Request, Response

from fern_match.api.access import is_address
from fern_match.api.errors import refusal
from fern_match.exchange.backup import MOST_BACKUP_BYTES
from fern_match.exchange.match_file import MOST_BYTES

_WRITES = frozenset({"POST", "PUT", "PATCH", "DELETE"})
_HEADERS = {
    "Content-Security-Policy": (
        "default-src 'self'; img-src 'self' data:; style-src 'self'; font-src 'self' data:; "
        "object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
    ),
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
}


def add_guard(app: FastAPI, hosts: frozenset[str], *, addresses: bool = False) -> None:
    """Refuses requests for other hosts, from other origins, too large, of no told length, or with a body that is not JSON.

    Args:
        app: To guard.
        hosts: Names a request may be for.
        addresses: Whether it may be for any IP address, too.
    """

    @app.middleware("http")
    async def guard(request: Request, call_next: Callable[[Request], Awaitable[Response]]) -> Response:
        problem = _foreign_host(request, hosts, addresses=addresses) or _bad_write(request)
        response = problem if problem is not None else await call_next(request)
        for name, value in _HEADERS.items():
            response.headers.setdefault(name, value)
        return response


def _foreign_host(request: Request, hosts: frozenset[str], *, addresses: bool) -> Response | None:
    host = request.headers.get("host", "")
    name = host if host.startswith("[") and host.endswith("]") else host.rsplit(":", 1)[0]
    if name in hosts or (addresses and is_address(name)):
        return None
    return refusal(403, "ForeignHost", "This address is not one the app answers to.")


def _bad_write(request: Request) -> Response | None:
    if request.method not in _WRITES:
        return None
    host = request.headers.get("host", "")
    origin = request.headers.get("origin")
    if origin is not None and urlsplit(origin).netloc != host:
        return refusal(403, "ForeignOrigin", "Another page tried to change data here; it was refused.")
    if "transfer-encoding" in request.headers:
        return refusal(411, "NoLength", "The request does not say how long it is; send it whole.")
    length = request.headers.get("content-length", "0")
    most = MOST_BACKUP_BYTES if request.url.path == "/api/restore" else MOST_BYTES
    if length.isdigit() and int(length) > most:
        return refusal(413, "TooLarge", f"The request is larger than {most / 1e6:g} MB.")
    content_type = request.headers.get("content-type", "application/json").partition(";")[0]
    if length not in {"", "0"} and content_type != "application/json":
        return refusal(415, "NotJson", "Changes are sent as JSON.")
    return None
