"""Mail that no page waits for."""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable

from django.conf import settings

_log = logging.getLogger("aim.mail")


def sent(send: Callable[[], object]) -> None:
    """Send something beside the answer; what fails is in the log, without the address."""

    def deliver() -> None:
        try:
            send()
        except Exception as error:
            _log.error("a mail was not sent: %s", type(error).__name__)

    if settings.MAIL_BESIDE:
        threading.Thread(target=deliver, daemon=False).start()
    else:
        deliver()
