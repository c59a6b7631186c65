import type { Board, Circuit, Device, Load, Room, Section } from "../api/client";
import defaults from "../api/defaults.json";

/** New parts of a document as they begin: what nobody states is as the format itself has it (``defaults.json``). */

/** The defaults of a part, its own copy of them. */
function begun<T>(part: keyof typeof defaults): Partial<T> {
  return structuredClone(defaults[part]) as unknown as Partial<T>;
}

export function blankRcd(idn_ma: number, time_delayed = false): NonNullable<Device["rcd"]> {
  return { ...begun("Rcd"), idn_ma, time_delayed } as NonNullable<Device["rcd"]>;
}

export function blankRoom(id: string, name: string): Room {
  return { ...begun("Room"), id, name } as Room;
}

function blankSection(method: string): Section {
  return { ...begun("Section"), method } as Section;
}

export function blankLoad(name: string): Load {
  return { ...begun("Load"), name, kind: "appliance" } as Load;
}

export function blankBoard(id: string, name: string): Board {
  return { ...begun("Board"), id, name, fed_by: "origin", way_count: 8 } as Board;
}

/** A feeder whose cable and device are left to the design. */
export function blankFeeder(id: string, name: string, method: string, lines: Circuit["lines"]): Circuit {
  return {
    ...begun("Circuit"),
    id,
    name,
    kind: "distribution",
    lines,
    run: [blankSection(method)],
  } as Circuit;
}
