"""How a phone is paired: for the page that shows the QR code, and the authority's certificate that the phone has to trust."""

from __future__ import annotations

from fastapi import APIRouter, HTTPException, Request
from fastapi.responses import FileResponse, Response
from pydantic import BaseModel

from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.core.messages import message
from vivid_lattice.lan.pairing import Pairing, qr_svg

router = APIRouter(tags=["server"])
#: Without a token: it is no secret, and the phone needs it before it is paired.
AUTHORITY = "/authority.crt"


class PairingLink(BaseModel):
    """An address with the access token in it, and its QR code."""

    link: str
    svg: str


class PairingView(BaseModel):
    """How a phone reaches this server. ``available``: whether it is on the local network at all."""

    available: bool
    links: list[PairingLink] = []
    authority: str = ""
    fingerprint: str = ""


@router.get("/api/pairing")
def show_pairing(request: Request) -> PairingView:
    """The links with their QR codes. Anyone who sees one can read and change every job."""
    pairing: Pairing | None = request.app.state.pairing
    if pairing is None:
        return PairingView(available=False)
    return PairingView(
        available=True,
        links=[PairingLink(link=link, svg=qr_svg(link)) for link in pairing.links],
        authority=f"{pairing.bases[0]}{AUTHORITY}" if pairing.bases else "",
        fingerprint=pairing.certificates.fingerprint(),
    )


@router.get(AUTHORITY, responses=NOT_FOUND, include_in_schema=False)
def download_authority(request: Request) -> Response:
    """The certificate of this machine's own authority."""
    pairing: Pairing | None = request.app.state.pairing
    if pairing is None:
        raise HTTPException(404, message(None, "api.nothing_at", path=AUTHORITY.lstrip("/")))
    return FileResponse(
        pairing.certificates.authority, media_type="application/x-x509-ca-cert", filename="vivid-lattice.crt"
    )
