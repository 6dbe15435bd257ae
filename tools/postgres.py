"""A PostgreSQL of one's own for as long as something runs: what ./aim test --postgres asks.

Installs it with apt-get where it is not there and may be; makes a cluster in a folder that is
thrown away, on a socket and a port of its own.
"""

from __future__ import annotations

import os
import pwd
import shutil
import socket
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path


def programs() -> Path:
    """Where its programs are, installed on first need. Exits with a sentence where they cannot."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"))
    if not found and shutil.which("apt-get"):
        print("Installing PostgreSQL", flush=True)
        prefix = [] if os.geteuid() == 0 else ["sudo"]
        command = [*prefix, "apt-get", "install", "-y", "-qq", "postgresql"]
        subprocess.run([*prefix, "apt-get", "update", "-qq"], check=False)
        subprocess.run(
            command, check=False, env={**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
        )
        found = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"))
    if not found:
        sys.exit("aim: PostgreSQL is not installed. On Debian: apt-get install postgresql")
    return found[-1].parent


@contextmanager
def running() -> Iterator[str]:
    """The address of a database in a cluster that runs meanwhile."""
    bin_ = programs()
    with tempfile.TemporaryDirectory(prefix="aim-pg-") as name:
        folder = Path(name)
        folder.chmod(0o755)
        data = folder / "data"
        data.mkdir()
        as_user: list[str] = []
        if os.geteuid() == 0:  # it refuses to run as root
            person = pwd.getpwnam("postgres")
            os.chown(folder, person.pw_uid, person.pw_gid)
            os.chown(data, person.pw_uid, person.pw_gid)
            as_user = ["setpriv", "--reuid", "postgres", "--regid", "postgres", "--clear-groups"]
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            port = probe.getsockname()[1]

        def do(*words: str | Path) -> None:
            subprocess.run(
                [*as_user, *map(str, words)], check=True, stdout=subprocess.DEVNULL, cwd=folder
            )

        do(
            bin_ / "initdb",
            "-D",
            data,
            "-U",
            "aim",
            "--auth",
            "trust",
            "-E",
            "UTF8",
            "--locale",
            "C",
        )
        options = f"-p {port} -k {folder} -c listen_addresses=127.0.0.1 -c fsync=off"
        do(bin_ / "pg_ctl", "-D", data, "-w", "-l", folder / "log", "-o", options, "start")
        try:
            do(bin_ / "createdb", "-h", folder, "-p", str(port), "-U", "aim", "aim")
            yield f"postgres://aim@127.0.0.1:{port}/aim"
        finally:
            do(bin_ / "pg_ctl", "-D", data, "-w", "-m", "immediate", "stop")


def main(words: list[str]) -> int:
    """Run a command with AIM_TEST_DATABASE_URL set to one."""
    with running() as url:
        env = {**os.environ, "AIM_TEST_DATABASE_URL": url}
        return subprocess.run(words, env=env, check=False).returncode


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
