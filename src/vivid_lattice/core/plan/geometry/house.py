"""The rooms of a plan by name, their floors by level, and where each point and board is: x and y on its floor, z above that floor."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.document.plan import BoardPlace, FloorBuild, Plan, PlanPoint, RoomShape, Wall
from vivid_lattice.core.rules.plan_rules import PlanRules

#: The kind of height that a kind of point has; a light without one is on the ceiling.
_HEIGHT_OF: Mapping[str, str] = {
    "socket": "socket", "switch": "switch", "dimmer": "switch", "sensor": "switch", "pull-cord": "switch", "cooker": "cooker",
    "connection-unit": "socket", "data": "data", "shaver": "shaver", "charger": "charger", "heater": "socket",
    "shower": "switch",
}  # fmt: skip
#: What is on the ceiling of its room.
ON_CEILING = frozenset({"light", "alarm", "junction-box", "fan"})


@dataclass(frozen=True, slots=True)
class Spot:
    """A place in the house [m]: on a floor, x and y there, z above the finished floor. ``face``: the room and wall it is on; None: none."""

    level: int
    x_m: float
    y_m: float
    z_m: float
    face: tuple[str, Wall] | None = None


class House:
    """A plan with its rooms and floors by name."""

    def __init__(self, plan: Plan, rules: PlanRules):
        self.plan, self._rules = plan, rules
        self.rooms: Mapping[str, RoomShape] = {shape.room: shape for shape in plan.rooms}
        self._floors = {floor.level: floor for floor in plan.floors}

    @property
    def wall_zone_m(self) -> float:
        """How far below the ceiling cables in walls run [m]."""
        return self._rules.wall_zone_m

    def floor(self, level: int) -> FloorBuild:
        """How a floor is built; as usual where the plan does not say."""
        return self._floors.get(level, FloorBuild(level=level))

    def base_m(self, level: int) -> float:
        """The finished floor of a level above that of the ground floor [m]: rooms of the highest ceiling, and what is between.

        Equation  level of the floor above = room height + thickness of the floor
        """
        between = range(level) if level >= 0 else range(level, 0)
        rise = sum(self.height_m(each) + self.floor(each).thickness_m for each in between)
        return rise if level >= 0 else -rise

    def height_m(self, level: int) -> float:
        """The height of a floor's rooms [m]: the highest."""
        return max((shape.height_m for shape in self.plan.rooms if shape.level == level), default=2.4)

    def has_room_at(self, level: int, place: tuple[float, float]) -> bool:
        """Whether a room of a floor is at a place on the plan."""
        x, y = place
        return any(
            x0 <= x <= x1 and y0 <= y <= y1
            for shape in self.rooms.values()
            if shape.level == level
            for x0, x1, y0, y1 in boxes_of(shape)
        )

    def spot_of(self, point: PlanPoint) -> Spot:
        """Where a point is. KeyError where its room is not on the plan."""
        if point.plate is not None:
            return self.spot_of(next(each for each in self.plan.points if each.id == point.plate))
        shape, height_m = self.rooms[point.room], self.point_height_m(point)
        if point.wall is not None and point.along_m is not None:
            return Spot(shape.level, *on_wall(shape, point.wall, point.along_m), height_m, (point.room, point.wall))
        return Spot(shape.level, shape.x_m + (point.x_m or 0.0), shape.y_m + (point.y_m or 0.0), height_m)

    def spot_of_board(self, place: BoardPlace) -> Spot:
        """Where a board is."""
        shape = self.rooms[place.room]
        return Spot(shape.level, *on_wall(shape, place.wall, place.along_m), place.height_m, (place.room, place.wall))

    def point_height_m(self, point: PlanPoint) -> float:
        """The height of a point [m]: as stated, on the ceiling, or the usual one of its kind in the standard."""
        if point.height_m is not None:
            return point.height_m
        shape = self.rooms[point.room]
        if point.kind in ON_CEILING and point.wall is None:
            return shape.height_m
        kind = "worktop" if point.above_worktop else _HEIGHT_OF.get(point.kind, "socket")
        usual = self._rules.height(kind)
        return usual.usual_m if usual is not None else 0.45


def wall_length_m(shape: RoomShape, wall: Wall) -> float:
    """The length of a wall [m], the part of a missing corner too."""
    return shape.width_m if wall in ("front", "back") else shape.depth_m


def on_wall(shape: RoomShape, wall: Wall, along_m: float) -> tuple[float, float]:
    """The x and y of a place on a wall, by its distance from the left or front end. Where a corner is missing, the wall is further back."""
    along = min(max(along_m, 0.0), wall_length_m(shape, wall))
    x, y = {
        "front": (along, 0.0),
        "back": (along, shape.depth_m),
        "left": (0.0, along),
        "right": (shape.width_m, along),
    }[wall]
    notch = shape.notch
    if notch is not None:
        back, right = notch.corner.startswith("back"), notch.corner.endswith("right")
        in_x = x > shape.width_m - notch.width_m if right else x < notch.width_m
        in_y = y > shape.depth_m - notch.depth_m if back else y < notch.depth_m
        if in_x and in_y:
            if wall in ("front", "back"):
                y = shape.depth_m - notch.depth_m if back else notch.depth_m
            else:
                x = shape.width_m - notch.width_m if right else notch.width_m
    return shape.x_m + x, shape.y_m + y


def boxes_of(shape: RoomShape) -> tuple[tuple[float, float, float, float], ...]:
    """A room as one rectangle, or two where a corner is missing: x from and to, y from and to [m]."""
    x0, y0, x1, y1 = shape.x_m, shape.y_m, shape.x_m + shape.width_m, shape.y_m + shape.depth_m
    notch = shape.notch
    if notch is None:
        return ((x0, x1, y0, y1),)
    right, back = notch.corner.endswith("right"), notch.corner.startswith("back")
    beside = (x0, x1 - notch.width_m) if right else (x0 + notch.width_m, x1)
    whole = (y0, y1 - notch.depth_m) if back else (y0 + notch.depth_m, y1)
    return (x0, x1, *whole), (*beside, y0, y1)


def area_m2(shape: RoomShape) -> float:
    """The floor of a room [m²]."""
    missing = 0.0 if shape.notch is None else shape.notch.width_m * shape.notch.depth_m
    return shape.width_m * shape.depth_m - missing
