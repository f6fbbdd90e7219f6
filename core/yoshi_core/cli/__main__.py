"""`python -m yoshi_core.cli`."""

import sys

from yoshi_core.cli.main import main

sys.exit(main())
