"""The gate to the house's network: whoever is not paired sees one page, on which a code is typed."""

import html
from http.cookies import CookieError, SimpleCookie
from typing import Protocol
from urllib.parse import parse_qs

from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers
from starlette.responses import HTMLResponse, RedirectResponse, Response
from starlette.types import ASGIApp, Receive, Scope, Send

from weary_cedar.api.door import COOKIE, STAYS_S, Caller, Door, NotLetIn, may
from weary_cedar.api.errors import problem_response
from weary_cedar.api.guard import HEADERS, same_origin

PAIR = "/pair"
#: A form with a code and a name is no longer than this, bytes.
MOST_FORM = 2_000
MOST_NAME = 60
UNSAFE_TELLS = (
    "What goes between this phone and the computer is not encrypted: anyone on this network can read along. "
    "Without the computer in reach a phone keeps the pocket file only: take it along."
)


class Shown(Protocol):
    """What the gate must know of the network."""

    @property
    def hosts(self) -> frozenset[str]:
        """Hosts with ports under which it is there, as a browser sends them."""

    @property
    def fingerprint(self) -> str:
        """Of its certificate; empty where it is not encrypted."""


class Gate:
    """ASGI middleware for the listener on the network: host, token, role; then the app as on this machine."""

    def __init__(self, app: ASGIApp, door: Door, network: Shown) -> None:
        self._app = app
        self._door = door
        self._network = network

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Check, then pass on."""
        if scope["type"] == "lifespan":
            await self._app(scope, receive, send)
            return
        if scope["type"] != "http":
            return
        headers = Headers(scope=scope)
        found = await self._answer(scope, headers, receive)
        if isinstance(found, Caller):
            await self._app({**scope, "weary_cedar.caller": found}, receive, send)
            return
        for name, value in HEADERS.items():
            found.headers.setdefault(name, value)
        await found(scope, receive, send)

    async def _answer(self, scope: Scope, headers: Headers, receive: Receive) -> Response | Caller:
        method, path = scope["method"], scope["path"]
        if headers.get("host", "") not in self._network.hosts:
            return Response(status_code=421)
        if path == PAIR:
            return await self._pair(scope, headers, receive)
        token = _token(headers)
        caller = await run_in_threadpool(self._door.caller, token) if token else None
        if caller is None:
            if method == "GET" and "text/html" in headers.get("accept", ""):
                return RedirectResponse(PAIR, 303)
            return problem_response(401, "Not let in", "Pair this device first.")
        why = may(caller, method, path)
        if why:
            return problem_response(403, "Not for this device", why)
        return caller

    async def _pair(self, scope: Scope, headers: Headers, receive: Receive) -> Response:
        if scope["method"] in ("GET", "HEAD"):
            told = parse_qs(scope.get("query_string", b"").decode("ascii", "replace"))
            code = next(iter(told.get("code", [])), "")
            return self._page("", code if code.isdecimal() and len(code) <= 6 else "")
        if scope["method"] != "POST":
            return Response(status_code=405)
        if not same_origin(headers, f"{scope['scheme']}://{headers['host']}"):
            return Response(status_code=403)
        form = parse_qs((await _body(receive)).decode("utf-8", "replace"))
        digits = "".join(form.get("code", [""])[0].split())[:12]
        name = form.get("name", [""])[0].strip()[:MOST_NAME] or "A phone"
        try:
            token = await run_in_threadpool(self._door.pair, digits, name)
        except NotLetIn as error:
            return self._page(error.detail, "", 403)
        answer = RedirectResponse("/", 303)
        answer.set_cookie(
            COOKIE,
            token,
            max_age=STAYS_S,
            httponly=True,
            samesite="strict",
            secure=scope["scheme"] == "https",
        )
        return answer

    def _page(self, wrong: str, code: str, status: int = 200) -> Response:
        mark = self._network.fingerprint
        told = (
            f"The certificate of this page should be {mark}: compare it with the computer’s."
            if mark
            else UNSAFE_TELLS
        )
        page = PAGE.format(
            wrong=f'<p role="alert"><strong>{html.escape(wrong)}</strong></p>' if wrong else "",
            code=html.escape(code), told=html.escape(told),
        )  # fmt: skip
        # Without a referrer a browser sends no origin with the form either.
        kept = {"Cache-Control": "no-store", "Referrer-Policy": "same-origin"}
        return HTMLResponse(page, status, headers=kept)


PAGE = """<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>Pair this device</title>
<meta name="viewport" content="width=device-width, initial-scale=1">
<style>
:root {{ color-scheme: light dark }}
body {{ font: 18px/1.5 system-ui, sans-serif; max-width: 26rem; margin: 0 auto; padding: 1rem }}
input, button {{ font: inherit; display: block; width: 100%; min-height: 48px; box-sizing: border-box;
  margin: .25rem 0 1rem }}
p.small {{ font-size: 15px; overflow-wrap: anywhere }}
</style></head><body><main>
<h1>Pair this device</h1>
{wrong}
<form method="post" action="/pair">
<label>The six digits that the computer shows
<input name="code" inputmode="numeric" autocomplete="one-time-code" required maxlength="12"
  value="{code}"></label>
<label>A name for this device
<input name="name" maxlength="60" value="Phone"></label>
<button type="submit">Pair</button>
</form>
<p class="small">{told}</p>
</main></body></html>
"""


def _token(headers: Headers) -> str:
    """The token of a request: of a machine in its header, of a browser in its cookie."""
    kind, _, token = headers.get("authorization", "").partition(" ")
    if kind.lower() == "bearer":
        return token.strip()
    try:
        cookie = SimpleCookie(headers.get("cookie", "")).get(COOKIE)
    except CookieError:
        return ""
    return cookie.value if cookie is not None else ""


async def _body(receive: Receive) -> bytes:
    """A form; what is longer than a form can be is cut."""
    found = b""
    while len(found) < MOST_FORM:
        message = await receive()
        found += message.get("body", b"")
        if message["type"] != "http.request" or not message.get("more_body", False):
            break
    return found[:MOST_FORM]
