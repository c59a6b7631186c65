import type { Job } from "../api/client";

/** What a value belongs to, as a result names it. */
export type Of = { kind: "circuit" | "board" | "supply"; id: string } | undefined;

/** A number that can be typed where it is missed: its field in the document, and its unit. */
export type NeededNumber = { field: string; unit: string };

const OF_SUPPLY: Record<string, string> = {
  "supply.ze_ohm": "Ω",
  "supply.fault_current_ka": "kA",
  "supply.nominal_v": "V",
  "supply.tails.length_m": "m",
};

/** Numbers of the earth of a board or of a circuit's points. */
const OF_EARTHING: Record<string, string> = {
  electrode_ohm: "Ω",
  separation_m: "m",
  conductor_mm2: "mm²",
  link_mm2: "mm²",
};
const OF_STANDBY: Record<string, string> = { rated_a: "A", electrode_ohm: "Ω", shutdown_s: "s" };
const YES_NO_OF_EARTHING = ["has_metalwork", "feeder_earth_connected"];

/** The field of an earth of its own: of a board or a circuit that has one; undefined for any other path. */
function earthingField(document: Job, path: string, of: Of): string | undefined {
  const [, part] = /^(?:boards\.)?earthing\.(\w+)$/.exec(path) ?? [];
  if (!part || !of || of.kind === "supply") return undefined;
  const list = of.kind === "board" ? "boards" : "circuits";
  const owner = document[list]?.find((each) => each.id === of.id);
  return owner?.earthing ? `${list}.${of.id}.earthing.${part}` : undefined;
}

/** The field of a need that is answered by yes or no; undefined where it is none. */
export function neededYesNo(document: Job, path: string, of: Of): string | undefined {
  if (!YES_NO_OF_EARTHING.some((part) => path.endsWith(`earthing.${part}`))) return undefined;
  return earthingField(document, path, of);
}

/** The number that a need is for; undefined where it is none, or not one that is typed. */
export function neededNumber(document: Job, path: string, of: Of): NeededNumber | undefined {
  const unit = OF_SUPPLY[path];
  if (unit)
    return path.startsWith("supply.tails") && !document.supply.tails ? undefined : { field: path, unit };
  if (path === "run.length_m" && of?.kind === "circuit") {
    const run = document.circuits?.find((circuit) => circuit.id === of.id)?.run ?? [];
    const at = run.findIndex((section) => section.length_m === null || section.length_m === undefined);
    return at >= 0 ? { field: `circuits.${of.id}.run.${at}.length_m`, unit: "m" } : undefined;
  }
  const earthing = earthingField(document, path, of);
  const earthUnit = OF_EARTHING[path.split(".").at(-1) ?? ""];
  if (earthing && earthUnit) return { field: earthing, unit: earthUnit };
  if (path === "boards.busbar_a" && of?.kind === "board")
    return { field: `boards.${of.id}.busbar_a`, unit: "A" };
  const standby = of?.kind === "board" && document.boards.find((board) => board.id === of.id)?.standby;
  const [, standbyPart] = /^boards\.standby\.(\w+)$/.exec(path) ?? [];
  if (standby && standbyPart && OF_STANDBY[standbyPart] !== undefined)
    return { field: `boards.${of.id}.standby.${standbyPart}`, unit: OF_STANDBY[standbyPart] };
  if (path === "boards.spds.leads_m") {
    for (const board of document.boards) {
      const spd = board.spds?.find((each) => each.leads_m === null || each.leads_m === undefined);
      if (spd) return { field: `boards.${board.id}.spds.${spd.id}.leads_m`, unit: "m" };
    }
  }
  return undefined;
}

/** The view that has the field of a need, for what is not typed in place; undefined where no view is meant. */
export function viewOfNeed(path: string): string | undefined {
  if (path.startsWith("supply.")) return "setup";
  if (path.startsWith("boards.build")) return "board";
  if (path.startsWith("boards.spds") || path.startsWith("surge")) return "protection?part=surge";
  if (path.startsWith("boards.")) return "setup";
  if (/^(loads|rooms|spurs|run|circuits|earthing|source|device|local_devices)/.test(path)) return "circuits";
  return undefined;
}
