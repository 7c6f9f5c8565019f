"""Text that every reader can read: without the characters that XML does not allow."""

from __future__ import annotations

import re

_UNREADABLE = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff\ufdd0-\ufdef\ufffe\uffff]")
"""Control characters, halves of surrogate pairs, and code points that are no characters (XML 1.0, production 2)."""


def readable(text: str) -> str:
    """The text without characters that files cannot hold; tabs and line ends stay."""
    return _UNREADABLE.sub("", text)


def readable_line(text: str) -> str:
    """The same as one line: tabs and line ends become spaces."""
    return readable(re.sub(r"[\t\r\n\u2028\u2029]+", " ", text))
