"""TLS certificates made at first use: an authority of this machine alone, and with it one for the addresses that it has today.

The authority may vouch for nothing but private networks and names of the local network, so that a phone that trusts it trusts no other
site by it. Its key never leaves the folder.
"""

from __future__ import annotations

import ipaddress
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

from vivid_lattice.files import write_private
from vivid_lattice.lan.addresses import PRIVATE_NETWORKS

#: The clock of a phone may be behind.
_BEFORE = timedelta(days=7)
_AUTHORITY_FOR = timedelta(days=3650)
#: Browsers take none that is good for longer than 398 days.
_FOR = timedelta(days=390)
_RENEW_BEFORE = timedelta(days=60)
_NETWORKS = (*PRIVATE_NETWORKS, "127.0.0.0/8", "::1/128")
_ALWAYS = ("127.0.0.1", "::1")
_NAMES = ("localhost",)


@dataclass(frozen=True, slots=True)
class Certificates:
    """Files of a server's certificates: the authority's, to be trusted by a phone; the server's own with its key."""

    authority: Path
    certificate: Path
    key: Path

    def fingerprint(self) -> str:
        """The authority's SHA-256 fingerprint, to be compared by eye."""
        made = x509.load_pem_x509_certificate(self.authority.read_bytes())
        return made.fingerprint(hashes.SHA256()).hex(":").upper()


def certificates_in(folder: Path, addresses: Sequence[str], names: Sequence[str], now: datetime) -> Certificates:
    """The certificates in a folder; made where they are not there, and the server's renewed where it soon ends, or does not have an
    address or name.

    addresses, names    by which the server is reached; loopback's are always in
    now                 with its time zone
    """
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    files = Certificates(folder / "authority.crt", folder / "server.crt", folder / "server.key")
    authority_key = folder / "authority.key"
    if not (files.authority.is_file() and authority_key.is_file()):
        _make_authority(files.authority, authority_key, now)
        files.certificate.unlink(missing_ok=True)
    wanted = ({*addresses, *_ALWAYS}, {*(name for name in names if name), *_NAMES})
    if not _is_good(files, wanted, now):
        _make_certificate(files, authority_key, wanted, now)
    return files


def _make_authority(target: Path, key_file: Path, now: datetime) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, f"Vivid Lattice, this machine, {now:%Y-%m-%d}")])
    networks = [x509.IPAddress(ipaddress.ip_network(network)) for network in _NETWORKS]
    constraints = x509.NameConstraints([*networks, x509.DNSName("local"), x509.DNSName("localhost")], None)
    made = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - _BEFORE)
        .not_valid_after(now + _AUTHORITY_FOR)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(constraints, critical=True)
        .add_extension(_usage(signs_certificates=True), critical=True)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
        .sign(key, hashes.SHA256())
    )
    _write_key(key_file, key)
    target.write_bytes(made.public_bytes(serialization.Encoding.PEM))


def _is_good(files: Certificates, wanted: tuple[set[str], set[str]], now: datetime) -> bool:
    try:
        made = x509.load_pem_x509_certificate(files.certificate.read_bytes())
        authority = x509.load_pem_x509_certificate(files.authority.read_bytes())
        made.verify_directly_issued_by(authority)
        key = serialization.load_pem_private_key(files.key.read_bytes(), None)
        names = made.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    except (OSError, ValueError, TypeError, x509.ExtensionNotFound):
        return False
    addresses = {str(each) for each in names.get_values_for_type(x509.IPAddress)}
    known = wanted[0] <= addresses and wanted[1] <= set(names.get_values_for_type(x509.DNSName))
    in_time = made.not_valid_before_utc <= now <= made.not_valid_after_utc - _RENEW_BEFORE
    return known and in_time and key.public_key() == made.public_key()


def _make_certificate(
    files: Certificates, authority_key: Path, wanted: tuple[set[str], set[str]], now: datetime
) -> None:
    authority = x509.load_pem_x509_certificate(files.authority.read_bytes())
    signer = serialization.load_pem_private_key(authority_key.read_bytes(), None)
    assert isinstance(signer, ec.EllipticCurvePrivateKey)
    key = ec.generate_private_key(ec.SECP256R1())
    addresses = [x509.IPAddress(ipaddress.ip_address(each)) for each in sorted(wanted[0])]
    names = [x509.DNSName(each) for each in sorted(wanted[1])]
    made = (
        x509.CertificateBuilder()
        .subject_name(x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Vivid Lattice")]))
        .issuer_name(authority.subject)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - _BEFORE)
        .not_valid_after(now + _FOR)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(x509.SubjectAlternativeName([*addresses, *names]), critical=False)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(_usage(signs_certificates=False), critical=True)
        .add_extension(x509.AuthorityKeyIdentifier.from_issuer_public_key(signer.public_key()), critical=False)
        .sign(signer, hashes.SHA256())
    )
    _write_key(files.key, key)
    files.certificate.write_bytes(made.public_bytes(serialization.Encoding.PEM))


def _usage(*, signs_certificates: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs_certificates,
        key_cert_sign=signs_certificates,
        crl_sign=signs_certificates,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        encipher_only=False,
        decipher_only=False,
    )


def _write_key(target: Path, key: ec.EllipticCurvePrivateKey) -> None:
    pem = key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption())
    write_private(target, pem)
