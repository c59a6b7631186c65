"""The material list, the cuts and the fixings as plain values, for the commands that print them."""

from __future__ import annotations

from typing import Any

from vivid_lattice.core.material.line import CutList, Material
from vivid_lattice.core.plan.fixing.fixing_plan import FixingPlan


def material_json(material: Material) -> dict[str, Any]:
    """What to buy and how to cut it: quantities as they are counted and as they are bought, money in the currency of the price list."""
    return {
        "material": [
            {
                "group": line.group, "article": line.article, "what": str(line.what), "quantity": line.quantity,
                "unit": line.unit, "pack": line.pack, "packs": line.packs, "each": line.each, "cost": line.cost,
                "rooms": dict(line.rooms), "note": str(line.note),
            }
            for line in material.items
        ],
        "cuts": [_cuts(each) for each in material.cuts],
        "missing": [str(each) for each in material.missing],
        "cost": material.cost,
    }  # fmt: skip


def _cuts(cuts: CutList) -> dict[str, Any]:
    return {
        "article": cuts.article,
        "what": str(cuts.what),
        "pieces": [{"for": str(piece.label), "length_m": piece.length_m} for piece in cuts.pieces],
        "plan": None
        if cuts.plan is None
        else [
            {"from_mm": cut.stock.length_mm, "pieces_mm": list(cut.pieces_mm), "rest_mm": cut.rest_mm}
            for cut in cuts.plan.cuts
        ],
        "gap": None if cuts.plan is None else cuts.plan.gap,
    }


def fixing_json(fixing: FixingPlan) -> dict[str, Any]:
    """Clips, holes, chases and marks: lengths in metres, drills and depths in millimetres."""
    return {
        "fixings": [
            {
                "circuit": each.circuit, "from": each.a, "to": each.b, "what": str(each.what), "conduit": each.conduit,
                "count": each.count, "bends": each.bends, "not_known_m": round(each.open_m, 3),
                "parts": [
                    {"length_m": part.length_m, "direction": part.direction, "held": part.held, "count": part.count}
                    for part in each.parts
                ],
            }
            for each in fixing.sections
        ],
        "drill_list": [
            {
                "room": row.room, "void": row.void, "from_wall": row.from_wall, "joists_at_m": list(row.joists_at_m),
                "support_wall": row.support_wall, "at_m": row.at_m, "circuits": list(row.circuits), "kind": row.kind,
                "size_mm": row.size_mm, "holes": row.holes, "cover_mm": row.cover_mm, "protect": row.protect,
                "refused": _text(row.refused), "lack": _text(row.lack),
            }
            for row in fixing.joists
        ],
        "studs": [
            {
                "room": row.room, "wall": row.wall, "circuit": row.circuit, "height_m": row.height_m, "count": row.count,
                "size_mm": row.size_mm, "protect": row.protect, "refused": _text(row.refused), "lack": _text(row.lack),
            }
            for row in fixing.studs
        ],
        "chases": [
            {
                "room": row.room, "wall": row.wall, "direction": row.direction, "length_m": row.length_m,
                "along_m": row.along_m, "height_m": row.height_m, "needed_mm": row.needed_mm,
                "limit_mm": None if row.limit is None else round(row.limit.depth_m * 1000, 2), "refused": _text(row.refused),
            }
            for row in fixing.chases
        ],
        "marks": [
            {
                "room": mark.room, "point": mark.point, "wall": mark.wall, "from_wall": mark.from_wall,
                "distance_m": mark.distance_m, "x_m": mark.x_m, "y_m": mark.y_m, "height_m": mark.height_m,
            }
            for mark in fixing.marks
        ],
        "fixing_questions": [str(each) for each in fixing.questions],
    }  # fmt: skip


def _text(text: object) -> str | None:
    return None if text is None else str(text)
