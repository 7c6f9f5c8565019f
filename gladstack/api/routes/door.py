"""The door: the token, brought once."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Request
from fastapi.responses import Response
from pydantic import BaseModel, Field

from gladstack.api.base.guard import COOKIE, Door, address_of
from gladstack.api.base.problems import problem

ROUTER = APIRouter()


class Knock(BaseModel):
    """The token that the door asks for."""

    token: Annotated[str, Field(max_length=200)]


@ROUTER.post("/api/door", operation_id="knock", status_code=204, response_class=Response)
def knock(request: Request, given: Knock) -> Response:
    """Brings the token once; the browser keeps it from then on."""
    door: Door = request.app.state.door
    if door.token is not None and not door.opens_for(given.token, address_of(request.scope)):
        return problem(401, "token", "Not the token", "This is not the token.", "It was given when the app was started.")
    answer = Response(status_code=204)
    if door.token is not None:
        answer.set_cookie(COOKIE, door.key, max_age=30 * 86400, httponly=True, samesite="strict")
    return answer
