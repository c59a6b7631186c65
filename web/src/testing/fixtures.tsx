import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { type RenderResult, render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import type { Assessment, Circuit, Finding, Job, Revision, RuleSetView } from "../api/client";

const circuit = (id: string, name: string): Circuit =>
  ({
    id,
    name,
    kind: "fixed",
    loads: [],
    lines: ["L1"],
    neutral: true,
    spurs: [],
    accessories: [],
    local_devices: [],
    distributed_load: false,
    run: [{ method: "C", length_m: 12, circuits_grouped: 1, earthed_metal_covering: false }],
    cable: { type: "flat", area_mm2: 2.5, cpc: "included" },
    device: { kind: "mcb", curve: "B", rating_a: 16, arc_fault: false },
    notes: "",
  }) as Circuit;

/** A job of one board with an oven and a shower. */
export const JOB = {
  format: "vivid-lattice/3",
  job: { title: "Mill", rules: "uk" },
  settings: {},
  supply: { system: "TN-S", phases: 1, nominal_v: 230 },
  boards: [
    {
      id: "main",
      name: "Main board",
      fed_by: "origin",
      way_count: 4,
      ways: [
        { number: 1, circuit: "c1" },
        { number: 2, circuit: "c2" },
      ],
    },
  ],
  circuits: [circuit("c1", "Oven"), circuit("c2", "Shower")],
} as unknown as Job;

export const revision = (number: number, job: Job = JOB): Revision =>
  ({
    job_id: "j1",
    number,
    uid: `u${number}`,
    job,
    text: "",
    can_undo: number > 1,
    can_redo: false,
  }) as unknown as Revision;

const check = (id: string, group: string, decides: string[] = []) => ({
  ...{ id, title: id, short: id, question: `${id}?`, compares: "", group, decides },
});

/** Rules of two checks for the cable and one for protection. */
export const RULES = {
  id: "uk",
  title: "Rules",
  line_words: [],
  cautions: ["Electricity kills.", "Work dead."],
  checks: [
    check("overload", "sizing", ["device"]),
    check("capacity", "sizing", ["cable", "method"]),
    check("rcd-duty", "protection"),
  ],
  supply_checks: [],
  board_checks: [],
  cables: [
    {
      id: "flat",
      title: "flat",
      sizes: [
        { area_mm2: 2.5, label: "2.5" },
        { area_mm2: 4, label: "4" },
      ],
      sizes_mm2: [2.5, 4],
    },
  ],
  devices: [
    {
      id: "mcb",
      title: "MCB",
      short: "MCB",
      curves: ["B", "C"],
      ratings_a: [6, 16, 20],
      common_ratings_a: [6, 16, 20],
      current: true,
    },
  ],
  methods: [{ id: "C", short: "C", title: "clipped" }],
  size_unit: "mm²",
  vocabulary: {},
} as unknown as RuleSetView;

export const finding = (id: string, circuitId: string, verdict: Finding["verdict"] = "pass"): Finding =>
  ({
    check: id,
    verdict,
    subject: { kind: "circuit", id: circuitId },
    sentence: `${id} of ${circuitId}`,
    margin: 0.5,
    shown_value: "1",
    shown_limit: "2",
    unit: "A",
    needs: [],
    working: [],
    assumptions: [],
  }) as unknown as Finding;

export const assessment = (findings: Finding[] = []): Assessment =>
  ({
    verdict: "pass",
    findings,
    circuits: [],
    boards: [],
    counts: {},
    causes: [],
    accepted: [],
    next_steps: [],
  }) as unknown as Assessment;

/** What is under test, with a cache of its own and an address. */
export function shown(element: ReactNode): RenderResult {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <MemoryRouter initialEntries={["/jobs/j1/circuits"]}>
      <QueryClientProvider client={queries}>{element}</QueryClientProvider>
    </MemoryRouter>,
  );
}
