"""Pages of a PDF as pictures, to be looked at before it is saved: the same on every device."""

from __future__ import annotations

import io
import threading

#: The renderer crashes the process where two threads are in it: whoever reads a PDF in this process holds this.
ONE_AT_A_TIME = threading.RLock()
PREVIEW_DPI = 110


def page_picture(pdf: bytes, number: int, dpi: int = PREVIEW_DPI) -> bytes:
    """A page (counted from 1) as PNG. Raises IndexError where there is no such page."""
    import pypdfium2

    with ONE_AT_A_TIME:
        document = pypdfium2.PdfDocument(pdf)
        try:
            if not 1 <= number <= len(document):
                raise IndexError(number)
            bitmap = document[number - 1].render(scale=dpi / 72)
            # A copy: the picture would hold on to the renderer's memory and free it later, outside of this block.
            image = bitmap.to_pil().copy()
            bitmap.close()
        finally:
            document.close()
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()
