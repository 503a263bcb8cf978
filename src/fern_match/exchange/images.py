"""Pictures as they are taken in: read, turned upright, made small, stripped of all but their pixels, written as JPEG.

What is kept is always written here, so that nothing of a file somebody sent is ever served again.
"""

import base64
import binascii
import hashlib
import io
import warnings
from dataclasses import dataclass, replace

from PIL import Image, ImageOps, UnidentifiedImageError

from fern_match.core.errors import CoreError
from fern_match.core.match import Match
from fern_match.core.trials import Photo

MOST_UPLOAD_BYTES = 20_000_000
MOST_KEPT_BYTES = 150_000
MOST_OF_A_MATCH_BYTES = 60_000_000
LONGEST_PX = 1200
_FORMATS = ("JPEG", "PNG", "WEBP")
_MOST_PIXELS = {"JPEG": 120_000_000, "PNG": 30_000_000, "WEBP": 30_000_000}  # a JPEG is read at a part of its size
_LONGEST_SIDE = 30_000
_QUALITIES = (84, 74, 62, 48)
_PAPER = (255, 254, 251)  # behind what is transparent
_TRIES = 4


class BadImage(CoreError):
    """A file that is no picture, or none that can be kept."""


@dataclass(frozen=True, slots=True)
class Cleaned:
    """A picture ready to be kept."""

    body: bytes  # JPEG
    width: int
    height: int

    @property
    def hash(self) -> str:
        """Fingerprint of its bytes."""
        return hashlib.sha256(self.body).hexdigest()


def cleaned(raw: bytes) -> Cleaned:
    """A picture as it is kept.

    Args:
        raw: A file of at most 20 MB: JPEG, PNG or WebP.

    Raises:
        BadImage: it is none of them, broken, or larger than can be read.
    """
    if len(raw) > MOST_UPLOAD_BYTES:
        raise BadImage(
            f"The picture is {len(raw) / 1e6:.0f} MB; up to {MOST_UPLOAD_BYTES / 1e6:.0f} MB are taken. Make it smaller."
        )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # Pillow's own limits are looser than ours
            return _small(_read(raw))
    except BadImage:
        raise
    except UnidentifiedImageError:
        raise BadImage("This is no JPEG, PNG or WebP picture, whatever its name says. Nothing was taken.") from None
    except Exception:  # whatever a broken file makes a decoder do
        raise BadImage("The picture is broken and could not be read to its end. Nothing was taken.") from None


def _read(raw: bytes) -> Image.Image:
    image = Image.open(io.BytesIO(raw), formats=_FORMATS)
    width, height = image.size
    most = _MOST_PIXELS[image.format or "PNG"]
    if width * height > most or max(width, height) > _LONGEST_SIDE:
        raise BadImage(
            f"The picture has {width} × {height} pixels; up to {most / 1e6:.0f} million are read. Make it smaller. "
            "Nothing was taken."
        )
    if min(width, height) < 1:
        raise BadImage("The picture has no pixels. Nothing was taken.")
    if image.format == "JPEG":
        image.draft("RGB", (2 * LONGEST_PX, 2 * LONGEST_PX))
    image.load()
    return ImageOps.exif_transpose(image)


def _small(image: Image.Image) -> Cleaned:
    if image.mode in {"RGBA", "LA", "PA"} or "transparency" in image.info:
        own = image.convert("RGBA")
        flat = Image.new("RGB", own.size, _PAPER)
        flat.paste(own, mask=own.getchannel("A"))
    else:
        flat = image.convert("RGB")
    side = LONGEST_PX
    for _ in range(_TRIES):
        small = flat.copy()
        small.thumbnail((side, side))
        for quality in _QUALITIES:
            out = io.BytesIO()
            small.save(out, "JPEG", quality=quality, optimize=True, exif=b"", icc_profile=None)
            if out.tell() <= MOST_KEPT_BYTES:
                return Cleaned(out.getvalue(), *small.size)
        side = side * 3 // 4
    raise BadImage("The picture could not be made small enough to keep. Nothing was taken.")


def with_sound_pictures(match: Match) -> Match:
    """A match from a file, its pictures as they are kept; one that is not as this program writes it is written anew.

    Raises:
        BadImage: a picture is missing or broken, or all together are larger than a match may hold.
    """
    total = 0
    photos = []
    for number, photo in enumerate(match.photos, 1):
        body = _sound(photo, number)
        total += len(body.body)
        data = base64.b64encode(body.body).decode()
        photos.append(replace(photo, image=body.hash, width_px=body.width, height_px=body.height, data=data))
    if total > MOST_OF_A_MATCH_BYTES:
        raise BadImage(
            f"The pictures are {total / 1e6:.0f} MB; one match holds at most {MOST_OF_A_MATCH_BYTES / 1e6:.0f} MB of them."
        )
    return replace(match, photos=tuple(photos)) if photos else match


def _sound(photo: Photo, number: int) -> Cleaned:
    try:
        raw = base64.b64decode(photo.data, validate=True)
    except (binascii.Error, ValueError):
        raise BadImage(f"Picture {number} is not written as it should be.") from None
    if not raw:
        raise BadImage(f"Picture {number} is missing.")
    ours = hashlib.sha256(raw).hexdigest() == photo.image and len(raw) <= MOST_KEPT_BYTES and _is_plain(raw)
    found = cleaned(raw)
    return Cleaned(raw, found.width, found.height) if ours and (found.width, found.height) == _size(raw) else found


def _is_plain(raw: bytes) -> bool:
    """Whether it is a JPEG without anything but its pixels."""
    try:
        with Image.open(io.BytesIO(raw), formats=("JPEG",)) as image:
            return set(image.info) <= {"jfif", "jfif_version", "jfif_unit", "jfif_density", "progressive", "progression"}
    except (UnidentifiedImageError, OSError, ValueError):
        return False


def _size(raw: bytes) -> tuple[int, int]:
    with Image.open(io.BytesIO(raw), formats=("JPEG",)) as image:
        return image.size
