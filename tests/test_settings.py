"""Settings from options, the environment and a file."""

from __future__ import annotations

from pathlib import Path

import pytest
from pydantic import ValidationError

from gladstack.cli import main
from gladstack.settings import Settings, SettingsError, settings_of


@pytest.fixture
def config(tmp_path: Path) -> Path:
    path = tmp_path / "served.toml"
    path.write_text('port = 9001\nhost = "10.0.0.2"\ndeadline = 12.5\nlog_level = "info"\n')
    return path


def test_options_come_before_the_environment_and_that_before_the_file(config: Path) -> None:
    environ = {"GLADSTACK_HOST": "10.0.0.3", "GLADSTACK_PORT": "9002", "GLADSTACK_OTHER": "x", "HOST": "10.0.0.4"}
    found = settings_of({"port": 9003, "memory": None, "command": "serve"}, environ, config)
    assert (found.port, found.host, found.deadline, found.log_level) == (9003, "10.0.0.3", 12.5, "info")
    assert found.memory == Settings().memory


def test_the_token_is_taken_out_of_the_environment_and_a_file_comes_first(tmp_path: Path) -> None:
    environ = {"GLADSTACK_TOKEN": "from around us"}
    found = settings_of({}, environ)
    assert found.secret() == "from around us"
    assert environ == {}
    assert "around" not in repr(found)
    secret = tmp_path / "token"
    secret.write_text("from a file\n")
    assert settings_of({"token_file": secret}, {"GLADSTACK_TOKEN": "from around us"}).secret() == "from a file"


@pytest.mark.parametrize("text", ["port = ", "colour = 3", "port = 70000", 'log_level = "loud"', "deadline = 0"])
def test_a_file_that_makes_no_sense_is_refused(tmp_path: Path, text: str) -> None:
    path = tmp_path / "served.toml"
    path.write_text(text)
    with pytest.raises((SettingsError, ValidationError)):
        settings_of({}, {}, path)


def test_a_setting_that_makes_no_sense_ends_in_one_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["serve", "--data", str(tmp_path / "d"), "--port", "70000"]) == 2
    assert len(capsys.readouterr().err.strip().splitlines()) == 1
    assert not (tmp_path / "d").exists()


def test_the_version_is_told(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as ended:
        main(["--version"])
    assert ended.value.code == 0
    assert capsys.readouterr().out.startswith("gladstack 0.")
