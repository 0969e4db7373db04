"""Codes that a phone reads: the dark squares of a text, row by row."""

from reportlab.graphics.barcode.qrencoder import QRCode, QRErrorCorrectLevel


def code_rows(text: str) -> list[list[bool]]:
    """Squares of a code, from the top; true is dark.

    Args:
        text: what it says.
    """
    code = QRCode(None, QRErrorCorrectLevel.M)
    code.addData(text)
    code.make()
    return [[bool(dark) for dark in row] for row in code.modules]
