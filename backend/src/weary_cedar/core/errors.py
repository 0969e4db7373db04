"""Everything that can go wrong with what a person gives us, as one tree with fields."""

import json
from collections.abc import Iterator, Mapping
from dataclasses import dataclass


@dataclass(frozen=True)
class Problem:
    """One thing that is wrong: where (JSON pointer), what was given, what would be right."""

    field: str
    value: str
    right: str

    def __str__(self) -> str:
        return f"{self.field}: got {self.value}; {self.right}"


def shown(value: object) -> str:
    """A value that somebody gave, short enough for an error."""
    if value is None:
        return "nothing"
    if isinstance(value, bytes):
        text = value[:240].decode("utf-8", "replace")
    elif isinstance(value, str):
        text = json.dumps(value[:80])
    else:
        text = json.dumps(value, default=str)
    return text if len(text) <= 60 else text[:57] + "…"


def missing(field: str, key: str | None, known: Mapping[str, object], noun: str) -> Iterator[Problem]:
    """A reference to a part that there is not, as a problem."""
    if key is not None and key not in known:
        article = "an" if noun[0] in "aeiouA" else "a"
        whose = "" if " of that " in noun else " of this plan"
        yield Problem(field, shown(key), f"should be {article} {noun}{whose}")


class WearyCedarError(Exception):
    """Root of the tree. `title` is the kind in a few words, `problems` the particulars."""

    title = "Something is wrong"

    def __init__(self, detail: str, problems: tuple[Problem, ...] = ()) -> None:
        super().__init__(detail)
        self.detail = detail
        self.problems = problems


class InvalidInput(WearyCedarError):
    """Input that cannot be read or used; nothing was stored."""

    title = "This cannot be used as it is"


class NotReadable(InvalidInput):
    """The text is not what it claims to be, for example not JSON."""

    title = "This cannot be read"


class InvalidPlan(InvalidInput):
    """A plan document with wrong fields, or parts that contradict each other."""

    title = "The plan has something wrong in it"


class UnknownSchemaVersion(InvalidPlan):
    """A plan file of a version that this program does not know."""

    title = "This plan is of an unknown version"


class BooksOpen(RuntimeError):
    """Energy came from nowhere or went nowhere in a run: a fault of this program, and no result."""


class RunTooLong(InvalidPlan):
    """A run that would change more often than is counted, or that does not advance."""

    title = "This outage is too much to run"


class SheetFailed(InvalidInput):
    """A sheet of a stored plan that could not be made; the others can."""

    title = "This sheet cannot be made"


class CannotOpen(InvalidPlan):
    """A stored plan that cannot be opened; `stored` says where it stands, so that it can be mended."""

    title = "This plan cannot be opened"

    def __init__(
        self, detail: str, problems: tuple[Problem, ...] = (), stored: Mapping[str, object] | None = None
    ) -> None:
        super().__init__(detail, problems)
        self.stored = stored or {}


class TookTooLong(InvalidInput):
    """An answer that took longer, or more memory, than one may."""

    title = "This takes too long to work out"


class CannotDerive(InvalidInput):
    """An edit after which some sheet of the plan could not be made; nothing was stored."""

    title = "After this edit the plan could not be shown"


class NotFound(WearyCedarError):
    """No such plan or revision."""

    title = "Not found"


class EditConflict(WearyCedarError):
    """Someone else saved a change to the same part first; both versions are in `theirs`/`yours`."""

    title = "Someone else changed the same thing"

    def __init__(
        self,
        detail: str,
        problems: tuple[Problem, ...] = (),
        revision: int = 0,
        clashes: list[dict[str, object]] | None = None,
    ) -> None:
        super().__init__(detail, problems)
        self.revision = revision
        self.clashes = clashes or []


class RevisionMissing(WearyCedarError):
    """A write that does not say which revision it was made on."""

    title = "The edit does not say what it was made on"


class NothingToUndo(WearyCedarError):
    """Undo or redo at the end of the line."""

    title = "There is nothing there"


class Busy(WearyCedarError):
    """Too much is asked at once, or another program holds the database; ask again."""

    title = "Busy just now"


class CannotRead(WearyCedarError):
    """The database cannot be read."""

    title = "It could not be read"


class CannotStore(WearyCedarError):
    """The data folder refuses: disk full, damaged database, or used by another program."""

    title = "It could not be saved"
