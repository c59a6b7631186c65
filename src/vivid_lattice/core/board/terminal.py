"""A terminal of a board, and where a conductor ends."""

from __future__ import annotations

from typing import Any

from pydantic import GetCoreSchemaHandler
from pydantic_core import CoreSchema, core_schema

_BAR = "bar>"


class Terminal(str):
    """A terminal, written as its device, its conductor and its side: ``way:c1/L1/in``.

    Outside the board are the supply (``supply/L1``), the ends of cables (``cable:c1/L1``, of a ring ``cable:c1+1/L1`` and
    ``+2``), bonding conductors (``bond:1/PE``), the conductor to an electrode of its own (``electrode/PE``), the metal case
    (``case/PE``) and the switch of a contactor (``switch:k1/L1/out``).
    ``bar>`` before one: the terminal of the bar that its conductor goes to.

    >>> end = Terminal("way:c1/L1/in")
    >>> end.device, end.kind, end.name, end.conductor, end.side
    ('way:c1', 'way', 'c1', 'L1', 'in')
    >>> Terminal("cable:c2+1/N").circuit, Terminal("supply/L1").side, Terminal("bar>way:c1/N/out").at_bar
    ('c2', '', True)
    """

    __slots__ = ()

    @classmethod
    def of(cls, device: str, conductor: str, side: str) -> Terminal:
        """The terminal of a device.

        >>> Terminal.of("way:c1", "L1", "in")
        'way:c1/L1/in'
        """
        return cls(f"{device}/{conductor}/{side}")

    @property
    def at_bar(self) -> bool:
        """Whether it is the terminal of a bar, of the conductor that comes from ``without_bar``."""
        return self.startswith(_BAR)

    @property
    def without_bar(self) -> Terminal:
        """The terminal whose conductor goes to the bar; itself where no bar is meant."""
        return Terminal(self.removeprefix(_BAR))

    @property
    def on_bar(self) -> Terminal:
        """The terminal of the bar that this terminal's conductor goes to."""
        return Terminal(_BAR + self)

    @property
    def _parts(self) -> list[str]:
        return [*self.removeprefix(_BAR).split("/"), "", ""]

    @property
    def device(self) -> str:
        """Id of the device, or of what is outside the board: ``way:c1``, ``cable:c1+1``, ``supply``."""
        return self._parts[0]

    @property
    def conductor(self) -> str:
        """The conductor it is for: L1, N, PE, A1."""
        return self._parts[1]

    @property
    def side(self) -> str:
        """``in``, ``out``, ``tap`` or ``back``; '' of what has but one."""
        return self._parts[2]

    @property
    def kind(self) -> str:
        """What kind of device, or of thing outside the board: way, rcd, surge, cable, supply, bond."""
        return self.device.partition(":")[0]

    @property
    def name(self) -> str:
        """The device's own name within its kind: the circuit of a way, the number of a bond, circuit and leg of a cable."""
        return self.device.partition(":")[2]

    @property
    def circuit(self) -> str:
        """The circuit of a way's terminal or of a cable's end; '' of any other."""
        return self.name.partition("+")[0] if self.kind in ("way", "cable") else ""

    @property
    def cable(self) -> str:
        """The device without the leg of a ring: ``cable:c1`` for ``cable:c1+1``."""
        return self.device.partition("+")[0]

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        """Text to the one who reads an answer of the API."""
        return core_schema.no_info_after_validator_function(cls, core_schema.str_schema())
