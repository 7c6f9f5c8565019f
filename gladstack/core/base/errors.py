"""What can be wrong with what the maker brings, as one family of errors.

    GladStackError
    +-- PictureError      a picture that cannot be read or is refused
    +-- LengthError       a length that cannot be understood
    +-- RecipeError       a choice that contradicts the design
    +-- FontError         a font that cannot be read, or cannot set what is asked of it
    +-- VectorError       a vector file that cannot be read or is refused
    +-- MendError         a mending step that finds nothing to work on

Each carries a sentence that says what is wrong, and one that says what helps.
"""

from __future__ import annotations


class GladStackError(Exception):
    """A fault in what was asked or brought, told in the maker's words."""

    code = "fault"
    trace = ""
    """Where it came from, if it came of something that was not foreseen; for the log."""

    def __init__(self, problem: str, remedy: str = "") -> None:
        # What was brought may be quoted, and may be no text that could be sent or written.
        self.problem = problem.encode("utf-8", "replace").decode()
        self.remedy = remedy.encode("utf-8", "replace").decode()
        super().__init__(f"{self.problem} {self.remedy}".strip())

    def __reduce__(self) -> tuple[type[GladStackError], tuple[str, str]]:
        """Goes whole from one process to another."""
        return type(self), (self.problem, self.remedy)


class PictureError(GladStackError):
    """The picture cannot be read, is damaged, mislabelled or too large."""

    code = "picture"


class LengthError(GladStackError):
    """A length or number cannot be understood or is out of range."""

    code = "length"


class RecipeError(GladStackError):
    """A choice names something that the design does not have, or contradicts another choice."""

    code = "recipe"


class FontError(GladStackError):
    """The font cannot be read, or cannot set what is asked of it."""

    code = "font"


class VectorError(GladStackError):
    """The vector file cannot be read, is refused, or paints nothing that can be cut."""

    code = "vector"


class MendError(GladStackError):
    """A mending step finds nothing to work on."""

    code = "mend"
