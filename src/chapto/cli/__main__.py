"""`python -m chapto.cli`."""

from __future__ import annotations

import sys

from chapto.cli.main import main

sys.exit(main())
