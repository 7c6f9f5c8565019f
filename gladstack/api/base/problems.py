"""Errors as problem details (RFC 9457): what is wrong, what helps, and a stable code."""

from __future__ import annotations

import logging
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse, Response
from pydantic import BaseModel, ValidationError
from starlette.exceptions import HTTPException

from gladstack.core.base.errors import GladStackError
from gladstack.recipe.model.faults import said_plainly

_KINDS = {
    "unknown-design": (404, "Not there"),
    "stale-revision": (409, "Changed elsewhere"),
    "superseded": (409, "Something newer was tried"),
    "picture": (422, "The picture cannot be used"),
    "length": (422, "Not a length"),
    "recipe": (422, "That does not go together"),
    "font": (422, "The font cannot be used"),
    "vector": (422, "The vector file cannot be used"),
    "mend": (422, "This mends nothing"),
    "tiles": (422, "It cannot be laid like this"),
    "shop": (422, "Something is not on the shelf"),
    "stock": (422, "Too little film"),
    "csv": (422, "The file cannot be read"),
    "unknown-job": (404, "Not there"),
    "unknown-film": (404, "Not there"),
    "left": (422, "Nobody waits for it"),
    "too-much": (422, "Too much to work out"),
    "busy": (503, "Too much at once"),
    "unforeseen": (422, "That could not be worked out"),
    "names": (422, "The list cannot be used"),
    "parcel": (422, "The file cannot be used"),
    "fault": (422, "It cannot go on like this"),
    "cutting": (422, "It does not fit what has been cut"),
    "at-the-cutter": (422, "It is at the cutter"),
    "nothing-more": (422, "Nothing more to cut"),
    "cutter": (422, "The cutter refuses it"),
    "link": (503, "The cutter does not answer"),
    "settings": (422, "The settings cannot be used"),
    "address": (422, "Nothing can be served there"),
    "store": (503, "The designs cannot be reached"),
}


_LOG = logging.getLogger("gladstack.api")


class Problem(BaseModel):
    """A problem as the screen shows it: `detail` says what is wrong, `remedy` what helps."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    remedy: str = ""
    code: str


PROBLEMS: dict[int | str, dict[str, Any]] = {
    status: {"model": Problem, "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}}}
    for status in (400, 401, 403, 404, 409, 413, 422, 429, 500, 503)
}


def problem(status: int, code: str, title: str, detail: str, remedy: str = "") -> JSONResponse:
    """A problem as a response."""
    return _answer(Problem(title=title, status=status, detail=detail, remedy=remedy, code=code))


def problem_of(fault: GladStackError) -> Problem:
    """An error of the app as a problem."""
    status, title = _KINDS.get(fault.code, (400, "That did not work"))
    return Problem(title=title, status=status, detail=fault.problem, remedy=fault.remedy, code=fault.code)


def unforeseen() -> JSONResponse:
    """What is said of an error that nobody foresaw; the log tells more."""
    return problem(
        500, "unforeseen", "Something went wrong here", "This failed in a way that was not foreseen; nothing was changed.",
        "Try again, or another way; what was written to the terminal says more.",
    )  # fmt: skip


def install(app: FastAPI) -> None:
    """Turns every error of the app into a problem."""

    @app.exception_handler(GladStackError)
    async def _ours(request: Request, fault: GladStackError) -> JSONResponse:
        if fault.trace:
            _LOG.error("%s %s: %s\n%s", request.method, request.url.path, fault.problem, fault.trace)
        return _answer(problem_of(fault))

    @app.exception_handler(RequestValidationError)
    async def _invalid(request: Request, fault: RequestValidationError) -> JSONResponse:
        return problem(422, "invalid", "That cannot be used", said_plainly(fault.errors()[0]))

    @app.exception_handler(ValidationError)
    async def _ours_is_wrong(request: Request, fault: ValidationError) -> JSONResponse:
        # What a maker asked for is checked before: this is a mistake of the app's own.
        _LOG.error("%s %s: %s", request.method, request.url.path, fault, exc_info=fault)
        return unforeseen()

    @app.exception_handler(UnicodeError)
    async def _no_text(request: Request, fault: UnicodeError) -> JSONResponse:
        # Halves of surrogate pairs can be written in JSON, and are no text.
        return problem(422, "invalid", "That cannot be used", "What was sent holds characters that are not text.")

    @app.exception_handler(HTTPException)
    async def _http(request: Request, fault: HTTPException) -> Response:
        index = getattr(app.state, "index", None)
        asks_for_page = "text/html" in request.headers.get("accept", "") and not request.url.path.startswith("/api/")
        if fault.status_code == 404 and index is not None and asks_for_page:
            # The page itself says that there is nothing here, and leads on.
            page: Response = index()
            page.status_code = 404
            return page
        answer = problem(fault.status_code, "http", str(fault.detail), str(fault.detail))
        answer.headers.update(fault.headers or {})
        return answer


def _answer(body: Problem) -> JSONResponse:
    return JSONResponse(body.model_dump(), body.status, media_type="application/problem+json")
