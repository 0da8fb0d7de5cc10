"""The text of a log's bytes: gzip or not, in the encodings that loggers write."""

import gzip
import io
import zlib
from typing import Final

from krill.errors import LogRefused
from krill.logs import limits

#: signs that stand in no text: Krill parts cells by one of them
_NO_TEXT: Final = dict.fromkeys((*range(9), 11, 12, *range(14, 32)), " ")
_MARKS: Final = ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16"))
#: letters of Polish in the code page of Central Europe; in the Western one the same bytes are rare signs
_CENTRAL: Final = b"\xb3\xb9\xe6\xea\xf1\x9c\x9f\xbf\xa3\x8c\x8f\xaf"
_WESTERN: Final = b"\xe0\xe8\xe9\xe1\xfc\xf6\xe4\xdf\xe7\xea\xf1\xfb\xee\xf4\xdc\xd6\xc4\xc9"


def text_of(data: bytes) -> tuple[str, str]:
    """The text of a file and its encoding; LogRefused where it is too large, damaged or no text."""
    limits.must_be_small(len(data))
    text, encoding = _decoded(_unpacked(data))
    return text.translate(_NO_TEXT), encoding


def _unpacked(data: bytes) -> bytes:
    if data[:2] != b"\x1f\x8b":
        return data
    try:
        with gzip.open(io.BytesIO(data)) as stream:
            unpacked = stream.read(limits.MAX_UNPACKED + 1)
    except (OSError, EOFError, zlib.error) as error:
        raise LogRefused(f"the gzip file is damaged: {error}") from None
    limits.must_unpack_to_little(len(unpacked))
    return unpacked


def _decoded(data: bytes) -> tuple[str, str]:
    for mark, encoding in _MARKS:
        if data.startswith(mark):
            return data.decode(encoding, errors="replace"), encoding
    head = data[:4096]
    if head.count(0) > len(head) // 4 and head[1:2] == b"\x00":
        return data.decode("utf-16-le", errors="replace"), "utf-16-le"
    if b"\x00" in head:
        raise LogRefused("the file is binary; a log is text with a header and rows of figures")
    try:
        return data.decode("utf-8"), "utf-8"
    except UnicodeDecodeError:
        encoding = _code_page(head + data[-4096:])
        return data.decode(encoding, errors="replace"), encoding


def _code_page(part: bytes) -> str:
    """Western or Central European, by whose letters stand inside words."""
    inside = [
        part[i]
        for i in range(1, len(part) - 1)
        if part[i] > 0x7F and (part[i - 1 : i].isalpha() or part[i + 1 : i + 2].isalpha())
    ]
    central = sum(byte in _CENTRAL and byte not in _WESTERN for byte in inside)
    western = sum(byte in _WESTERN and byte not in _CENTRAL for byte in inside)
    return "cp1250" if central > western else "cp1252"
