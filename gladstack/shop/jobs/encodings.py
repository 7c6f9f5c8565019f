"""The text of a file whose encoding nobody tells: known by its bytes, else guessed, with all that it may read as.

The guess is charset-normalizer's; only encodings that makers' spreadsheets write are looked at.
"""

from __future__ import annotations

from dataclasses import dataclass

_NAMED = {
    "cp1252": "Western Europe (Windows)",
    "cp1250": "Central Europe (Windows)",
    "cp1251": "Cyrillic (Windows)",
    "koi8_r": "Cyrillic (KOI8-R)",
    "koi8_u": "Cyrillic (KOI8-U)",
    "cp1253": "Greek (Windows)",
    "cp1254": "Turkish (Windows)",
    "cp1255": "Hebrew (Windows)",
    "cp1256": "Arabic (Windows)",
    "cp932": "Japanese (Shift-JIS)",
    "euc_jp": "Japanese (EUC)",
    "gb18030": "Chinese (GB 18030)",
    "big5": "Chinese (Big5)",
    "cp949": "Korean (Windows)",
    "mac_roman": "Western Europe (Mac)",
}
_MARKS = ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16"))
_LOOKED_AT = 50_000
_ACCENTED = ("cp1252", "cp1250", "cp1254", "mac_roman")
_FEW = 0.35


@dataclass(frozen=True)
class Reading:
    """A file read in one encoding, and what that is called."""

    encoding: str
    name: str
    text: str


def readings(data: bytes) -> list[Reading]:
    """All that a file may read as, the likeliest first; just one where its encoding is known."""
    for mark, encoding in _MARKS:
        if data.startswith(mark):
            return [Reading(encoding, encoding.removesuffix("-sig").upper(), data.decode(encoding, errors="replace"))]
    if (wide := _wide(data)) is not None:
        return [Reading(wide, "UTF-16", data.decode(wide, errors="replace"))]
    try:
        return [Reading("utf-8", "UTF-8", data.decode("utf-8"))]
    except UnicodeDecodeError:
        pass
    out: list[Reading] = []
    # A few odd letters among many plain ones are accents; other scripts have hardly any plain ones.
    letters = [byte for byte in data if byte > 127 or chr(byte).isalpha()]
    accents = _ACCENTED if sum(byte > 127 for byte in letters) < _FEW * len(letters) else ()
    for encoding in dict.fromkeys([*accents, *_likely(data), *_NAMED]):
        text = _strictly(data, encoding)
        # Two encodings that read alike need not both be offered.
        if text is not None and all(text != other.text for other in out):
            out.append(Reading(encoding, _NAMED[encoding], text))
    return out or [Reading("cp1252", _NAMED["cp1252"], data.decode("cp1252", errors="replace"))]


def _wide(data: bytes) -> str | None:
    """UTF-16 without a mark: every other byte of most lists is nothing."""
    if len(data) < 4 or len(data) % 2:
        return None
    even, odd = data[::2].count(0), data[1::2].count(0)
    half = len(data) // 2
    if odd > 0.3 * half and even == 0:
        return "utf-16-le"
    return "utf-16-be" if even > 0.3 * half and odd == 0 else None


def _likely(data: bytes) -> list[str]:
    # It takes a while to load, and most lists are UTF-8.
    from charset_normalizer import from_bytes

    return [match.encoding for match in from_bytes(data[:_LOOKED_AT], cp_isolation=list(_NAMED)) if match.encoding in _NAMED]


def _strictly(data: bytes, encoding: str) -> str | None:
    """The text, if every byte of it means something and it holds no control characters."""
    try:
        text = data.decode(encoding)
    except UnicodeDecodeError:
        return None
    strange = any((ord(c) < 32 and c not in "\t\r\n") or 0x7F <= ord(c) < 0xA0 or 0xE000 <= ord(c) < 0xF900 for c in text)
    return None if strange else text
