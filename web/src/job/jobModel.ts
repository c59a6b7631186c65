import type { Board, Circuit, Job, Line, Remedy } from "../api/client";
import { t } from "../messages/text";
import { planWithoutCircuit } from "./planWithout";

/** Lines in the order in which they are named. */
export const LINES: Line[] = ["L1", "L2", "L3"];

/** A circuit on other lines: loads leave those that go, and one line alone has its neutral. */
export function onLines(circuit: Circuit, lines: Line[]): Circuit {
  const loads = (circuit.loads ?? []).map((load) => ({
    ...load,
    lines: (load.lines ?? []).filter((line) => lines.includes(line)),
  }));
  return { ...circuit, lines, loads, neutral: lines.length > 1 ? circuit.neutral : true };
}

/** The document with some circuits (found by id) replaced. */
export function withCircuits(job: Job, changed: Circuit[]): Job {
  const byId = new Map(changed.map((circuit) => [circuit.id, circuit]));
  return { ...job, circuits: (job.circuits ?? []).map((circuit) => byId.get(circuit.id) ?? circuit) };
}

/** The document with a board (found by id) replaced. */
export function withBoard(job: Job, changed: Board): Job {
  return { ...job, boards: (job.boards ?? []).map((board) => (board.id === changed.id ? changed : board)) };
}

/** A circuit by id. */
export function circuitById(job: Job, id: string): Circuit | undefined {
  return job.circuits?.find((circuit) => circuit.id === id);
}

/** The board a circuit feeds, if any. */
export function boardFedBy(job: Job, circuitId: string): Board | undefined {
  const home = job.boards?.find((board) => board.ways?.some((way) => way.circuit === circuitId));
  const number = home?.ways?.find((way) => way.circuit === circuitId)?.number;
  return job.boards?.find(
    (board) =>
      typeof board.fed_by !== "string" && board.fed_by.board === home?.id && board.fed_by.way === number,
  );
}

/** The document without a circuit and its way; a reason in words where the circuit still feeds a board. */
export function withoutCircuit(job: Job, id: string): Job | string {
  const fed = boardFedBy(job, id);
  if (fed) return t("web.job.feeds_board", { board: fed.name });
  return {
    ...planWithoutCircuit(job, id),
    circuits: (job.circuits ?? []).filter((circuit) => circuit.id !== id),
    boards: (job.boards ?? []).map((board) => ({
      ...board,
      ways: (board.ways ?? []).filter((way) => way.circuit !== id),
    })),
  };
}

/** A numbered place in a board. */
export type Place = { board: string; way: number };

/** Where a circuit sits. */
export function placeOf(job: Job, circuitId: string): Place | undefined {
  for (const board of job.boards ?? []) {
    const way = board.ways?.find((known) => known.circuit === circuitId);
    if (way) return { board: board.id, way: way.number };
  }
  return undefined;
}

/** The free ways a circuit may move to: of every board, but for those it feeds itself, however far on. */
export function freePlaces(job: Job, circuitId: string): Place[] {
  const behind = boardsBehind(job, circuitId);
  return (job.boards ?? [])
    .filter((board) => !behind.has(board.id))
    .flatMap((board) => {
      const taken = new Set(board.ways?.map((way) => way.number));
      const ways = Array.from({ length: board.way_count }, (_, at) => at + 1);
      return ways.filter((way) => !taken.has(way)).map((way) => ({ board: board.id, way }));
    });
}

function boardsBehind(job: Job, circuitId: string): Set<string> {
  const fed = boardFedBy(job, circuitId);
  if (!fed) return new Set();
  const further = (fed.ways ?? []).flatMap((way) => [...boardsBehind(job, way.circuit)]);
  return new Set([fed.id, ...further]);
}

/** The document with a circuit in another way; a board it feeds goes with it. A shared RCD belongs to the old place. */
export function movedTo(job: Job, circuitId: string, place: Place): Job {
  const fed = boardFedBy(job, circuitId);
  return {
    ...job,
    boards: (job.boards ?? []).map((board) => {
      const kept = (board.ways ?? []).filter((way) => way.circuit !== circuitId);
      const ways = board.id === place.board ? [...kept, { number: place.way, circuit: circuitId }] : kept;
      return { ...board, ways, fed_by: board.id === fed?.id ? place : board.fed_by };
    }),
  };
}

/** The document with a circuit behind one of its board's shared RCDs, or behind none. */
export function behindRcd(job: Job, circuitId: string, rcd: string | null): Job {
  return {
    ...job,
    boards: (job.boards ?? []).map((board) => ({
      ...board,
      ways: (board.ways ?? []).map((way) => (way.circuit === circuitId ? { ...way, rcd } : way)),
    })),
  };
}

/** An id of a kind that no item has yet: c7, r3, b2. */
export function freeId(prefix: string, taken: Iterable<{ id: string }>): string {
  const ids = new Set(Array.from(taken, (item) => item.id));
  for (let number = 1; ; number += 1) if (!ids.has(`${prefix}${number}`)) return `${prefix}${number}`;
}

/** The job with some circuits and boards, found by their ids, replaced. */
const withParts = (job: Job, circuits: Circuit[], boards: Board[] = []): Job =>
  boards.reduce((changed, board) => withBoard(changed, board), withCircuits(job, circuits));

/** The job with a fix taken: its circuits, its boards, and the supply where that is what changes. */
export function withRemedy(job: Job, remedy: Remedy): Job {
  const changed = withParts(job, remedy.circuits, remedy.boards);
  return remedy.supply ? { ...changed, supply: remedy.supply } : changed;
}
