"""Photos that come in: read, checked, turned upright, made small; where they were taken is dropped."""

from __future__ import annotations

import io
import warnings
from dataclasses import dataclass
from typing import TYPE_CHECKING

from redframe.core.errors import InvalidInput

if TYPE_CHECKING:
    from PIL import Image

MOST_BYTES = 12_000_000
MOST_PIXELS = 25_000_000
LONGEST_SIDE = 2048
THUMBNAIL_SIDE = 320
QUALITY = 85


@dataclass(frozen=True, slots=True)
class Picture:
    """A photo as it is kept: JPEG without any other data, a thumbnail, and its pixels while they are at hand."""

    width: int
    height: int
    jpeg: bytes
    thumbnail: bytes
    image: Image.Image


def read_picture(content: bytes, longest: int = LONGEST_SIDE) -> Picture:
    """Read a JPEG or PNG file of at most 12 MB and 25 million pixels; its longest side comes to `longest` pixels.

    Drawn again, so that nothing of the file but its pixels is kept. Raises InvalidInput("photo").
    """
    # With the first picture: whoever sends none need not wait for it at the start.
    from PIL import Image, ImageOps, UnidentifiedImageError

    if len(content) > MOST_BYTES:
        raise InvalidInput("photo", f"is larger than {MOST_BYTES // 1_000_000} MB", code="out_of_range")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(content), formats=("JPEG", "PNG")) as opened:
                if opened.width * opened.height > MOST_PIXELS:
                    raise InvalidInput("photo", "has more than 25 million pixels: take it smaller", code="out_of_range")
                upright = ImageOps.exif_transpose(opened).convert("RGB")
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError, Warning) as error:
        if isinstance(error, InvalidInput):
            raise
        raise InvalidInput("photo", "is not a JPEG or PNG picture") from error
    kept = Image.new("RGB", upright.size)
    kept.paste(upright)
    kept.thumbnail((longest, longest))
    small = kept.copy()
    small.thumbnail((THUMBNAIL_SIDE, THUMBNAIL_SIDE))
    return Picture(kept.width, kept.height, _jpeg(kept), _jpeg(small), kept)


def _jpeg(image: Image.Image) -> bytes:
    out = io.BytesIO()
    image.save(out, "JPEG", quality=QUALITY, optimize=True)
    return out.getvalue()
