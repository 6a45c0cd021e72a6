"""`python3 -m jubark_core`: the command line."""

import sys

from jubark_core.cli.main import main

sys.exit(main(sys.argv[1:]))
