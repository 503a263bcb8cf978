"""The key that is wanted from every request once the app listens beyond this machine."""

import ipaddress
import secrets
from collections.abc import Awaitable, Callable
from urllib.parse import quote, unquote

from fastapi import FastAPI, Request, Response
from fastapi.responses import PlainTextResponse, RedirectResponse

from fern_match.api.errors import refusal

PLATES = "/api/taste/"
LOOPBACK = frozenset({"127.0.0.1", "localhost", "[::1]", "::1"})
_COOKIE = "fern_match_key"
_SENTENCE = "Open the address that was printed when the app started; it carries the key this device needs."
_A_YEAR_S = 365 * 24 * 3600


def fresh_key() -> str:
    """A key nobody can guess."""
    return secrets.token_urlsafe(18)


def address_with_key(address: str, key: str) -> str:
    """The address that lets a device in, its key safe to stand in an address."""
    return f"{address}/?key={quote(key, safe='')}"


def is_address(name: str) -> bool:
    """Whether a host name is an IP address; a foreign page cannot make one point elsewhere.

    Args:
        name: Without its port; IPv6 in brackets.
    """
    try:
        ipaddress.ip_address(name.strip("[]"))
    except ValueError:
        return False
    return True


def add_access(app: FastAPI, key: str) -> None:
    """Lets through only requests that carry the key; its address is opened once and leaves a cookie on the device.

    Args:
        key: As printed in the address.
    """

    @app.middleware("http")
    async def access(request: Request, call_next: Callable[[Request], Awaitable[Response]]) -> Response:
        path: str = request.scope["path"]
        if _matches(request.query_params.get("key", ""), key) and request.method == "GET":
            opened = RedirectResponse(f"/{quote(path.strip('/'))}", status_code=303)  # one slash: never to another host
            opened.set_cookie(_COOKIE, quote(key, safe=""), max_age=_A_YEAR_S, httponly=True, samesite="strict")
            return opened
        bearer = request.headers.get("authorization", "").removeprefix("Bearer ")
        known = _matches(unquote(request.cookies.get(_COOKIE, "")), key) or _matches(bearer, key)
        if known or path == "/api/health" or _is_for_tasters(path, request.method):
            return await call_next(request)
        if path.startswith("/api/"):
            return refusal(401, "NoKey", _SENTENCE)
        return PlainTextResponse(_SENTENCE, status_code=401)


def _is_for_tasters(path: str, method: str) -> bool:
    """Whether a device without the key may have it: a plate found by its own token, its page, and what pages are made of."""
    if path.startswith(PLATES):
        return method in {"GET", "POST"}
    return method == "GET" and path.startswith(("/taste/", "/assets/"))


def _matches(given: str, key: str) -> bool:
    return secrets.compare_digest(given.encode(), key.encode())
