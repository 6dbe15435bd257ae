#!/usr/bin/env python3
"""Django's command line, for the settings named in DJANGO_SETTINGS_MODULE (default: demo)."""

import os
import sys

from django.core.management import execute_from_command_line

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "web.settings.demo")
    execute_from_command_line(sys.argv)
