"""The simulated cutter by itself: what it reads, what it refuses, how it moves, and what it remembers."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gladstack.cutter.film import FilmLog
from gladstack.cutter.machine import Fault, LinkLostError, Machine, PowerLostError, Profile, RefusedError
from gladstack.cutter.motion import schedule
from gladstack.cutter.program import ProgramError, read_program

SQUARE = "IN;SP1;VS10;FS90;PU400,400;PD2400,400,2400,2400,400,2400,400,400;PU0,0;SP0;"


@pytest.fixture
def machine(tmp_path: Path) -> Machine:
    made = Machine(Profile(), tmp_path)
    made.load("film-1", 300, 500, 90)
    return made


def strokes(machine: Machine) -> list[dict[str, Any]]:
    return [line for line in machine.log.lines() if "run" in line]


def test_hpgl_is_read_with_tools_speed_force_and_relative_ways() -> None:
    (one, two) = read_program("IN;SP2;PU0,0;PD40,0;SP1;VS5;FS110;PU80,80;PR;PD40,0,0,40;PU;")
    assert (one.tool, one.points) == (2, [(0.0, 0.0), (1.0, 0.0)])
    assert (two.tool, two.speed_mm_s, two.force_g) == (1, 50.0, 110)
    assert two.points == [(2.0, 2.0), (3.0, 2.0), (3.0, 3.0)]


@given(st.text(max_size=60))
def test_whatever_it_is_sent_it_reads_or_refuses(text: str) -> None:
    try:
        strokes_ = read_program(text)
    except ProgramError:
        return
    assert all(len(s.points) > 1 for s in strokes_)


def test_what_lies_outside_the_film_is_refused_before_it_cuts(machine: Machine) -> None:
    with pytest.raises(RefusedError, match="along"):
        machine.send("far", read_program("SP1;PU400,400;PD40000,400;"))
    with pytest.raises(RefusedError, match="across"):
        machine.send("wide", read_program("SP1;PU400,400;PD400,13000;"))
    with pytest.raises(RefusedError):
        machine.send("nothing", read_program("IN;SP1;PU10,10;"))
    assert strokes(machine) == []
    assert machine.state == "idle"


def test_it_cuts_at_its_own_speed_and_tells_each_stroke(machine: Machine) -> None:
    machine.send("one", read_program(SQUARE))
    machine.go(0.5)
    assert machine.state == "cutting"
    with pytest.raises(RefusedError, match="cutting"):
        machine.send("two", read_program(SQUARE))
    with pytest.raises(RefusedError, match="cutting"):
        machine.load("film-2", 300, 500, 90)
    machine.go(100)
    assert machine.state == "idle"
    done = strokes(machine)[-1]
    assert done["done"]
    assert done["mm"] == pytest.approx(200.0)
    # 200 mm at 100 mm/s, corners and the way to it included.
    assert 2.0 < machine.seconds < 4.0


def test_pause_holds_still_and_stop_ends(machine: Machine) -> None:
    machine.send("one", read_program(SQUARE))
    machine.go(1.5)
    machine.pause()
    before = machine.here
    machine.go(10)
    assert machine.here == before
    assert machine.state == "paused"
    machine.resume()
    machine.go(0.3)
    assert machine.here != before
    machine.stop()
    assert machine.state == "stopped"
    assert machine.log.lines()[-1]["broken"] == {"kind": "stop"}


@pytest.mark.parametrize("kind", ["cover", "slip", "film-out"])
def test_a_fault_stops_it_until_it_is_cleared(machine: Machine, kind: str) -> None:
    machine.expect(Fault(kind, 30.0, 1.0, 0.5))
    machine.send("one", read_program(SQUARE))
    machine.go(100)
    assert machine.state == "fault"
    assert machine.why is not None
    assert machine.why["kind"] == kind
    with pytest.raises(RefusedError, match="cleared"):
        machine.send("two", read_program(SQUARE))
    machine.clear()
    machine.send("two", read_program(SQUARE))
    machine.go(100)
    assert machine.state == "idle"
    # After a slip the cut lies beside where it should, until the film is put right.
    tips = [p for line in strokes(machine) if line["run"] == "one" for p in line["tip"]]
    beside = [p for p in tips if p[1] < 9.9 - 0.3]
    assert bool(beside) == (kind == "slip")


def test_a_blunt_blade_scores_and_does_not_cut_through(machine: Machine) -> None:
    machine.expect(Fault("force", 60.0))
    machine.send("one", read_program(SQUARE))
    machine.go(100)
    assert [line["through"] for line in strokes(machine)] == [True, False]


def test_lost_power_and_lost_line_leave_the_film_as_it_is(tmp_path: Path) -> None:
    for kind, fault in (("power", PowerLostError), ("link", LinkLostError)):
        machine = Machine(Profile(), tmp_path / kind)
        machine.load("film-1", 300, 500, 90)
        machine.expect(Fault(kind, 60.0))
        machine.send("one", read_program(SQUARE))
        with pytest.raises(fault):
            machine.go(100)
        again = Machine(Profile(), tmp_path / kind)
        assert again.log.film == {"id": "film-1", "width_mm": 300, "length_mm": 500, "needs_g": 90}
        assert again.log.lines()[-1]["broken"]["kind"] == kind
        assert strokes(again)[-1]["mm"] == pytest.approx(60.0, abs=0.1)


def test_a_line_half_written_never_happened(tmp_path: Path) -> None:
    log = FilmLog(tmp_path)
    log.load({"id": "a"})
    log.add({"run": "p", "stroke": 0})
    with (tmp_path / "film.jsonl").open("a") as file:
        file.write('{"run":"p","stro')
    again = FilmLog(tmp_path)
    assert again.lines() == [{"film": {"id": "a"}}, {"run": "p", "stroke": 0}]
    again.add({"run": "p", "stroke": 1})
    assert FilmLog(tmp_path).lines() == again.lines()


@given(st.lists(st.tuples(st.floats(0, 200), st.floats(0, 200)), min_size=2, max_size=12, unique=True))
def test_no_way_is_faster_than_its_speed_and_all_begin_and_end_at_rest(points: list[tuple[float, float]]) -> None:
    seconds, along = schedule(points, 100.0, 900.0)
    assert seconds == sorted(seconds)
    assert along[-1] <= 100.0 * seconds[-1] + 1e-6
    assert seconds[-1] >= 2 * min((along[-1] / 900) ** 0.5, 100 / 900) * 0.99
