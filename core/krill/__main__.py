import sys

from krill.cli import main

sys.exit(main())
