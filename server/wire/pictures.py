"""Pictures of runs and steps: PNG, JPEG and WebP, drawn anew so that the picture alone is kept: no place, no camera."""

import hashlib
import io
import warnings
from dataclasses import dataclass
from typing import Final

from PIL import Image, ImageOps, UnidentifiedImageError

from wire.faults import ApiFault

MAX_BYTES: Final = 8 * 2**20
MAX_PIXELS: Final = 50_000_000
#: the longest side that is kept: a page wide on a good screen, twice over
LONGEST: Final = 3000
FORMATS: Final = {"PNG": "image/png", "JPEG": "image/jpeg", "WEBP": "image/webp"}
ALLOWED: Final = f"PNG, JPEG or WebP of up to {MAX_BYTES // 2**20} MB and {MAX_PIXELS // 1_000_000} million pixels"


@dataclass(frozen=True)
class Drawn:
    """A picture as it is kept: bytes, media type, size in pixels, SHA-256 of the bytes."""

    content: bytes
    media_type: str
    width: int
    height: int

    @property
    def sha256(self) -> str:
        return hashlib.sha256(self.content).hexdigest()


def must_not_be_larger(size: int | None) -> None:
    """ApiFault where a file has more bytes than a picture may have; asked before it is read."""
    if (size or 0) > MAX_BYTES:
        raise ApiFault(413, "file", f"{(size or 0) / 2**20:.1f} MB", ALLOWED)


def drawn_anew(content: bytes) -> Drawn:
    """A picture without what a camera wrote beside it, upright; ApiFault where it is none or too large."""
    must_not_be_larger(len(content))
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            return _drawn(content)
    except (
        UnidentifiedImageError,
        Image.DecompressionBombError,
        Image.DecompressionBombWarning,
        OSError,
        ValueError,
        SyntaxError,
    ):
        raise ApiFault(422, "file", "is no picture that can be read, or a damaged one", ALLOWED) from None


def must_be_bare(content: bytes, sha256: str) -> None:
    """ApiFault where a picture that came in an archive is another one, or holds more than a picture."""
    if hashlib.sha256(content).hexdigest() != sha256:
        raise ApiFault(422, "pictures", "another picture than the archive names", sha256)
    drawn_anew(content)
    with Image.open(io.BytesIO(content)) as picture:
        beside = [key for key in picture.info if key in _BESIDE]
    if beside:
        raise ApiFault(422, "pictures", f"a picture with {', '.join(beside)} beside it", "pictures that Krill has kept")


def as_kept(content: bytes) -> Drawn:
    """A picture that Krill has drawn before, as it is."""
    with Image.open(io.BytesIO(content), formats=list(FORMATS)) as picture:
        return Drawn(content, FORMATS[str(picture.format)], picture.width, picture.height)


#: what files of pictures hold beside the picture
_BESIDE: Final = (
    "exif",
    "xmp",
    "XML:com.adobe.xmp",
    "comment",
    "icc_profile",
    "photoshop",
    "Comment",
    "Raw profile type exif",
)


def _drawn(content: bytes) -> Drawn:
    with Image.open(io.BytesIO(content), formats=list(FORMATS)) as picture:
        kind = str(picture.format)
        if picture.width * picture.height > MAX_PIXELS:
            raise ApiFault(413, "file", f"{picture.width} × {picture.height} pixels", ALLOWED)
        upright = ImageOps.exif_transpose(picture)
        upright.thumbnail((LONGEST, LONGEST))
        bare = upright.convert("RGB" if kind == "JPEG" or not _has_alpha(upright) else "RGBA")
        out = io.BytesIO()
        # a new image of the pixels alone: what stood beside them in the file is not copied
        Image.frombytes(bare.mode, bare.size, bare.tobytes()).save(out, format=kind, quality=88)
        return Drawn(out.getvalue(), FORMATS[kind], bare.width, bare.height)


def _has_alpha(picture: Image.Image) -> bool:
    return "A" in picture.getbands() or "transparency" in picture.info
