"""How the app is served: from the command line, the environment and a file, each before the next."""

from __future__ import annotations

import os
import tomllib
from collections.abc import Mapping, MutableMapping
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from gladstack.core.base.errors import GladStackError

PREFIX = "GLADSTACK_"
LogLevel = Literal["debug", "info", "warning", "error"]


class SettingsError(GladStackError):
    """The settings cannot be read."""

    code = "settings"


class Settings(BaseModel):
    """All that serving needs. `deadline` is in seconds for one piece of work, `memory` in GB, both for each worker.

    The log has one line a request from level `info` on.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    host: str = "127.0.0.1"
    port: Annotated[int, Field(ge=0, le=65_535)] = 8737
    data: Path = Path("data")
    token: Annotated[str | None, Field(repr=False)] = None
    token_file: Path | None = None
    deadline: Annotated[float, Field(gt=0, le=86_400)] = 30.0
    memory: Annotated[float, Field(gt=0, le=1024)] = 4.0
    log_level: LogLevel = "warning"
    demo: bool = False

    def secret(self) -> str | None:
        """The token: what stands in its file, if there is one. Raises OSError."""
        return self.token_file.read_text("utf-8").strip() if self.token_file is not None else self.token


def settings_of(
    flags: Mapping[str, Any], environ: MutableMapping[str, str] = os.environ, config: Path | None = None
) -> Settings:
    """The settings; flags that are None were not given. A token in the environment is taken out of it.

    Raises SettingsError, OSError, pydantic.ValidationError.
    """
    names = Settings.model_fields
    given = {name: value for name, value in flags.items() if name in names and value is not None}
    around = {name: environ[key] for name in names if (key := PREFIX + name.upper()) in environ}
    environ.pop(f"{PREFIX}TOKEN", None)
    return Settings.model_validate({**_written(config), **around, **given})


def _written(config: Path | None) -> dict[str, Any]:
    if config is None:
        return {}
    try:
        held = tomllib.loads(config.read_text("utf-8"))
    except (tomllib.TOMLDecodeError, UnicodeError) as fault:
        raise SettingsError(f"{config.name} cannot be read: {fault}.", "Write it as TOML: port = 8737.") from fault
    if unknown := [name for name in held if name not in Settings.model_fields]:
        raise SettingsError(
            f"{config.name} sets “{unknown[0]}”, which is no setting.", f"Choose from {', '.join(Settings.model_fields)}."
        )
    return held
