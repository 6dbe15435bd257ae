"""Running an installation: says in the log who is locked out."""

import logging
from typing import Any

from django.apps import AppConfig


class RunningConfig(AppConfig):
    name = "web.running"

    def ready(self) -> None:
        from axes.signals import user_locked_out  # its models are there only now

        user_locked_out.connect(_locked_out, dispatch_uid="aim locked out")


def _locked_out(request: Any, username: str, ip_address: str, **_: Any) -> None:
    who = "".join(c if c.isprintable() else "?" for c in str(username))[:150]
    logging.getLogger("aim.locked").warning(
        "sign-in locked: name %r from %s", who, ip_address,
        extra={"who": who, "where": ip_address},
    )  # fmt: skip
