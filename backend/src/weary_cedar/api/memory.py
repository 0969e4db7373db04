"""What was worked out and is remembered: by what a document holds, so it is never out of date."""

import hashlib
from collections import OrderedDict
from collections.abc import Callable
from threading import Condition
from typing import Protocol

from weary_cedar.workshop.derivation import Derivation

#: Sheets are remembered up to so many bytes; the newest always.
MOST_BYTES = 96 * 1024 * 1024
#: So many answers that come in pieces are remembered.
MOST_WORKED = 12


class Worked(Protocol):
    """How far an answer is that comes in pieces."""

    @property
    def done(self) -> int:
        """How many outages were run for it."""


class Memory:
    """Sheets of documents, and how far answers are that come in pieces."""

    def __init__(self) -> None:
        self._known: OrderedDict[str, Derivation] = OrderedDict()
        self._underway: set[str] = set()
        self._worked: OrderedDict[str, Worked] = OrderedDict()
        self._changed = Condition()

    def derivation(self, document: str, make: Callable[[], Derivation]) -> Derivation:
        """All sheets of a document; made once however many ask at the same time."""
        key = key_of(document)
        with self._changed:
            self._changed.wait_for(lambda: key not in self._underway)
            if key in self._known:
                self._known.move_to_end(key)
                return self._known[key]
            self._underway.add(key)
        try:
            found = make()
            self.remember(document, found)
            return found
        finally:
            with self._changed:
                self._underway.discard(key)
                self._changed.notify_all()

    def remember(self, document: str, found: Derivation) -> None:
        """Keep the sheets of a document; the oldest go where there are too many."""
        with self._changed:
            self._known[key_of(document)] = found
            self._known.move_to_end(key_of(document))
            while len(self._known) > 1 and sum(item.size for item in self._known.values()) > MOST_BYTES:
                self._known.popitem(last=False)

    def worked(self, key: str, first: Worked) -> Worked:
        """How far an answer is; where it was never asked, its beginning."""
        with self._changed:
            return self._worked.get(key, first)

    def remember_worked(self, key: str, more: Worked) -> None:
        """Keep how far an answer is, unless it is further already."""
        with self._changed:
            known = self._worked.get(key)
            if known is None or more.done > known.done:
                self._worked[key] = more
                self._worked.move_to_end(key)
            while len(self._worked) > MOST_WORKED:
                self._worked.popitem(last=False)


def key_of(document: str) -> str:
    """What a document is remembered by."""
    return hashlib.blake2b(document.encode(), digest_size=16).hexdigest()
