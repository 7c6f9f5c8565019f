"""Drawings that were saved compressed (gzip, as in .svgz), unpacked within bounds."""

from __future__ import annotations

import zlib

from gladstack.core.base.errors import VectorError

MAX_UNPACKED_BYTES = 40 * 2**20
_GZIP = b"\x1f\x8b"
_WITH_HEADER = 31


def is_packed(data: bytes) -> bool:
    """Whether bytes are compressed."""
    return data.startswith(_GZIP)


def beginning(data: bytes, most: int) -> bytes:
    """The first bytes of what is compressed, as many as can be had; of what is not, as they are."""
    if not is_packed(data):
        return data[:most]
    try:
        return zlib.decompressobj(_WITH_HEADER).decompress(data[: most + 4096], most)
    except zlib.error:
        return b""


def unpacked(data: bytes) -> bytes:
    """The bytes of a drawing, unpacked if they are compressed. Raises VectorError if they are damaged, or far too many."""
    if not is_packed(data):
        return data
    reader = zlib.decompressobj(_WITH_HEADER)
    try:
        plain = reader.decompress(data, MAX_UNPACKED_BYTES)
    except zlib.error as fault:
        raise VectorError("This compressed drawing is damaged.", "Export it again, or save it as plain SVG.") from fault
    if reader.unconsumed_tail:
        raise VectorError("This compressed drawing is larger than 40 MB when unpacked.", "Save only what is to be cut.")
    if not reader.eof:
        raise VectorError("This compressed drawing is cut short.", "Export or download it again.")
    return plain
