#!/usr/bin/env python
import os
import sys

from django.core.exceptions import ImproperlyConfigured
from django.db import OperationalError

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "krill_server.settings")
    from django.core.management import execute_from_command_line

    try:
        execute_from_command_line(sys.argv)
    except ImproperlyConfigured as wrong:
        sys.exit(f"krill: {wrong}")
    except OperationalError as away:
        sys.exit(f"krill: the database does not answer: {str(away).splitlines()[0]}")
