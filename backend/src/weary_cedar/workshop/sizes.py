"""How much to buy, worked out piece by piece, so that each piece can be shown and the rest left."""

from weary_cedar.core.advice.size import SizeAsked, Sized, size
from weary_cedar.workshop.derivation import opened

#: So many outages are run at a time.
PIECE = 20


def more(document: str, known: Sized, asked: SizeAsked) -> tuple[Sized, bytes]:
    """Run some more outages of what might be bought, beside those that were run before.

    Returns:
        All that is known now, and what it says as JSON.
    """
    said = size(opened(document).plan, asked, known, PIECE)
    return known, said.model_dump_json().encode()
