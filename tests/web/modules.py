"""Pure modules of the front end, run by Node without a browser."""

import json
import subprocess
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[2]
RUN = Path(__file__).with_name("run_module.mjs")


def called(module: str, function: str, calls: list[list[Any]], *, fold: bool = False) -> list[Any]:
    """What a function of a module without imports gives for each list of arguments.

    With `fold` each list is a state and events: the state after all of them.
    """
    path = ROOT / "web" / "src" / module
    command = [
        "node",
        str(RUN),
        str(path),
        function,
        str(ROOT / "web"),
        *(["fold"] if fold else []),
    ]
    run = subprocess.run(
        command, input=json.dumps(calls), capture_output=True, text=True, check=True, timeout=120
    )
    found: list[Any] = json.loads(run.stdout)
    return found
