"""Where the app is to be served: an address that it may take, and a folder that no other server uses.

It is settled before anything large is loaded: what hinders it is told at once.
"""

from __future__ import annotations

import errno
import os
import socket
from dataclasses import dataclass
from typing import IO

from gladstack.api.base.guard import LEAST_TOKEN, is_loopback_address
from gladstack.core.base.errors import GladStackError
from gladstack.settings import Settings
from gladstack.store.database import claim_folder


class AddressError(GladStackError):
    """The address cannot be listened on."""

    code = "address"


@dataclass(frozen=True)
class Place:
    """A bound socket, the folder's lock, and the token that is asked for, if other machines can reach it."""

    host: str
    listening: socket.socket
    claimed: IO[str]
    token: str | None

    @property
    def address(self) -> str:
        """The address of the page."""
        host = f"[{self.host}]" if ":" in self.host else self.host
        return f"http://{host}:{self.listening.getsockname()[1]}/"


def take_place(settings: Settings) -> Place:
    """Takes the address and the folder of the settings for this process, and for what it writes, its maker's rights alone.

    Raises AddressError, OSError if the token's file cannot be read, and StoreError if the folder cannot be used or another
    server uses it.
    """
    host, token = settings.host, settings.secret()
    near = is_loopback_address(host)
    if not near and not token:
        raise AddressError(
            f"{host} can be reached from other machines: whoever reaches it could see and change every design.",
            "Give a token with --token-file FILE or in GLADSTACK_TOKEN, which the page then asks for once, or leave --host "
            "out. What is sent is not encrypted.",
        )
    if not near and token and len(token) < LEAST_TOKEN:
        raise AddressError(
            f"The token has {len(token)} characters, which is soon guessed.", f"Take one of at least {LEAST_TOKEN}."
        )
    # What designs hold is for their maker alone.
    os.umask(0o077)
    return Place(host, _listen(host, settings.port), claim_folder(settings.data), None if near else token)


def _listen(host: str, port: int) -> socket.socket:
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    listening = socket.socket(family, socket.SOCK_STREAM)
    listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listening.bind((host, port))
    except (OSError, OverflowError) as fault:
        listening.close()
        if isinstance(fault, OSError) and fault.errno == errno.EADDRINUSE:
            raise AddressError(f"Port {port} is in use.", "Stop what uses it, or choose another with --port.") from fault
        raise AddressError(
            f"Cannot listen on {host}, port {port}: {fault}.", "Choose another with --host and --port."
        ) from fault
    return listening
