"""Errors as problem details (RFC 9457): what is wrong, what helps, and a stable code."""

from __future__ import annotations

from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel, ValidationError
from starlette.exceptions import HTTPException

from gladstack.core.errors import GladStackError

_STATUS = {
    "unknown-design": 404,
    "stale-revision": 409,
    "picture": 422,
    "length": 422,
    "recipe": 422,
    "font": 422,
    "vector": 422,
    "mend": 422,
}
_TITLES = {
    "unknown-design": "Not there",
    "stale-revision": "Changed elsewhere",
    "picture": "The picture cannot be used",
    "length": "Not a length",
    "recipe": "That does not go together",
    "font": "The font cannot be used",
    "vector": "The vector file cannot be used",
    "mend": "This mends nothing",
}


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
    for status in (400, 403, 404, 409, 413, 422)
}


def problem(status: int, code: str, title: str, detail: str, remedy: str = "") -> JSONResponse:
    """A problem as a response."""
    body = Problem(title=title, status=status, detail=detail, remedy=remedy, code=code)
    return JSONResponse(body.model_dump(), status, media_type="application/problem+json")


def install(app: FastAPI) -> None:
    """Turns every error of the app into a problem."""

    @app.exception_handler(GladStackError)
    async def _ours(request: Request, fault: GladStackError) -> JSONResponse:
        status = _STATUS.get(fault.code, 400)
        return problem(status, fault.code, _TITLES.get(fault.code, "That did not work"), fault.problem, fault.remedy)

    @app.exception_handler(ValidationError)
    @app.exception_handler(RequestValidationError)
    async def _invalid(request: Request, fault: RequestValidationError | ValidationError) -> JSONResponse:
        first = fault.errors()[0]
        field = next((str(p) for p in reversed(first["loc"]) if isinstance(p, str) and p not in ("body", "edit")), "")
        said = str(first["msg"]).removeprefix("Value error, ")
        name = field.removesuffix("_mm").replace("_", " ").capitalize()
        return problem(422, "invalid", "That cannot be used", f"{name}: {said}" if name else said)

    @app.exception_handler(HTTPException)
    async def _http(request: Request, fault: HTTPException) -> JSONResponse:
        answer = problem(fault.status_code, "http", str(fault.detail), str(fault.detail))
        answer.headers.update(fault.headers or {})
        return answer
