"""The addresses by which a phone on the same network reaches this machine."""

from __future__ import annotations

import ipaddress
import socket
from contextlib import suppress

#: An address of each family reserved for documentation (RFC 5737, RFC 3849). Nothing is sent: the route to it gives this machine's own address.
_NOWHERE = ((socket.AF_INET, "192.0.2.1"), (socket.AF_INET6, "2001:db8::1"))

#: What a private network has its addresses from (RFC 1918, RFC 4193).
PRIVATE_NETWORKS = ("10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "fc00::/7")


def local_addresses() -> list[str]:
    """The addresses of this machine in private networks, the one that leads outwards first; none where it is in no network."""
    found: list[str] = []
    for family, nowhere in _NOWHERE:
        with suppress(OSError), socket.socket(family, socket.SOCK_DGRAM) as probe:
            probe.connect((nowhere, 9))
            found.append(str(probe.getsockname()[0]))
    with suppress(OSError):
        found += [str(entry[4][0]) for entry in socket.getaddrinfo(socket.gethostname(), None)]
    return [address for address in dict.fromkeys(found) if _is_local(address)]


def _is_local(address: str) -> bool:
    try:
        known = ipaddress.ip_address(address)
    except ValueError:  # with a scope: fe80::1%eth0
        return False
    networks = map(ipaddress.ip_network, PRIVATE_NETWORKS)
    return any(known in network for network in networks if network.version == known.version)


def host_name() -> str:
    """This machine's name in a local network, as a certificate can hold it; '' where it has none."""
    name = socket.gethostname().split(".")[0].casefold()
    return f"{name}.local" if name and name.isascii() and name.replace("-", "").isalnum() else ""


def in_url(address: str) -> str:
    """An address as a part of a URL.

    >>> in_url("192.168.1.20"), in_url("fd00::7")
    ('192.168.1.20', '[fd00::7]')
    """
    return f"[{address}]" if ":" in address else address
