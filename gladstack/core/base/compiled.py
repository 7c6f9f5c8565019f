"""Compiled loops. What is compiled is cached beside its source; `gladstack.warm` does so ahead of its first use."""

from __future__ import annotations

import numba as nb

jit = nb.njit(cache=True, nogil=True)
