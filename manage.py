#!/usr/bin/env python3
"""Django's command line. `./start` and `./test` call it; its environment is set up by them."""

import os
import sys

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "stillpage.settings")
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)
