import type { Board, Circuit, Device, Load, Room, Section } from "../api/client";

/** New parts of a document as they begin, with everything the format asks for said once. */

export function blankRcd(idn_ma: number, delayed = false): NonNullable<Device["rcd"]> {
  return { idn_ma, type: "A", delayed, short_delay: false };
}

export function blankRoom(id: string, name: string): Room {
  return { id, name, floor: "", kind: "ordinary", jets: false, fire_risk: false };
}

export function blankSection(method: string): Section {
  return { method, circuits_grouped: 1, metal_cover: false };
}

export function blankLoad(name: string): Load {
  return {
    name,
    kind: "appliance",
    count: 1,
    with_socket: false,
    continuous: false,
    lines: [],
    inverter: false,
    essential: false,
    surge_type_3: false,
  };
}

export function blankHousing(): Board["housing"] {
  return {
    wishes: {
      feed: "top",
      surge_beside_main: true,
      groups_together: true,
      hot_apart: true,
      lights: "anywhere",
    },
    spots: [],
    habits: { conductor: "flexible", ring_fed: false, slack_mm: 60, combs: true },
    labels: { texts: [], main_earth_at: "" },
    neutrals: [],
  };
}

export function blankBoard(id: string, name: string): Board {
  return {
    id,
    name,
    fed_by: "origin",
    ways_total: 8,
    rcds: [],
    surge: [],
    ways: [],
    gear: [],
    housing: blankHousing(),
  };
}

/** A feeder whose cable and device are left to the design. */
export function blankFeeder(id: string, name: string, method: string, lines: Circuit["lines"]): Circuit {
  return {
    id,
    name,
    kind: "distribution",
    lines,
    neutral: true,
    spread: false,
    spurs: [],
    accessories: [],
    run: [blankSection(method)],
    loads: [],
    cable: "auto",
    device: "auto",
    notes: "",
  };
}
