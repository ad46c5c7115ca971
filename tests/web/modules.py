"""Pure modules of the front end, run by Node without a browser."""

import atexit
import functools
import json
import subprocess
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[2]
RUN = Path(__file__).with_name("run_module.mjs")


@functools.cache
def _node() -> subprocess.Popen[str]:
    """One Node for all tests of this process: it reads the compiler once."""
    process = subprocess.Popen(
        ["node", str(RUN), str(ROOT / "web")],
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        text=True,
    )
    atexit.register(_stop, process)
    return process


def _stop(process: subprocess.Popen[str]) -> None:
    process.communicate(timeout=60)


def called(module: str, name: str, calls: list[list[Any]], *, fold: bool = False) -> list[Any]:
    """What a function of a module without imports gives for each list of arguments.

    With `fold` each list is a state and events: the state after all of them.
    """
    path = str(ROOT / "web" / "src" / module)
    node = _node()
    assert node.stdin
    assert node.stdout
    request = {"module": path, "name": name, "calls": calls, "fold": fold}
    node.stdin.write(json.dumps(request) + "\n")
    node.stdin.flush()
    stated = json.loads(node.stdout.readline())
    if "error" in stated:
        raise AssertionError(stated["error"])
    found: list[Any] = stated["answers"]
    return found
