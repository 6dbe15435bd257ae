"""A line to the server that can be cut: every byte goes through it, or none does."""

from __future__ import annotations

import contextlib
import socket
import threading


class Line:
    """Listens on a port of its own and passes all on to another; ``cut`` ends that."""

    def __init__(self, host: str, port: int, at: int = 0) -> None:
        """``at``: the port that it listens on, where a line was cut; any, if none is said."""
        self._to = (host, port)
        self._listening = socket.create_server((host, at))
        self.port: int = self._listening.getsockname()[1]
        self._open: list[socket.socket] = []
        threading.Thread(target=self._accept, daemon=True).start()

    def cut(self) -> None:
        """No more connections, and an end to those there are."""
        for one in (self._listening, *self._open):
            with contextlib.suppress(OSError):
                one.shutdown(socket.SHUT_RDWR)
            one.close()

    def _accept(self) -> None:
        with contextlib.suppress(OSError):
            while True:
                near, _ = self._listening.accept()
                far = socket.create_connection(self._to)
                self._open += [near, far]
                for one, other in ((near, far), (far, near)):
                    threading.Thread(target=self._pass, args=(one, other), daemon=True).start()

    @staticmethod
    def _pass(one: socket.socket, other: socket.socket) -> None:
        with contextlib.suppress(OSError):
            while data := one.recv(65536):
                other.sendall(data)
            other.shutdown(socket.SHUT_WR)
