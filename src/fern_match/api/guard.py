"""Keeps other pages from driving the app: Host, Origin and content type of every request, and strict headers."""

import re
from collections.abc import Awaitable, Callable
from urllib.parse import urlsplit

from fastapi import FastAPI, Request, Response

from fern_match.api.access import is_address
from fern_match.api.errors import refusal
from fern_match.exchange.images import MOST_UPLOAD_BYTES
from fern_match.exchange.match_file import MOST_FILE_BYTES

_HOST = re.compile(r"(?P<name>\[[0-9A-Fa-f:.]+\]|[A-Za-z0-9._-]+)(?::\d{1,5})?")
_MOST_BODY_BYTES = 2_000_000
_TAKES_PICTURES = re.compile(r"/api/matches/[A-Za-z0-9]+/photos")
_TAKE_FILES = frozenset({"/api/matches/import", "/api/restore"})
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
    found = _HOST.fullmatch(request.headers.get("host", ""))
    name = found["name"] if found else ""
    if name in hosts or (addresses and is_address(name)):
        return None
    return refusal(403, "ForeignHost", "This address is not one the app answers to.")


def _bad_write(request: Request) -> Response | None:
    if request.method not in _WRITES:
        return None
    origin = request.headers.get("origin")
    if origin is not None and _host_of(origin) != request.headers.get("host", ""):
        return refusal(403, "ForeignOrigin", "Another page tried to change data here; it was refused.")
    if "transfer-encoding" in request.headers:
        return refusal(411, "NoLength", "The request does not say how long it is; send it whole.")
    length = request.headers.get("content-length", "0")
    path: str = request.scope["path"]
    pictures = request.method == "POST" and _TAKES_PICTURES.fullmatch(path) is not None
    most = MOST_FILE_BYTES if path in _TAKE_FILES else MOST_UPLOAD_BYTES if pictures else _MOST_BODY_BYTES
    if length.isdigit() and int(length) > most:
        return refusal(413, "TooLarge", f"The request is larger than {most / 1e6:g} MB.")
    content_type = request.headers.get("content-type", "application/json").partition(";")[0].strip().lower()
    if pictures and not content_type.startswith("image/"):
        return refusal(415, "NotPicture", "A picture is sent as JPEG, PNG or WebP.")
    if length not in {"", "0"} and not pictures and content_type != "application/json":
        return refusal(415, "NotJson", "Changes are sent as JSON.")
    return None


def _host_of(origin: str) -> str | None:
    """Host and port of an origin; None where it is none."""
    try:
        return urlsplit(origin).netloc
    except ValueError:
        return None
