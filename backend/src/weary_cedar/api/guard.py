"""Keeps strangers out of a server on this machine: host, origin, size and content policy."""

from collections.abc import Iterable

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from weary_cedar.api.errors import problem_response

#: Largest body that is read, bytes.
MOST_BYTES = 10 * 1024 * 1024
#: Series of meters are larger: a week at one second.
MOST_METER_BYTES = 64 * 1024 * 1024
METER_PATHS = ("/api/meter/",)
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


class Guard:
    """ASGI middleware: refuses foreign hosts and origins and large bodies, adds security headers."""

    def __init__(self, app: ASGIApp, names: Iterable[str] = LOCAL_NAMES) -> None:
        self._app = app
        self._names = tuple(names)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Check, then pass on."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        most = MOST_METER_BYTES if scope["path"].startswith(METER_PATHS) else MOST_BYTES
        refusal = self._refusal(scope["method"], headers, most)
        if refusal is not None:
            await refusal(scope, receive, _with_headers(send))
            return
        started = False
        read = 0

        async def counted() -> Message:
            nonlocal read
            message = await receive()
            read += len(message.get("body", b""))
            if read > most:
                raise TooLarge
            return message

        async def noted(message: Message) -> None:
            nonlocal started
            started = started or message["type"] == "http.response.start"
            await send(message)

        try:
            await self._app(scope, counted, _with_headers(noted))
        except TooLarge:
            if not started:
                await _too_large(most)(scope, receive, _with_headers(send))

    def _refusal(self, method: str, headers: Headers, most: int) -> ASGIApp | None:
        host = headers.get("host", "")
        if _name(host) not in self._names:
            return problem_response(
                421, "Not for this host", f"This server answers only on 127.0.0.1, not on “{host}”."
            )
        if method not in SAFE_METHODS and not self._same_origin(headers, host):
            return problem_response(
                403, "From another site", "Writes are taken only from this app's own pages."
            )
        length = headers.get("content-length", "0")
        if length.isdigit() and int(length) > most:
            return _too_large(most)
        return None

    @staticmethod
    def _same_origin(headers: Headers, host: str) -> bool:
        if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
            return False
        origin = headers.get("origin")
        return origin is None or origin in (f"http://{host}", f"https://{host}")


def _name(host: str) -> str:
    return host.rsplit(":", 1)[0] if not host.endswith("]") else host


def _too_large(most: int) -> ASGIApp:
    return problem_response(413, "Too large", f"At most {most // 1024 // 1024} MB are taken.")


def _with_headers(send: Send) -> Send:
    async def sending(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in HEADERS.items():
                headers.setdefault(name, value)
        await send(message)

    return sending
