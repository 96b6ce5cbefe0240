"""``python -m gavotte``."""

import sys

from gavotte.cli import main

sys.exit(main())
