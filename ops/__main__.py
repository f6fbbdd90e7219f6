"""`python3 -m ops start|test|db …`"""

import sys

from ops.commands import main

sys.exit(main(sys.argv[1:]))
