"""`python -m oxlen`."""

import sys

from oxlen.cli.main import main

sys.exit(main())
