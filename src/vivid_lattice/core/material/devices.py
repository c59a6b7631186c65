"""Devices of the boards and outside them, as they are ordered over the counter."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from functools import partial

from vivid_lattice.core.assessment.assess import in_board_order
from vivid_lattice.core.board.layout.layout_problem import pairs_of_halves
from vivid_lattice.core.design.cost import pole_price
from vivid_lattice.core.document.base import is_auto
from vivid_lattice.core.document.job import Device
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.material.articles import article_of
from vivid_lattice.core.material.counting import Counting
from vivid_lattice.core.material.line import MaterialLine
from vivid_lattice.core.messages import Joined, Message, Text
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.text import Shown


def device_words(network: Installation, device: Device, poles: int) -> Message:
    """A device as it is ordered over the counter."""
    kind = network.rules.devices.kind(device.kind)
    parts: list[Text] = [kind.title, device.label]
    if device.rcd is not None:
        parts.append(rcd_words(network, device.rcd))
    if device.breaking_ka is not None:
        parts.append(f"{device.breaking_ka:g} kA")
    if device.arc_fault:
        parts.append(network.message("core.material.arc"))
    if device.switches_neutral:
        parts.append(network.message("core.material.neutral"))
    if device.modules is not None and not device.is_half:
        parts.append(network.message("core.material.modules", n=Shown(f"{device.modules:g}")))
    parts.append(network.message("core.material.poles", n=poles))
    return network.message("core.material.device", parts=Joined.of(parts, ", "))


def rcd_words(network: Installation, rcd: Rcd) -> Message:
    """A residual-current function as it is ordered over the counter."""
    name = network.rules.bands.rcd_name(rcd)
    return network.message("core.material.delayed", rcd=name) if rcd.time_delayed else name


def circuit_devices(counting: Counting) -> Iterator[MaterialLine]:
    """The devices of the circuits, those of one kind together."""
    network = counting.network
    count: Counter[Message] = Counter()
    prices: dict[Message, float | None] = {}
    for circuit in in_board_order(network.job):
        if is_auto(circuit.device):
            counting.lack("core.material.device_open", circuit=circuit.name)
            continue
        supplied = or_none(partial(network.tree.supplied, circuit))
        if supplied is None:
            counting.lack("core.material.line_open", circuit=circuit.name)
        if circuit.device.is_half:
            continue  # two of them are one piece
        poles = len(supplied.lines) if supplied else 1
        words = device_words(network, circuit.device, poles)
        each = pole_price(circuit.device, network.job.prices)
        count[words] += 1
        prices[words] = None if each is None else each * poles
    for words, price in _double_breakers(network):
        count[words] += 1
        prices[words] = price
    for words, many in sorted(count.items(), key=lambda pair: str(pair[0])):
        yield MaterialLine(
            group="device",
            article=article_of("device", words),
            what=words,
            quantity=float(many),
            unit="pcs",
            each=prices[words],
        )


def _double_breakers(network: Installation) -> Iterator[tuple[Message, float | None]]:
    """Breakers of which two are one piece: what it is called, and its price; a half without its mate is a whole one."""
    for model in network.boards.values():
        units = or_none(lambda m=model: m.units)  # type: ignore[misc]
        for pair in pairs_of_halves(units.all) if units is not None else ():
            devices = [unit.circuit.device for unit in pair if unit.circuit is not None]
            known = [device for device in devices if not is_auto(device)]
            prices = [pole_price(device, network.job.prices) for device in known]
            labels = " / ".join(device.label for device in known)
            kind = network.rules.devices.kind(known[0].kind).title
            price = None if None in prices else sum(price for price in prices if price is not None)
            yield network.message("core.material.double_breaker", kind=kind, ratings=labels), price


def local_devices(counting: Counting) -> Iterator[MaterialLine]:
    """Devices outside the boards: outlets with an RCD, fused units with their fuse, isolators."""
    for circuit in counting.network.job.circuits:
        for device in circuit.local_devices:
            parts: list[Text] = [counting.say(f"core.material.local.{device.kind}")]
            if device.rating_a is not None:
                parts.append(f"{device.rating_a:g} A")
            if device.fuse_a is not None:
                parts.append(counting.say("core.material.local_fuse", a=f"{device.fuse_a:g}"))
            if device.rcd is not None:
                parts.append(counting.network.rules.bands.rcd_name(device.rcd))
            text = counting.say("core.material.local", circuit=circuit.name, parts=Joined.of(parts, ", "))
            rooms = {load.room: 1.0 for load in circuit.loads[:1] if load.room}
            yield MaterialLine(
                group="device",
                article=article_of("device", text),
                what=text,
                quantity=1.0,
                unit="pcs",
                rooms=rooms,
            )
