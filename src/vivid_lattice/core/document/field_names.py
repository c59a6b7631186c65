"""Former names of fields of the document, and how data that has them is brought to the present ones."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any


@dataclass(frozen=True, slots=True, kw_only=True)
class Renames:
    """Former names of an object's fields. ``fields``: former to present; ``values``: by present field, former to present value;
    ``parts``: by present field, the renames of the object, or of each object of the list, that is in it."""

    fields: Mapping[str, str] = field(default_factory=dict)
    values: Mapping[str, Mapping[str, str]] = field(default_factory=dict)
    parts: Mapping[str, Renames] = field(default_factory=dict)


def renamed(data: Any, renames: Renames) -> Any:
    """The data with present names. What is neither an object nor a list is left as it is, and so is a former name next to the
    present one, so that the reader names it by its path."""
    if isinstance(data, list | tuple):
        return [renamed(item, renames) for item in data]
    if not isinstance(data, dict):
        return data
    fields, values, parts = renames.fields, renames.values, renames.parts
    result: dict[str, Any] = {}
    for former, value in data.items():
        name = fields.get(former, former)
        if name is not former and name in data:
            name = former
        if name in parts:
            value = renamed(value, parts[name])
        elif name in values and isinstance(value, str):
            value = values[name].get(value, value)
        result[name] = value
    return result


_RCD = Renames(fields={"delayed": "time_delayed", "short_delay": "short_time_delayed"})
_HAS_RCD = Renames(parts={"rcd": _RCD})
_EXISTING_RCD = Renames(fields={"delayed": "time_delayed"})
_POSITION = Renames(
    fields={
        "across_m": "distance_m",
        "stands_c": "rated_ambient_c",
        "cable_c": "cable_rated_c",
        "made_for_zone": "zone_permitted",
    }
)
_MAX_BACKUP = {"backup_most_a": "max_backup_a"}

FAMILY = Renames(fields={"doubles": "two_conductors", "comb_height_mm": "busbar_height_mm", **_MAX_BACKUP})

_BUILD = Renames(
    fields={
        "standing": "mounting",
        "wishes": "layout_preferences",
        "spots": "device_positions",
        "comb": "busbar_stock",
        "habits": "wiring_defaults",
        "neutrals": "neutral_connections",
    },
    parts={
        "enclosure": Renames(
            fields={
                "dissipates_w": "heat_dissipation_w",
                "bars": "bar_position",
                "bar_places": "bar_terminals",
                "entries": "cable_entries",
                "blanks": "openings_closed",
            },
            values={"form": {"stab": "panelboard"}, "bar_position": {"apart": "split"}},
        ),
        "mounting": Renames(
            fields={
                "handle_m": "highest_handle_m",
                "bottom_m": "bottom_edge_m",
                "across_m": "distance_m",
                "place": "location",
                "clear_m": "clear_depth_m",
            }
        ),
        "layout_preferences": Renames(
            fields={
                "main": "main_switch_side",
                "feed": "supply_entry",
                "hot_apart": "separate_warm_devices",
                "lights": "lighting_position",
            }
        ),
        "device_positions": Renames(fields={"unit": "device", "at": "offset_modules"}),
        "busbar_stock": Renames(
            fields={"teeth": "pins", "height_mm": "terminal_height_mm", "ends_insulated": "end_caps"}
        ),
        "wiring_defaults": Renames(
            fields={
                "link_mm2": "min_link_mm2",
                "conductor": "link_conductor",
                "ring_fed": "rcds_ring_fed",
                "slack_mm": "extra_length_mm",
                "combs": "use_busbars",
            }
        ),
        "labels": Renames(fields={"main_earth_at": "main_earth_location"}),
    },
)

_BOARD = Renames(
    fields={
        "ways_total": "way_count",
        "rcds": "shared_rcds",
        "surge": "spds",
        "relay": "voltage_relay",
        "gear": "control_gear",
        "housing": "build",
    },
    parts={
        "main_switch": Renames(fields={"breaks": "switched_poles"}, parts={"rcd": _RCD}),
        "shared_rcds": _HAS_RCD,
        "spds": Renames(
            fields={"gap_to_earth": "spark_gap_to_earth", "window": "status", **_MAX_BACKUP},
            values={"status": {"unseen": "unchecked"}},
        ),
        "build": _BUILD,
    },
)

_CIRCUIT = Renames(
    fields={"spread": "distributed_load"},
    parts={
        "loads": Renames(
            fields={
                "dc": "dc_residual",
                "inverter": "frequency_converter",
                "pen_guard": "open_pen_protection",
                "placed": "position",
            },
            parts={"position": _POSITION},
        ),
        "accessories": Renames(fields={"placed": "position"}, parts={"position": _POSITION}),
        "run": Renames(fields={"hidden": "concealed_in", "metal_cover": "earthed_metal_covering"}),
        "cable": Renames(fields={"cpc_beside_mm2": "parallel_cpc_mm2"}),
        "device": _HAS_RCD,
        "preferred": _HAS_RCD,
    },
)

_SURVEYED = Renames(
    fields={"main": "main_device", "main_breaks": "main_switched_poles", "seen": "observations"},
    parts={
        "main_rcd": _EXISTING_RCD,
        "ways": Renames(
            fields={"proven": "tested", "turned_out": "actually_feeds", "cables": "cable_count"},
            parts={"rcd": _EXISTING_RCD},
        ),
        "observations": Renames(fields={"what": "kind"}),
    },
)

#: Of the whole document: versions 1 and 2, and version 3 before its names were settled.
DOCUMENT = Renames(
    fields={"paperwork": "work_details"},
    parts={
        "work_details": Renames(fields={"work": "kind"}),
        "supply": Renames(
            fields={"service": "service_cable"},
            parts={
                "earthing": Renames(fields={"electrode": "electrode_only"}),
                "prerequisites": Renames(fields={"on": "due_on"}),
            },
        ),
        "surge": Renames(parts={"declined": Renames(fields={"by": "name", "on": "date", "why": "reason"})}),
        "families": FAMILY,
        "rooms": Renames(fields={"outlet_m": "water_outlet_height_m", "rim_m": "rim_height_m", "jets": "water_jets"}),
        "boards": _BOARD,
        "circuits": _CIRCUIT,
        "survey": Renames(parts={"boards": _SURVEYED}),
    },
)
