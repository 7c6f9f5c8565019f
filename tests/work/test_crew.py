"""Workers outlive what they are asked: too slow, too large, crashing, unwanted work ends alone, and the next is done."""

from __future__ import annotations

import asyncio
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from gladstack.core.base.errors import PictureError
from gladstack.work.crew import Crew, Limits, TooMuchError, WorkFailedError
from tests.work import jobs


@pytest.fixture(scope="module")
def crew() -> Iterator[Crew]:
    crew = Crew(Limits(deadline_s=4.0, memory_bytes=2 * 2**30, light_s=0.5))
    yield crew
    crew.close()


def test_work_is_done_and_its_errors_come_back_whole(crew: Crew) -> None:
    assert asyncio.run(crew.run(0.0, "This", jobs.add, 2, 3)) == 5
    with pytest.raises(PictureError) as fault:
        asyncio.run(crew.run(0.0, "This", jobs.refuse))
    assert (fault.value.problem, fault.value.remedy) == ("This is no picture.", "Bring another.")


@pytest.mark.parametrize(
    ("work", "arguments", "said"),
    [
        (jobs.wait, (20,), "was not done within 4 s"),
        (jobs.hoard, (3,), "more than 2.0 GB of memory"),
        (jobs.abort, (), "broke off"),
    ],
)
def test_what_asks_for_too_much_is_one_clear_problem_and_the_next_work_is_done(
    crew: Crew, work: object, arguments: tuple[int, ...], said: str
) -> None:
    with pytest.raises(TooMuchError, match=said) as fault:
        asyncio.run(crew.run(9.0, "This file", work, *arguments))  # type: ignore[arg-type]
    assert fault.value.problem.startswith("This file asks for too much")
    assert asyncio.run(crew.run(9.0, "This", jobs.add, 1, 1)) == 2


@pytest.mark.parametrize("work", [jobs.stumble, jobs.overlay_badly])
def test_what_nobody_foresaw_is_told_in_plain_words(crew: Crew, work: object, caplog: pytest.LogCaptureFixture) -> None:
    with pytest.raises(WorkFailedError, match="nothing was changed"):
        asyncio.run(crew.run(0.0, "This design", work))  # type: ignore[arg-type]
    assert caplog.records


def test_costly_work_is_done_ahead_elsewhere(crew: Crew) -> None:
    async def ahead() -> None:
        await crew.run(9.0, "This", jobs.note_done, str(crew))

    assert asyncio.run(crew.light_first("This", "one", jobs.needs_note, ahead, str(crew))) == "found"


def test_what_cannot_be_done_ahead_is_done_with_its_costly_stages(crew: Crew) -> None:
    async def ahead() -> None:
        pass

    assert asyncio.run(crew.light_first("This", "two", jobs.costly_if_light, ahead)) == "worked where it may"


def test_what_is_too_long_for_the_light_lane_is_done_in_the_next(crew: Crew) -> None:
    async def ahead() -> None:
        raise AssertionError("nothing is to be done ahead")

    assert asyncio.run(crew.light_first("This", "three", jobs.work_hard, ahead, 0.7)) == "done"


def test_light_work_does_not_wait_for_heavy(crew: Crew) -> None:
    async def both() -> bool:
        heavy = asyncio.ensure_future(crew.run(9.0, "This", jobs.wait, 1.2))
        await asyncio.sleep(0.2)
        await crew.run(0.0, "This", jobs.add, 1, 1)
        waited = heavy.done()
        await heavy
        return waited

    asyncio.run(crew.run(0.0, "This", jobs.nothing))
    assert not asyncio.run(both())


def test_unwanted_work_gives_itself_up_between_stages_and_keeps_its_process(crew: Crew, tmp_path: Path) -> None:
    note = tmp_path / "given-up"

    async def leave() -> None:
        task = asyncio.ensure_future(crew.run(9.0, "This", jobs.wait_in_stages, str(note)))
        await asyncio.sleep(0.3)
        task.cancel()
        with pytest.raises(asyncio.CancelledError):
            await task
        await asyncio.sleep(0.4)

    before = asyncio.run(crew.run(9.0, "This", jobs.who))
    asyncio.run(leave())
    assert note.read_text() == str(before) == str(asyncio.run(crew.run(9.0, "This", jobs.who)))


def test_unwanted_work_that_does_not_listen_is_ended() -> None:
    patient = Crew(Limits(deadline_s=120.0))

    async def leave() -> float:
        task = asyncio.ensure_future(patient.run(9.0, "This", jobs.wait, 100))
        await asyncio.sleep(0.5)
        task.cancel()
        with pytest.raises(asyncio.CancelledError):
            await task
        begin = time.perf_counter()
        await patient.run(9.0, "This", jobs.nothing)
        return time.perf_counter() - begin

    # Had it not been ended, the next would have waited behind it for a hundred seconds.
    try:
        assert asyncio.run(leave()) < 60
    finally:
        patient.close()


def test_closing_ends_everything_at_once() -> None:
    crew = Crew()

    async def begin() -> None:
        work = [asyncio.ensure_future(crew.run(lane, "This", jobs.wait, 25)) for lane in (9.0, 0.0)]
        await asyncio.wait(work, timeout=0.5)

    asyncio.run(begin())
    start = time.perf_counter()
    crew.close()
    assert time.perf_counter() - start < 3
