"""`oxlen backup` and `oxlen restore`."""

from __future__ import annotations

import argparse

from oxlen.core.errors import NotFound
from oxlen.store.archive import restore_backup, write_backup
from oxlen.store.library import default_folder, existing_library


def backup(arguments: argparse.Namespace) -> int:
    """Write everything kept into one zip."""
    library = existing_library(arguments.data)
    if library is None:
        raise NotFound(f"Nothing is kept in {arguments.data or default_folder()}.")
    count = write_backup(library, arguments.file)
    print(f"{arguments.file}: the database and {count} pictures.")
    return 0


def restore(arguments: argparse.Namespace) -> int:
    """Replace everything kept by a backup, once it is verified."""
    folder = arguments.data or default_folder()
    count = restore_backup(folder, arguments.file)
    print(f"{folder}: the database and {count} pictures are back.")
    return 0
