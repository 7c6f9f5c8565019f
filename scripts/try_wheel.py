"""Installs a wheel into an empty environment, without Node, and uses it: a picture is built, a page is served.

`python scripts/try_wheel.py dist/gladstack-*.whl`
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import urllib.request
import venv
from pathlib import Path

PICTURE = Path(__file__).parent.parent / "gladstack" / "demo" / "pictures" / "wanderers.png"


def main() -> None:
    wheel = Path(sys.argv[1]).resolve()
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        venv.create(folder / "venv", with_pip=True)
        bin_ = folder / "venv" / "bin"
        # Nothing of this machine but the shell's own programs.
        env = {"PATH": f"{bin_}:/usr/bin:/bin", "HOME": os.environ.get("HOME", name), "LANG": "C.UTF-8"}
        env |= {
            key: value for key, value in os.environ.items() if key.lower().startswith(("pip_", "http", "ssl_", "no_proxy"))
        }

        def run(*command: str) -> str:
            done = subprocess.run(command, cwd=folder, env=env, capture_output=True, text=True, timeout=1200)
            if done.returncode:
                sys.exit(f"{' '.join(command)} failed:\n{done.stdout}\n{done.stderr}")
            return done.stdout.strip()

        run(str(bin_ / "pip"), "install", "--quiet", "--disable-pip-version-check", str(wheel))
        gladstack = str(bin_ / "gladstack")
        print(run(gladstack, "--version"))
        print(run(gladstack, "warm"))
        print(run(gladstack, "build", str(PICTURE), "--width", "120mm", "--out", "built"))
        assert (folder / "built" / "stack.svg").stat().st_size > 1000
        served = subprocess.Popen(
            [gladstack, "serve", "--port", "0", "--demo"], cwd=folder, env=env, stdout=subprocess.PIPE, text=True
        )
        try:
            assert served.stdout is not None
            said = served.stdout.readline().strip()
            print(said)
            with urllib.request.urlopen(said.split()[-1], timeout=30) as page:
                text = page.read().decode()
            assert '<div id="root">' in text, text[:300]
            with urllib.request.urlopen(said.split()[-1] + "NOTICES.txt", timeout=30) as notices:
                assert "react" in notices.read().decode()
        finally:
            served.terminate()
            served.wait(timeout=20)
    print(f"{wheel.name} works in an empty environment")


if __name__ == "__main__":
    main()
