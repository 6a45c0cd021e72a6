"""The bare picture: its bytes without anything that is not needed to draw it.

A place stands in EXIF, in XMP (in one packet or in several, in UTF-8 or UTF-16), in IPTC, in a comment,
behind the end of the picture. So nothing is looked for: what draws the picture stays, everything else goes.
Sources: ITU-T T.81 (JPEG), annex B; PNG (ISO/IEC 15948), 11; WebP container (RFC 9649), 2.
"""

from __future__ import annotations

import io
import struct

from PIL import Image

from config.errors import BadInput

TYPES = {"JPEG": "image/jpeg", "PNG": "image/png", "WEBP": "image/webp"}
MOST_PIXELS = 60_000_000
JFIF, ADOBE = b"JFIF\x00", b"Adobe"  # density, and the colour transform without which colours are wrong
JFIF_LENGTH = 16  # without its thumbnail
PNG_START = b"\x89PNG\r\n\x1a\n"
PNG_KEPT = (b"IHDR", b"PLTE", b"tRNS", b"gAMA", b"cHRM", b"sRGB", b"IDAT", b"IEND")
WEBP_KEPT = (b"VP8 ", b"VP8L", b"VP8X", b"ALPH")
WEBP_ALPHA = 0x10  # of the flags of VP8X the only one whose chunk stays
UNREADABLE = BadInput("photo", "unreadable", "a JPEG, PNG or WebP picture")


class _Broken(ValueError):
    """The file does not follow its format."""


def media_type(data: bytes) -> str:
    """The media type of a picture that can be drawn. Raises BadInput."""
    try:
        with Image.open(io.BytesIO(data)) as picture:
            found, pixels, frames = picture.format or "", picture.width * picture.height, _frames(picture)
        with Image.open(io.BytesIO(data)) as picture:
            picture.verify()
    except Exception:  # whatever a reader of strangers' bytes trips over
        raise UNREADABLE from None
    if found not in TYPES or pixels > MOST_PIXELS or frames > 1:
        allowed = f"JPEG, PNG or WebP, one picture of at most {MOST_PIXELS} pixels"
        raise BadInput("photo", f"{found}, {pixels} pixels, {frames} pictures", allowed)
    return TYPES[found]


def _frames(picture: Image.Image) -> int:
    return int(getattr(picture, "n_frames", 1))


def stripped(data: bytes) -> bytes:
    """The bare picture; of a bare one the same bytes. Raises BadInput for a file that breaks its format."""
    try:
        if data.startswith(b"\xff\xd8"):
            return _jpeg(data)
        if data.startswith(PNG_START):
            return _png(data)
        if data[:4] == b"RIFF" and data[8:12] == b"WEBP":
            return _webp(data)
    except (_Broken, IndexError, struct.error):
        pass
    raise UNREADABLE


def _jpeg(data: bytes) -> bytes:
    out, at = [b"\xff\xd8"], 2
    while True:
        if data[at] != 0xFF:
            raise _Broken
        while data[at] == 0xFF:  # fill bytes may stand before a marker
            at += 1
        marker = data[at]
        at += 1
        if marker == 0xD9:
            return b"".join([*out, b"\xff\xd9"])
        (length,) = struct.unpack_from(">H", data, at)
        body = data[at + 2 : at + length]
        if length < 2 or len(body) != length - 2:
            raise _Broken
        at += length
        out.append(_segment(marker, body))
        if marker == 0xDA:
            ends = _scan_ends(data, at)
            out.append(data[at:ends])
            at = ends


def _segment(marker: int, body: bytes) -> bytes:
    """A segment that draws the picture; of an APPn or a comment nothing but JFIF and Adobe."""
    if marker == 0xE0 and body.startswith(JFIF):
        body = body[: JFIF_LENGTH - 4] + b"\x00\x00"
    elif marker == 0xFE or (0xE0 <= marker <= 0xEF and not (marker == 0xEE and body.startswith(ADOBE))):
        return b""
    return bytes([0xFF, marker]) + struct.pack(">H", len(body) + 2) + body


def _scan_ends(data: bytes, at: int) -> int:
    """Where the entropy-coded data of a scan ends: at the next marker that is neither stuffed nor a
    restart.
    """
    while True:
        at = data.find(b"\xff", at)
        if at < 0 or at + 1 >= len(data):
            raise _Broken
        if data[at + 1] != 0x00 and not 0xD0 <= data[at + 1] <= 0xD7:
            return at
        at += 2


def _png(data: bytes) -> bytes:
    out, at = [PNG_START], len(PNG_START)
    while True:
        (length,) = struct.unpack_from(">I", data, at)
        kind, whole = data[at + 4 : at + 8], data[at : at + 12 + length]
        if len(whole) != 12 + length:
            raise _Broken
        at += len(whole)
        if kind in PNG_KEPT:
            out.append(whole)
        if kind == b"IEND":
            return b"".join(out)


def _webp(data: bytes) -> bytes:
    (size,) = struct.unpack_from("<I", data, 4)
    ends, at = 8 + size, 12
    if ends > len(data):
        raise _Broken
    out = []
    while at < ends:
        (length,) = struct.unpack_from("<I", data, at + 4)
        kind, body = data[at : at + 4], data[at + 8 : at + 8 + length]
        if len(body) != length:
            raise _Broken
        at += 8 + length + length % 2
        if kind == b"VP8X":
            body = bytes([body[0] & WEBP_ALPHA]) + body[1:]
        if kind in WEBP_KEPT:
            out.append(kind + struct.pack("<I", length) + body + b"\x00" * (length % 2))
    held = b"WEBP" + b"".join(out)
    return b"RIFF" + struct.pack("<I", len(held)) + held
