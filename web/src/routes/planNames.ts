import type { CircuitRoute, Job } from "../api/client";
import { type Key, t } from "../messages/text";

export const SHAPES: Record<NonNullable<CircuitRoute["shape"]>, Key> = {
  radial: "web.routes.shape_radial",
  branch: "web.routes.shape_branch",
  joints: "web.routes.shape_joints",
  ring: "web.routes.shape_ring",
};
export const WAYS: Record<NonNullable<CircuitRoute["way"]>, Key> = {
  ceiling: "web.routes.way_ceiling",
  floor: "web.routes.way_floor",
  loft: "web.routes.way_loft",
  surface: "web.routes.way_surface",
  wall: "web.routes.way_wall",
};
export const FEEDS: Record<NonNullable<CircuitRoute["feed_at"]>, Key> = {
  light: "web.routes.feed_light",
  switch: "web.routes.feed_switch",
  "junction-box": "web.routes.feed_junction-box",
};

/** Kinds of points that can be dropped on the plan. */
export const KINDS = {
  socket: "web.routes.kind_socket",
  light: "web.routes.kind_light",
  switch: "web.routes.kind_switch",
  cooker: "web.routes.kind_cooker",
  "connection-unit": "web.routes.kind_connection-unit",
  alarm: "web.routes.kind_alarm",
  shower: "web.routes.kind_shower",
  heater: "web.routes.kind_heater",
  fan: "web.routes.kind_fan",
  data: "web.routes.kind_data",
  charger: "web.routes.kind_charger",
} as const satisfies Record<string, Key>;
export const DROPPED = Object.keys(KINDS) as (keyof typeof KINDS)[];

/** The choices of a table of names. */
export const named = (texts: Record<string, Key>) =>
  Object.entries(texts).map(([value, text]) => ({ value, label: t(text) }));

/** What a box of a circuit is called. */
export function nameOf(id: string, document: Job): string {
  if (id === "feed") return t("web.routes.board");
  const made = id.match(/^(?:box|joint)-(\d+)$/);
  if (made) return t("web.routes.joint_box", { n: made[1] ?? "" });
  return document.plan?.points?.find((point) => point.id === id)?.name ?? id;
}

/** Metres as they are shown. */
export const metres = (value: number) => value.toFixed(2);
