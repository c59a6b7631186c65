"""What a device at a point needs: its terminals by the conductor they are for, and what its contacts join in each position.

Conductors are named by what they do: L, N, PE; SL a switched line, T a strapper, X the common link of the three-wire form, I an interlink
of alarms, SN a neutral behind a two-pole switch.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

Net = str
LINE, NEUTRAL, EARTH = "L", "N", "PE"


@dataclass(frozen=True, slots=True)
class Contact:
    """What a switch may join at its place: for each position the pairs of conductors."""

    positions: tuple[tuple[tuple[Net, Net], ...], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Terminals:
    """A device as it is wired.

    name      what it is called in its box
    nets      a conductor for each terminal, protective conductor apart; one net more than once where it has that many terminals
    earthed   whether it has a terminal for the protective conductor
    contact   of a switch
    load      of what is to be supplied: its lines, and its neutral last where it has one
    """

    name: str
    nets: tuple[Net, ...]
    earthed: bool = False
    contact: Contact | None = None
    load: tuple[Net, ...] | None = None


def light(switched: Net = "SL", neutral: Net = NEUTRAL, name: str = "light") -> Terminals:
    """A light on a switched line, or on the permanent one."""
    return Terminals(name=name, nets=(switched, neutral), earthed=True, load=(switched, neutral))


def light_with_permanent_line(switched: Net = "SL", name: str = "light") -> Terminals:
    """A light that needs the permanent line beside the switched one: with a battery, a sensor or dimming by radio."""
    return Terminals(name=name, nets=(LINE, switched, NEUTRAL), earthed=True, load=(switched, NEUTRAL))


def outlet(line: Net = LINE, name: str = "socket") -> Terminals:
    """A socket-outlet or a fixed outlet, on the permanent line or on a switched one."""
    return Terminals(name=name, nets=(line, NEUTRAL), earthed=True, load=(line, NEUTRAL))


def outlet_on_lines(lines: Sequence[Net], *, neutral: bool, name: str) -> Terminals:
    """An outlet on several lines, with the neutral or without."""
    nets = (*lines, NEUTRAL) if neutral else tuple(lines)
    return Terminals(name=name, nets=nets, earthed=True, load=nets)


def on_line(device: Terminals, line: Net) -> Terminals:
    """A device whose permanent line is one of several."""

    def named(net: Net) -> Net:
        return line if net == LINE else net

    contact = device.contact and Contact(
        tuple(tuple((named(a), named(b)) for a, b in position) for position in device.contact.positions)
    )
    load = None if device.load is None else tuple(map(named, device.load))
    return replace(device, nets=tuple(map(named, device.nets)), contact=contact, load=load)


def one_way(switched: Sequence[Net] = ("SL",), name: str = "one-way switch") -> tuple[Terminals, ...]:
    """One-way switches in one plate, pull-cord and dimmer of two wires as well: the line, and a switched line a gang."""
    return tuple(Terminals(name=name, nets=(LINE, net), contact=Contact(((), ((LINE, net),)))) for net in switched)


def two_pole(switched: Net = "SL", neutral: Net = "SN", name: str = "two-pole switch") -> Terminals:
    """A switch of line and neutral."""
    both = ((LINE, switched), (NEUTRAL, neutral))
    return Terminals(name=name, nets=(LINE, NEUTRAL, switched, neutral), contact=Contact(((), both)))


def two_way_at_supply(strappers: tuple[Net, Net], name: str = "two-way switch") -> Terminals:
    """The first of two-way switches with strappers: the line on its common."""
    return _changeover(LINE, strappers, name)


def two_way_at_light(switched: Net, strappers: tuple[Net, Net], name: str = "two-way switch") -> Terminals:
    """The last of them: the switched line on its common."""
    return _changeover(switched, strappers, name)


def two_way_three_wire(
    switched: Net, link: Net, name: str = "two-way switch", pair: tuple[Net, Net] | None = None
) -> Terminals:
    """A two-way switch of the three-wire form: line and switched line on its two contacts, the link on its common."""
    return _changeover(link, pair or (LINE, switched), name)


def _changeover(common: Net, contacts: tuple[Net, Net], name: str) -> Terminals:
    a, b = contacts
    return Terminals(name=name, nets=(common, a, b), contact=Contact((((common, a),), ((common, b),))))


def intermediate(in_: tuple[Net, Net], out: tuple[Net, Net], name: str = "intermediate switch") -> Terminals:
    """A switch in a pair of conductors: straight through, or crossed."""
    (a, b), (c, d) = in_, out
    return Terminals(name=name, nets=(a, b, c, d), contact=Contact((((a, c), (b, d)), ((a, d), (b, c)))))


def sensor(switched: Net = "SL", name: str = "sensor") -> Terminals:
    """A presence or twilight sensor of three wires; it is supplied all the time."""
    return _supplied_switch(switched, name)


def electronic_switch(switched: Net = "SL", name: str = "electronic switch") -> Terminals:
    """A dimmer, timer or radio switch that needs the neutral."""
    return _supplied_switch(switched, name)


def _supplied_switch(switched: Net, name: str) -> Terminals:
    contact = Contact(((), ((LINE, switched),)))
    return Terminals(name=name, nets=(LINE, NEUTRAL, switched), contact=contact, load=(LINE, NEUTRAL))


def fan_with_timer(switched: Net = "SL", name: str = "fan") -> Terminals:
    """A fan that runs on: permanent and switched line."""
    return Terminals(name=name, nets=(LINE, switched, NEUTRAL), load=(LINE, NEUTRAL))


def isolator(nets: Sequence[Net], name: str = "isolator") -> tuple[Terminals, ...]:
    """An isolator on the way: each conductor comes in and leaves; what is behind it has the name of the conductor with a dash."""
    pairs = tuple((net, behind(net)) for net in nets)
    return (Terminals(name=name, nets=tuple(net for pair in pairs for net in pair), contact=Contact(((), pairs))),)


def behind(net: Net) -> Net:
    """The conductor behind an isolator."""
    return f"{net}'"


def alarm(name: str = "alarm") -> Terminals:
    """A smoke or heat alarm with an interlink."""
    return Terminals(name=name, nets=(LINE, NEUTRAL, "I"), load=(LINE, NEUTRAL))


def shutter_switch(name: str = "shutter switch") -> Terminals:
    """Up, off and down."""
    return Terminals(name=name, nets=(LINE, "UP", "DN"), contact=Contact(((), ((LINE, "UP"),), ((LINE, "DN"),))))


def shutter_motor(name: str = "shutter") -> Terminals:
    """A motor with a line for each direction."""
    return Terminals(name=name, nets=("UP", "DN", NEUTRAL), earthed=True)


@dataclass(frozen=True, slots=True)
class Strappers:
    """Names for the conductors between switches of one group: T1 and T2, T3 and T4 behind an intermediate switch."""

    prefix: str = "T"
    used: list[int] = field(default_factory=lambda: [0])

    def pair(self) -> tuple[Net, Net]:
        """The next two."""
        self.used[0] += 2
        return f"{self.prefix}{self.used[0] - 1}", f"{self.prefix}{self.used[0]}"
