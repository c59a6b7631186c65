"""A simulated multifunction tester from the shell, with its leads on a job."""

from __future__ import annotations

import argparse
import sys
import threading
from pathlib import Path
from typing import Any

from vivid_lattice.core.job_file import read_document
from vivid_lattice.instruments.server import instrument_on
from vivid_lattice.instruments.simulated import SERIAL, simulated_tester


def add_commands(commands: Any) -> None:
    """Puts ``instrument`` beside the other commands."""
    command = commands.add_parser("instrument", help="start a simulated multifunction tester with its leads on a job")
    command.add_argument("file", type=Path)
    command.add_argument("--port", type=int, default=8767, help="local TCP port (default: 8767)")
    command.add_argument("--seed", type=int, default=0, help="of the errors of the instrument")
    command.set_defaults(run=_instrument)


def _instrument(args: argparse.Namespace) -> int:
    tester = simulated_tester(read_document(args.file.read_bytes()), args.seed)
    try:
        with instrument_on(tester, args.port) as port:
            print(f"Simulated tester {SERIAL} on port {port} of this machine (Ctrl+C stops it)", flush=True)
            threading.Event().wait()
    except KeyboardInterrupt:
        return 0
    except OSError:
        print(f"Port {args.port} is in use. Choose another one with --port.", file=sys.stderr)
        return 2
    return 0
