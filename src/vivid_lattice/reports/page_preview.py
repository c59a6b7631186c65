"""Pages of a PDF as pictures, to be looked at before it is saved: the same on every device."""

from __future__ import annotations

import io
import threading

#: The renderer is not made for several threads at a time.
_ONE_AT_A_TIME = threading.Lock()
PREVIEW_DPI = 110


def page_picture(pdf: bytes, number: int, dpi: int = PREVIEW_DPI) -> bytes:
    """A page (counted from 1) as PNG. Raises IndexError where there is no such page."""
    import pypdfium2

    with _ONE_AT_A_TIME:
        document = pypdfium2.PdfDocument(pdf)
        try:
            if not 1 <= number <= len(document):
                raise IndexError(number)
            image = document[number - 1].render(scale=dpi / 72).to_pil()
        finally:
            document.close()
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()
