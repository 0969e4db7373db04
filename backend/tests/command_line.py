"""The command line in this process: the same main, what it writes and how it ends."""

import io
import sys
from dataclasses import dataclass
from unittest.mock import patch

from weary_cedar.cli import main


@dataclass(frozen=True)
class Done:
    """How a command ended."""

    returncode: int
    stdout: str
    stderr: str


def cedar(*arguments: str, given: str = "") -> Done:
    """Run one command; `given` is what comes on standard input."""
    streams = [io.TextIOWrapper(io.BytesIO(text.encode()), "utf-8") for text in (given, "", "")]
    came, out, told = streams
    code: object = 0
    with (
        patch.object(sys, "argv", ["weary-cedar", *arguments]),
        patch.object(sys, "stdin", came),
        patch.object(sys, "stdout", out),
        patch.object(sys, "stderr", told),
    ):
        try:
            main()
        except SystemExit as ended:
            code = ended.code
        out.flush()
        told.flush()
    texts = [stream.buffer.getvalue().decode() for stream in (out, told)]
    return Done(code if isinstance(code, int) else 0 if code is None else 1, *texts)
