import type { BoardView, Conductor, DeviceView, LiveView } from "../api/client";
import { say } from "../messages/say";

/** A place on the rails: row, and modules from its start. */
export type Place = { row: number; at: number };

/** The place a device is dropped at, by where its upper left corner is [mm]; the nearest row, the nearest half module. */
export function placeAt(view: BoardView, unit: DeviceView, x: number, y: number): Place {
  const middleX = x + unit.box.w / 2;
  const middleY = y + unit.box.h / 2;
  const stab = view.form === "panelboard";
  let row = 1;
  let nearest = Number.POSITIVE_INFINITY;
  for (const [at, box] of view.rows.entries()) {
    const away = stab ? Math.abs(middleX - box.x - box.w / 2) : Math.abs(middleY - box.y - box.h / 2);
    if (away < nearest) {
      nearest = away;
      row = at + 1;
    }
  }
  const box = view.rows[row - 1];
  if (!box) return { row: 1, at: 0 };
  const raw = (stab ? y - box.y : x - box.x) / view.step_mm;
  const room = (stab ? box.h : box.w) / view.step_mm - unit.wide;
  const step = stab ? 1 : 2;
  return { row, at: Math.max(0, Math.min(room, Math.round(raw * step) / step)) };
}

/** Where an arrow key takes a device. */
export function placeByKey(view: BoardView, unit: DeviceView, key: string): Place | undefined {
  const stab = view.form === "panelboard";
  const along: Record<string, number> = stab
    ? { ArrowUp: -1, ArrowDown: 1 }
    : { ArrowLeft: -1, ArrowRight: 1 };
  const across: Record<string, number> = stab
    ? { ArrowLeft: -1, ArrowRight: 1 }
    : { ArrowUp: -1, ArrowDown: 1 };
  if (key in along) return { row: unit.row, at: Math.max(0, unit.offset_modules + (along[key] ?? 0)) };
  const row = unit.row + (across[key] ?? 0);
  return key in across && row >= 1 && row <= view.rows.length ? { row, at: unit.offset_modules } : undefined;
}

/** What a conductor between its two terminals is, so that a tick of one that has changed since does not count. */
export function asMade(conductor: Conductor): string {
  return [conductor.area_mm2 ? say(conductor.size) : "", conductor.colour].join(" | ");
}

/** Whether a tick is of the conductor as it is now. Older programs also kept the terminals in words, which its id tells. */
export const madeAs = (ticked: string | undefined, conductor: Conductor): boolean =>
  ticked !== undefined &&
  (ticked === asMade(conductor) || ticked.endsWith(` | ${asMade(conductor)}`) || !conductor.area_mm2);

/** How each net of a board stands, by its id. */
export function liveByNet(view: BoardView): Map<string, LiveView> {
  return new Map(view.live.map((liveNet) => [liveNet.net, liveNet]));
}

/** Whether a net can be touched at a voltage: of the supply, of another source, or through what is connected. */
export const isHot = (state: string | undefined): boolean =>
  state === "live" || state === "generated" || state === "through-load";

/** The net each terminal of a board belongs to, clamps and screws alike. */
export function netOfTerminal(view: BoardView): Map<string, string> {
  const paths = new Map<string, string>();
  for (const unit of view.units) for (const clamp of unit.clamps) paths.set(clamp.terminal, clamp.net);
  for (const bar of view.bars) for (const screw of bar.screws) paths.set(screw.terminal, bar.id);
  return paths;
}

/** The net a conductor is part of, by either of its ends. */
export function netOf(conductor: Conductor, terminals: Map<string, string>): string | undefined {
  const [start, end] = [conductor.start.terminal, conductor.end.terminal].map((name) =>
    name.replace("bar>", ""),
  );
  return terminals.get(start ?? "") ?? terminals.get(end ?? "");
}

/** A length in words: centimetres, as it is cut. */
export function cut(length_mm: number): string {
  return length_mm > 0 ? `${(length_mm / 10).toFixed(0)} cm` : "";
}
