"""Pairing a phone: the address with the access token in it, as a link and as a QR code."""

from __future__ import annotations

import io
import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import segno

from vivid_lattice.files import write_private
from vivid_lattice.lan.addresses import in_url
from vivid_lattice.lan.certificates import Certificates


@dataclass(frozen=True, slots=True)
class Pairing:
    """How a phone reaches this server. ``bases``: the server's addresses without the token, the most likely one first."""

    bases: tuple[str, ...]
    token: str
    certificates: Certificates

    @property
    def links(self) -> list[str]:
        """The addresses with the token in them: anyone who has one can read and change every job."""
        return [f"{base}/?token={self.token}" for base in self.bases]


def pairing_of(certificates: Certificates, token: str, addresses: Sequence[str], port: int) -> Pairing:
    """The pairing of a server at some addresses."""
    return Pairing(tuple(f"https://{in_url(each)}:{port}" for each in addresses), token, certificates)


def token_in(folder: Path) -> str:
    """The access token kept in a folder; made at first use. A phone that was paired stays paired when the server starts again."""
    file = folder / "token"
    try:
        kept = file.read_text("ascii").strip()
        if kept:
            return kept
    except (OSError, UnicodeDecodeError):
        pass
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    made = secrets.token_urlsafe(24)
    write_private(file, f"{made}\n".encode())
    return made


def qr_text(link: str) -> str:
    """A link as a QR code of half blocks, for a terminal."""
    out = io.StringIO()
    segno.make(link, error="l").terminal(out, compact=True)
    return out.getvalue()


def qr_svg(link: str) -> str:
    """A link as a QR code in SVG, black on white whatever the page's colours are."""
    out = io.BytesIO()
    segno.make(link, error="m").save(out, kind="svg", scale=4, border=4, dark="#000", light="#fff", xmldecl=False)
    return out.getvalue().decode()
