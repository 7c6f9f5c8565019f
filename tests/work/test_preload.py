"""What workers begin with: every loop that was compiled ahead is loaded, and none is compiled again."""

from __future__ import annotations

import json
import subprocess
import sys

_LOADED = """
import json
import gladstack.warm
from gladstack.core.base import compiled
print(json.dumps([compiled.load(), sum(len(one.signatures) for one in compiled.LOOPS),
    sum(sum(one.stats.cache_misses.values()) for one in compiled.LOOPS)]))
"""


def test_a_process_loads_the_loops_that_were_compiled_ahead() -> None:
    said = subprocess.run([sys.executable, "-c", _LOADED], capture_output=True, text=True, check=True, timeout=300).stdout
    loaded, loops, compiled_again = json.loads(said)
    assert loaded
    assert loops > 30
    assert compiled_again == 0
