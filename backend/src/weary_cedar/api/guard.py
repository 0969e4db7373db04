"""Keeps strangers out of a server on this machine: host, origin, size and content policy.

It also knows whether the one who asked is still there, and answers where everything else has failed.
"""

import asyncio
import traceback
from collections.abc import Iterable

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from weary_cedar.api.desk import noted
from weary_cedar.api.errors import problem_response
from weary_cedar.api.lanes import VISIT, Visit

#: Largest body that is read, bytes: small ones, plan documents, and series of meters (a week at one second).
MOST_BYTES = 1024 * 1024
MOST_PLAN_BYTES = 10 * MOST_BYTES
MOST_METER_BYTES = 64 * MOST_BYTES
METER_PATHS = ("/api/meter/",)
PLAN_PATHS = ("/api/plans/", "/api/run", "/api/check")
#: More requests than this at once are turned away.
MOST_AT_ONCE = 160
LOCAL_NAMES = ("127.0.0.1", "localhost", "[::1]")
SAFE_METHODS = ("GET", "HEAD", "OPTIONS")

HEADERS = {
    "Content-Security-Policy": (
        "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; "
        "font-src 'self'; connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; "
        "frame-ancestors 'none'"
    ),
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
}


class TooLarge(Exception):
    """The body went over the limit while it was read."""


class Body:
    """The body of a request as the app receives it: counted; after its end the visitor is watched."""

    def __init__(self, receive: Receive, most: int, visit: Visit) -> None:
        self._receive = receive
        self._most = most
        self._visit = visit
        self._read = 0
        self._held: Message | None = None
        self._watch: asyncio.Task[Message] | None = None
        self.too_large = False

    async def expect_none(self) -> None:
        """Read the end of a body that is empty, so that the visitor is watched from the beginning."""
        self._held = await self()

    async def __call__(self) -> Message:
        """The next message of the request."""
        if self._held is not None:
            held, self._held = self._held, None
            return held
        if self._watch is not None:
            return await self._watch
        message = await self._receive()
        self._read += len(message.get("body", b""))
        if self._read > self._most:
            self.too_large = True
            raise TooLarge
        if message["type"] == "http.disconnect":
            self._visit.leave()
        elif not message.get("more_body", False):
            self._watch = asyncio.create_task(self._await_leaving())
        return message

    async def _await_leaving(self) -> Message:
        message = await self._receive()
        if message["type"] == "http.disconnect":
            self._visit.leave()
        return message

    def forget(self) -> None:
        """The answer is sent: nobody is watched any more."""
        if self._watch is not None:
            self._watch.cancel()


class Guard:
    """ASGI middleware: refuses foreign hosts and origins and large bodies, adds security headers."""

    def __init__(self, app: ASGIApp, names: Iterable[str] = LOCAL_NAMES) -> None:
        self._app = app
        self._names = tuple(names)
        self._inside = 0

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Check, then pass on."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        most = _most_of(scope["path"])
        answer = _with_headers(send)
        if scope["method"] == "HEAD":
            scope = {**scope, "method": "GET"}
            answer = _without_body(answer)
        refusal = self._refusal(scope, headers, most)
        if refusal is not None:
            await refusal(scope, receive, answer)
            return
        self._inside += 1
        try:
            await self._pass_on(scope, receive, answer, most)
        finally:
            self._inside -= 1

    async def _pass_on(self, scope: Scope, receive: Receive, send: Send, most: int) -> None:
        visit = Visit()
        body = Body(receive, most, visit)
        started = False

        async def kept(message: Message) -> None:
            """What the app sends, unless its body was too large: then it does not know."""
            nonlocal started
            if not body.too_large:
                started = started or message["type"] == "http.response.start"
                await send(message)

        token = VISIT.set(visit)
        try:
            if scope["method"] in SAFE_METHODS:
                await body.expect_none()
            await self._app(scope, body, kept)
        except TooLarge:
            pass
        except Exception as error:
            fault = noted("".join(traceback.format_exception(error)))
            if not started:
                await _failed(fault)(scope, receive, send)
        finally:
            VISIT.reset(token)
            body.forget()
        if body.too_large and not started:
            await _too_large(most)(scope, receive, send)

    def _refusal(self, scope: Scope, headers: Headers, most: int) -> ASGIApp | None:
        host = headers.get("host", "")
        if "weary_cedar.caller" not in scope and _name(host) not in self._names:
            return problem_response(
                421, "Not for this host", f"This server answers only on 127.0.0.1, not on “{host}”."
            )
        own = f"{scope.get('scheme', 'http')}://{host}"
        if scope["method"] not in SAFE_METHODS and not same_origin(headers, own):
            return problem_response(
                403, "From another site", "Writes are taken only from this app's own pages."
            )
        length = headers.get("content-length", "0")
        if length.isdigit() and (len(length) > 15 or int(length) > most):
            return _too_large(most)
        if self._inside >= MOST_AT_ONCE:
            return problem_response(503, "Busy just now", "Too much is asked at once; ask again in a moment.")
        return None


def same_origin(headers: Headers, own: str) -> bool:
    """Whether a request comes from a page of an origin, or from no page at all."""
    if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
        return False
    origin = headers.get("origin")
    return origin is None or origin == own


def _most_of(path: str) -> int:
    if path.startswith(METER_PATHS):
        return MOST_METER_BYTES
    return MOST_PLAN_BYTES if path.startswith(PLAN_PATHS) else MOST_BYTES


def _name(host: str) -> str:
    return host.rsplit(":", 1)[0] if not host.endswith("]") else host


def _too_large(most: int) -> ASGIApp:
    return problem_response(413, "Too large", f"At most {most // 1024 // 1024} MB are taken.")


def _failed(fault: str) -> ASGIApp:
    detail = f"A fault of this program, in the log as {fault}. What was saved before is kept."
    return problem_response(500, "A fault of this program", detail, fault=fault)


def _with_headers(send: Send) -> Send:
    async def sending(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in HEADERS.items():
                headers.setdefault(name, value)
        await send(message)

    return sending


def _without_body(send: Send) -> Send:
    """Answers to HEAD: the headers of GET, no body."""

    async def sending(message: Message) -> None:
        if message["type"] == "http.response.body":
            message = {**message, "body": b""}
        await send(message)

    return sending
