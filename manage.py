#!/usr/bin/env python3
"""Django's command line, for the settings named in DJANGO_SETTINGS_MODULE (default: demo)."""

import os
import sys

from django.core.exceptions import ImproperlyConfigured
from django.core.management import execute_from_command_line


def main() -> int:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "web.settings.demo")
    try:
        from django.conf import settings

        _ = settings.INSTALLED_APPS  # read now: what is wrong with them is one sentence
    except ImproperlyConfigured as error:
        print(f"aim: {error}", file=sys.stderr)
        return 1
    execute_from_command_line(sys.argv)
    return 0


if __name__ == "__main__":
    sys.exit(main())
