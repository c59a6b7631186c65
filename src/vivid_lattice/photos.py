"""Photos as they are kept: decoded, turned upright, made small enough and encoded again, so that nothing of the file remains
but the picture (no place, no time, no camera, nothing hidden behind it)."""

from __future__ import annotations

import io
import warnings
from dataclasses import dataclass

from PIL import Image, ImageOps, UnidentifiedImageError

from vivid_lattice.core.errors import MessageError
from vivid_lattice.core.messages import message

#: Longest side that is kept, and that of the small one beside it [px].
LONGEST_PX, SMALL_PX = 1600, 240
#: A picture of more pixels than this is not decoded: it would fill the memory.
#: Photos that one job may have.
MAX_OF_A_JOB = 200
MAX_PIXELS = 60_000_000
MAX_BYTES = 12 * 1024 * 1024
_KINDS = ("JPEG", "PNG", "WEBP")
_QUALITY = 82


class NotAPicture(MessageError):
    """What was sent is no picture that can be kept; the sentence says why, and what to send instead."""


@dataclass(frozen=True, slots=True)
class Picture:
    """A picture as it is kept, as JPEG, and a small one of it."""

    width: int
    height: int
    image: bytes
    small: bytes


def encoded_photo(raw: bytes) -> Picture:
    """A picture from the bytes of a JPEG, PNG or WebP file.

    Raises  NotAPicture where it is something else, damaged, empty or too large
    """
    if not raw:
        raise NotAPicture(message(None, "photo.empty"))
    if len(raw) > MAX_BYTES:
        raise NotAPicture(message(None, "photo.large", n=str(MAX_BYTES // 1024 // 1024)))
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(raw), formats=_KINDS) as opened:
                if opened.width * opened.height > MAX_PIXELS:
                    raise NotAPicture(message(None, "photo.pixels", w=str(opened.width), h=str(opened.height)))
                upright = ImageOps.exif_transpose(opened).convert("RGB")
    except (UnidentifiedImageError, Image.DecompressionBombError, Image.DecompressionBombWarning):
        raise NotAPicture(message(None, "photo.format")) from None
    except (OSError, SyntaxError, ValueError) as why:
        raise NotAPicture(message(None, "photo.damaged", why=str(why))) from None
    upright.thumbnail((LONGEST_PX, LONGEST_PX))
    small = upright.copy()
    small.thumbnail((SMALL_PX, SMALL_PX))
    return Picture(upright.width, upright.height, _encoded(upright), _encoded(small))


def unchanged_photo(image: bytes, small: bytes) -> Picture | None:
    """A photo that was written by this program, byte for byte; None where it is anything else, and must be encoded again.

    Raises  NotAPicture where one of the two is no picture at all
    """
    if not all(raw.startswith(b"\xff\xd8") and _is_bare(raw) for raw in (image, small)):
        return None
    sizes = []
    for raw, most in ((image, LONGEST_PX), (small, SMALL_PX)):
        try:
            with Image.open(io.BytesIO(raw), formats=("JPEG",)) as opened:
                if max(opened.size) > most:
                    return None
                opened.load()
                sizes.append(opened.size)
        except (UnidentifiedImageError, Image.DecompressionBombError, OSError, SyntaxError, ValueError) as why:
            raise NotAPicture(message(None, "photo.damaged", why=str(why))) from None
    return Picture(*sizes[0], image, small)


def _is_bare(raw: bytes) -> bool:
    """Whether a JPEG holds nothing beside its picture: no part of an application's own but the plain head, no comment, nothing
    behind its end."""
    at = 2
    while at + 4 <= len(raw) and raw[at] == 0xFF:
        marker, length = raw[at + 1], int.from_bytes(raw[at + 2 : at + 4])
        if marker == 0xDA:
            return raw.rstrip(b"\0").endswith(b"\xff\xd9") and raw.count(b"\xff\xd9") == 1
        if 0xE1 <= marker <= 0xEF or marker == 0xFE:
            return False
        at += 2 + length
    return False


def _encoded(image: Image.Image) -> bytes:
    """The picture as JPEG. A fresh image holds the pixels alone, so that no metadata is carried along."""
    fresh = Image.new("RGB", image.size)
    fresh.paste(image)
    out = io.BytesIO()
    fresh.save(out, "JPEG", quality=_QUALITY)
    return out.getvalue()
