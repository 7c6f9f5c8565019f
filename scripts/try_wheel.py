"""Installs a wheel into an empty environment, without Node, and uses it: a picture is built, a page is served.

`python scripts/try_wheel.py dist/gladstack-*.whl`
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
import urllib.request
import venv
from pathlib import Path

HERE = Path(__file__).parent.parent
PICTURE = HERE / "gladstack" / "demo" / "pictures" / "wanderers.png"


def take_compiled(site: Path) -> None:
    """Takes over loops compiled in this checkout, which takes minutes; numba knows them by the time of their source."""
    for source in (HERE / "gladstack" / "core").rglob("*.py"):
        installed = site / source.relative_to(HERE)
        if installed.read_bytes() != source.read_bytes():
            sys.exit(f"{source.name} in the wheel is not that of this checkout")
        when = source.stat()
        os.utime(installed, ns=(when.st_atime_ns, when.st_mtime_ns))
        for compiled in source.parent.glob(f"__pycache__/{source.stem}.*.nb[ic]"):
            (installed.parent / "__pycache__").mkdir(exist_ok=True)
            shutil.copy2(compiled, installed.parent / "__pycache__")


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
        take_compiled(next((folder / "venv" / "lib").glob("python*/site-packages")))
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
