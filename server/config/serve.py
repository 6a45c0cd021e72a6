"""`python -m config.serve [ADDRESS:PORT | DESCRIPTOR]`: one process that serves the application.

Requests are read whole before a thread takes them, so that clients who send half a request hold no thread.
Several processes may share one listening socket, handed over by its descriptor (an inherited one); such a
process ends with its parent.
"""

from __future__ import annotations

import json
import os
import signal
import socket
import sys
import threading
import time
from typing import Any

import waitress
from waitress.utilities import Error

THREADS = 8
SILENT_S = 30  # a connection on which nothing moves is closed
MOST_CONNECTIONS = 1000
LARGEST_BODY = (
    33 * 1024 * 1024
)  # over the largest limit of config.plain_requests, which answers with a reason


ALLOWED = {
    413: f"a request of at most {LARGEST_BODY} bytes; a file is cut into blocks",
    431: "shorter headers",
}


def _as_refusal(self: Error, ident: str | None = None) -> tuple[str, list[tuple[str, str]], bytes]:
    """What is refused before the application sees it, in the one shape all refusals have."""
    allowed = ALLOWED.get(self.code, "a request as HTTP/1.1 has it (RFC 9112)")
    code = "too_large" if self.code == 413 else "bad_input"
    told = {"code": code, "message": f"{self.reason}: {allowed}.", "field": "request", "allowed": allowed}
    headers = [("Content-Type", "application/json"), ("Cache-Control", "no-store")]
    return f"{self.code} {self.reason}", headers, json.dumps(told).encode()


def main(arguments: list[str]) -> int:
    """Serve until a signal."""
    os.umask(0o077)  # whatever this process writes is for its own account
    where = arguments[0] if arguments else os.environ.get("JUBARK_LISTEN", "127.0.0.1:8417")
    from config.wsgi import application  # reads the settings and the flora

    at: dict[str, Any] = {"listen": where}
    if where.isdigit():
        at = {"sockets": [socket.socket(fileno=int(where))]}
        threading.Thread(target=_end_with_parent, args=(os.getppid(),), daemon=True).start()
    Error.to_response = _as_refusal
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    waitress.serve(
        application,
        **at,
        threads=THREADS,
        channel_timeout=SILENT_S,
        cleanup_interval=10,
        connection_limit=MOST_CONNECTIONS,
        max_request_body_size=LARGEST_BODY,
        asyncore_use_poll=True,
        clear_untrusted_proxy_headers=os.environ.get("JUBARK_PROXIES", "0") == "0",
        ident=None,
    )
    return 0


def _end_with_parent(parent: int) -> None:
    """So that nothing is left holding the port after a kill -9 of the launcher."""
    while os.getppid() == parent:
        time.sleep(0.5)
    os.kill(os.getpid(), signal.SIGTERM)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
