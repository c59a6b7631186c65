"""The application for the browser: on this machine, and for a phone on the local network."""

from __future__ import annotations

import argparse
import ipaddress
import os
import socket
import sys
from contextlib import ExitStack, closing
from pathlib import Path
from typing import Any

from vivid_lattice.demo import DEMOS, demo_job
from vivid_lattice.lan.pairing import Pairing, qr_text
from vivid_lattice.store.errors import StoreError

TOKEN_VARIABLE = "VIVID_LATTICE_TOKEN"
#: A shorter one can be guessed by trying.
_TOKEN_LEAST = 16
#: Requests that are still worked on when the server is told to stop are ended after this [s].
_STOP_WITHIN_S = 5


def add_commands(commands: Any) -> None:
    """Puts ``serve`` beside the other commands."""
    command = commands.add_parser("serve", help="start the application for the browser")
    command.add_argument("--host", default="127.0.0.1")
    command.add_argument("--port", type=int, default=8765)
    command.add_argument("--database", type=Path, default=Path("var/vivid-lattice.sqlite3"))
    command.add_argument("--with-demo", action="store_true", help="add the demo jobs to a database without any")
    command.add_argument(
        "--lan",
        action="store_true",
        help="also for phones on the local network: TLS, an access token, a QR code to pair",
    )
    command.add_argument("--lan-port", type=int, default=8766, help="port on the local network (default: 8766)")
    command.set_defaults(run=_serve)


def _serve(args: argparse.Namespace) -> int:
    import uvicorn

    from vivid_lattice.api.app import WEB_DIST, create_app, tune_garbage_collector

    token = os.environ.get(TOKEN_VARIABLE) or None
    if (refusal := _refusal(args, token)) is not None:
        print(refusal, file=sys.stderr)
        return 2
    with ExitStack() as running:
        try:
            pairing = _pairing(args, token) if args.lan else None
            app = create_app(args.database, token, pairing)
            if pairing is not None:
                _serve_phones(running, args, pairing)
        except (StoreError, OSError) as why:
            print(why, file=sys.stderr)
            return 2
        if args.with_demo:
            load_demos(args.database)
        query = "/?token=…" if token else ""
        if not (WEB_DIST / "index.html").is_file():
            print("The web front end is not built. Run “make web”.", file=sys.stderr)
        print(
            f"Vivid Lattice: http://{args.host}:{args.port}{query}   (Ctrl+C stops it; jobs are kept in {args.database})",
            flush=True,
        )
        tune_garbage_collector()
        uvicorn.run(app, host=args.host, port=args.port, log_level="warning", timeout_graceful_shutdown=_STOP_WITHIN_S)
    return 0


def _refusal(args: argparse.Namespace, token: str | None) -> str | None:
    """Why the server is not started with these options; None where it is."""
    if not _is_loopback(args.host):
        if args.lan:
            return (
                f"--lan opens the local network by itself. Leave --host out, or use 127.0.0.1 instead of {args.host}."
            )
        if token is None:
            return f"Refused: {args.host} can be reached from other machines. Use --lan, set {TOKEN_VARIABLE} to an access token, or use 127.0.0.1."
    if token is not None and len(token) < _TOKEN_LEAST and (args.lan or not _is_loopback(args.host)):
        return f"The access token in {TOKEN_VARIABLE} can be guessed. Use {_TOKEN_LEAST} characters or more."
    for host, port, option in ((args.host, args.port, "--port"), ("0.0.0.0", args.lan_port, "--lan-port")):
        if option == "--lan-port" and not args.lan:
            continue
        try:
            free = _is_free(host, port)
        except socket.gaierror:
            return f"“{host}” is not an address of this machine."
        if not free:
            return f"Port {port} on {host} is in use. Stop the other program, or choose another port with {option}."
    return None


def _pairing(args: argparse.Namespace, token: str | None) -> Pairing:
    from vivid_lattice.lan.serving import pairing_for

    return pairing_for(args.database.parent / "lan", args.lan_port, token)


def _serve_phones(running: ExitStack, args: argparse.Namespace, pairing: Pairing) -> None:
    """Starts the server on the local network, and says how a phone gets there."""
    from vivid_lattice.api.app import create_app
    from vivid_lattice.lan.serving import on_the_network

    phones = create_app(args.database, pairing.token, pairing)
    running.enter_context(on_the_network(phones, pairing, args.lan_port))
    if not pairing.bases:
        print("This machine is in no local network. Connect it, then start again.", file=sys.stderr)
        return
    print(qr_text(pairing.links[0]))
    print("Scan this with the phone, or open one of:")
    for link in pairing.links:
        print(f"  {link}")
    print(
        "Anyone who has the link can read and change every job.\n"
        f"To work without the network, the phone has to trust this machine once: open {pairing.bases[0]}/authority.crt on it\n"
        f"and install it as a CA certificate. Compare: SHA-256 {pairing.certificates.fingerprint()}",
        flush=True,
    )


def _is_loopback(host: str) -> bool:
    try:
        return ipaddress.ip_address(host).is_loopback
    except ValueError:
        return host == "localhost"


def _is_free(host: str, port: int) -> bool:
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    with socket.socket(family) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except socket.gaierror:
            raise
        except OSError:
            return False
    return True


def load_demos(database: Path) -> None:
    """Put the demo jobs into a database that has no jobs yet."""
    from vivid_lattice.store.database import connect
    from vivid_lattice.store.jobs import create_job, list_jobs

    with closing(connect(database)) as conn:
        if list_jobs(conn):
            return
        for name in reversed(DEMOS):
            create_job(conn, demo_job(name), f"demo {name} opened", "this machine", name)
