import { describe, expect, it } from "vitest";
import type { CauseGroup, Circuit, Finding, Job, RuleSetView } from "../api/client";
import { readFigure } from "../ui/Field";
import { beginsTyping, moved } from "./gridKeys";
import {
  accessibleText,
  cableText,
  countCauses,
  decided,
  deviceText,
  findingsByRow,
  lengthText,
  linesText,
  rowsOf,
  viewOfCause,
  worstVerdict,
} from "./gridModel";
import { isPlanned, stepped, typed } from "./typing";

/** As much of a rule set as the model asks for. */
const rules = {
  size_unit: "mm²",
  cables: [
    {
      id: "flat",
      short: "T&E",
      sizes_mm2: [1, 1.5, 2.5, 4, 6],
      sizes: [1, 1.5, 2.5, 4, 6].map((area_mm2) => ({ area_mm2, label: String(area_mm2) })),
      cpc_choices: ["included"],
    },
    {
      id: "nm",
      short: "NM",
      sizes_mm2: [2.08, 3.31],
      sizes: [
        { area_mm2: 2.08, label: "14" },
        { area_mm2: 3.31, label: "12" },
      ],
      cpc_choices: ["included"],
    },
  ],
  devices: [
    {
      id: "rcbo",
      short: "RCBO",
      title: "RCBO",
      curves: ["B", "C"],
      ratings_a: [6, 16, 20, 32, 45],
      common_ratings_a: [6, 16, 20, 32],
      breaking_choices_ka: [6],
    },
    {
      id: "fuse",
      short: "Fuse",
      title: "Fuse",
      curves: [],
      ratings_a: [5, 15, 30],
      common_ratings_a: [5, 15, 30],
      breaking_choices_ka: [],
    },
  ],
  methods: [
    { id: "C", entry_words: ["wall"] },
    { id: "101", entry_words: ["loft"] },
  ],
} as unknown as RuleSetView;

const circuit = {
  id: "c1",
  name: "Kiln",
  kind: "fixed",
  run: [{ length_m: 9, method: "C" }],
  cable: { type: "flat", area_mm2: 2.5, cpc: "included", cpc_mm2: 1.5 },
  device: {
    kind: "rcbo",
    curve: "B",
    rating_a: 16,
    breaking_ka: 6,
    rcd: { idn_ma: 30, type: "A", time_delayed: false },
  },
} as unknown as Circuit;

const changed = (edit: Parameters<typeof typed>[1], text: string, from = circuit) => {
  const result = typed(from, edit, text, rules);
  if ("error" in result) throw new Error(result.error);
  return result.circuit;
};
const wrong = (edit: Parameters<typeof typed>[1], text: string, from = circuit) => {
  const result = typed(from, edit, text, rules);
  return "error" in result ? result.error : "";
};

describe("typing over a device", () => {
  it("takes letter and rating, and keeps what was not typed", () => {
    expect(deviceText(changed("device", "c32"))).toBe("C32");
    expect(deviceText(changed("device", "20"))).toBe("B20");
    expect(changed("device", "C20").device).toMatchObject({ breaking_ka: 6, rcd: { idn_ma: 30 } });
    expect(deviceText(changed("device", "auto"))).toBe("auto");
  });
  it("says what there is instead of taking what there is not", () => {
    expect(wrong("device", "B33")).toContain("6, 16, 20, 32, 45");
    expect(wrong("device", "D16")).toBe("RCBO is available with curve B, C.");
    expect(wrong("device", "big")).toContain("B32");
    const fused = { ...circuit, device: { kind: "fuse", rating_a: 15 } } as unknown as Circuit;
    expect(wrong("device", "B15", fused)).toContain("no curve letter");
    expect(deviceText(changed("device", "30", fused))).toBe("30");
  });
});

describe("typing over cable, length and method", () => {
  it("takes sizes with comma or point, and drops a protective conductor stated for the old size", () => {
    expect(changed("cable", "1,5 mm²").cable).toEqual({
      type: "flat",
      area_mm2: 1.5,
      cpc: "included",
      cpc_mm2: null,
    });
    expect(wrong("cable", "3")).toContain("1, 1.5, 2.5, 4, 6 mm²");
    expect(wrong("cable", "thick")).toContain("is not a size");
  });
  it("takes a length, and an empty one as not known, which is not nought", () => {
    expect(lengthText(changed("length", "14.5 m"))).toBe("14.5");
    expect(lengthText(changed("length", "40 ft"))).toBe("12.19");
    expect(wrong("length", "ft")).toContain("not a length");
    expect(changed("length", "").run[0]?.length_m).toBeNull();
    expect(wrong("length", "0")).toContain("not a length");
    expect(wrong("length", "-3")).toContain("not a length");
  });
  it("takes no length that the plan gives, as it would be replaced", () => {
    const job = { plan: { boards: [{}], points: [{ circuit: circuit.id }] } } as unknown as Job;
    expect(isPlanned(job, circuit)).toBe(true);
    expect(isPlanned({ ...job, plan: null } as unknown as Job, circuit)).toBe(false);
    expect(typed(circuit, "length", "20", rules, true)).toMatchObject({
      error: expect.stringContaining("plan"),
    });
    expect(typed(circuit, "length", "20", rules)).toHaveProperty("circuit");
  });
  it("does not spread one figure over several sections", () => {
    const two = { ...circuit, run: [circuit.run[0], { length_m: 4, method: "101" }] } as Circuit;
    expect(lengthText(two)).toBe("13");
    expect(wrong("length", "20", two)).toContain("2 sections");
    expect(changed("method", "101 c", two).run.map((section) => section.method)).toEqual(["101", "C"]);
    expect(wrong("method", "C", two)).toContain("one method for each");
    const same = { ...circuit, run: [circuit.run[0], { ...circuit.run[0] }] } as Circuit;
    expect(changed("method", "101", same).run.map((section) => section.method)).toEqual(["101", "101"]);
    expect(wrong("method", "Z")).toContain("is not an installation method");
  });
});

describe("lines and sizes by name", () => {
  it("takes lines as figures, several at once, and none", () => {
    expect(linesText(changed("lines", "2"))).toBe("L2");
    expect(linesText(changed("lines", "L1 L2"))).toBe("L1+2");
    expect(linesText(changed("lines", "321"))).toBe("L1–3");
    expect(linesText(changed("lines", ""))).toBe("");
    expect(wrong("lines", "4")).toContain("not a phase");
  });

  it("calls a size what the standard calls it", () => {
    const nm = { ...circuit, cable: { type: "nm", area_mm2: 2.08, cpc: "included" } } as Circuit;
    expect(cableText(nm, rules)).toBe("14");
    expect(changed("cable", "12 AWG", nm).cable).toMatchObject({ area_mm2: 3.31 });
    expect(cableText(stepped(nm, "cable", true, rules), rules)).toBe("12");
    expect(wrong("cable", "13", nm)).toContain("14, 12");
  });

  it("knows a method by one of its words", () => {
    expect(changed("method", "Loft").run[0]?.method).toBe("101");
  });
});

describe("stepping", () => {
  it("goes to the next size and stops at the last", () => {
    expect(cableText(stepped(circuit, "cable", true, rules), rules)).toBe("4");
    expect(cableText(stepped(changed("cable", "6"), "cable", true, rules), rules)).toBe("6");
    expect(deviceText(stepped(circuit, "device", false, rules))).toBe("B6");
    expect(stepped(circuit, "length", true, rules)).toBe(circuit);
  });
});

describe("reading a job", () => {
  it("puts rows in the order of the ways, whatever order the file has", () => {
    const job = {
      circuits: [circuit, { ...circuit, id: "c2" }],
      boards: [
        {
          id: "b",
          ways: [
            { number: 7, circuit: "c1" },
            { number: 2, circuit: "c2" },
          ],
        },
      ],
    } as unknown as Job;
    expect(rowsOf(job)[0]?.rows.map((row) => [row.way, row.circuit.id])).toEqual([
      [2, "c2"],
      [7, "c1"],
    ]);
  });
  const finding = (verdict: string, kind = "circuit") =>
    ({
      verdict,
      subject: { kind, id: "c1" },
      sentence: "Why.",
      shown_value: "32",
      shown_limit: "27.3",
      unit: "A",
    }) as unknown as Finding;
  it("says a cell as a sentence", () => {
    expect(accessibleText(circuit, "Cable capacity", finding("fail"))).toBe(
      "Kiln, Cable capacity: fail, 32 A, limit 27.3 A. Why.",
    );
    expect(accessibleText(circuit, "Cable capacity", undefined)).toContain("not calculated yet");
  });
  it("hands a row out again that looks as it did, and a new one where it does not", () => {
    const of = (id: string, shown_value: string) =>
      ({ ...finding("pass"), check: "capacity", shown_value, subject: { kind: "circuit", id } }) as Finding;
    const before = findingsByRow([of("c1", "32"), of("c2", "32")], new Map());
    const after = findingsByRow([{ ...of("c1", "32"), working: [] }, of("c2", "33")], before);
    expect(after.get("c1")).toBe(before.get("c1"));
    expect(after.get("c2")).not.toBe(before.get("c2"));
    expect(after.get("c2")?.get("capacity")?.shown_value).toBe("33");
    expect(findingsByRow([of("c1", "32")], before).has("c2")).toBe(false);
  });
  it("counts causes, leads to each one's view, and finds the worst", () => {
    const cause = (
      verdict: CauseGroup["verdict"],
      kind: "circuit" | "board" | "rcd" | "room",
      circuits: string[],
    ) => ({ cause: { check: "leakage", subject: { kind, id: "x" } }, verdict, circuits }) as CauseGroup;
    const present = [
      cause("fail", "rcd", ["c1", "c2"]),
      cause("advice", "board", []),
      cause("fail", "circuit", ["c3"]),
    ];
    expect(countCauses(present)).toEqual({ fail: 2, advice: 1 });
    const known = {
      supply_checks: [
        { id: "demand", view: "setup" },
        { id: "surge", view: "protection" },
      ],
      board_checks: [
        { id: "thermal", view: "board" },
        { id: "division", view: "protection" },
      ],
    } as RuleSetView;
    const bare = (check: string) =>
      ({
        cause: { check, subject: { kind: "board", id: "x" } },
        circuits: [] as string[],
      }) as unknown as CauseGroup;
    expect(viewOfCause(present[0] as CauseGroup, known)).toBeUndefined();
    expect(
      ["demand", "surge", "thermal", "division"].map((check) => viewOfCause(bare(check), known)),
    ).toEqual(["setup", "protection?part=surge", "board", "protection"]);
    expect(worstVerdict([finding("pass"), finding("missing"), finding("tight"), undefined])).toBe("missing");
  });
});

describe("keys of the grid", () => {
  it("stay inside it", () => {
    expect(moved({ row: 0, column: 0 }, "ArrowUp", 3, 4)).toEqual({ row: 0, column: 0 });
    expect(moved({ row: 2, column: 3 }, "ArrowRight", 3, 4)).toEqual({ row: 2, column: 3 });
    expect(moved({ row: 0, column: 2 }, "PageDown", 3, 4)).toEqual({ row: 2, column: 2 });
    expect(moved({ row: 1, column: 1 }, "End", 3, 4, true)).toEqual({ row: 2, column: 3 });
    expect(moved({ row: 1, column: 1 }, "x", 3, 4)).toBeUndefined();
  });
  it("begin typing only with what can stand in a cell", () => {
    expect(["4", "B", "."].every(beginsTyping)).toBe(true);
    expect(["Enter", "+", " ", "F2"].some(beginsTyping)).toBe(false);
  });
});

describe("figures as they are typed", () => {
  it("takes comma and point, and a sign only where one may stand", () => {
    expect([readFigure("0,31"), readFigure(" 12.5 "), readFigure("")]).toEqual([0.31, 12.5, null]);
    expect([readFigure("-1"), readFigure("1e3"), readFigure("about 2")]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
    expect([readFigure("-0,2", true), readFigure("−1", true), readFigure("--1", true)]).toEqual([
      -0.2,
      -1,
      undefined,
    ]);
  });
});

describe("what the design decided", () => {
  const sentence = "4 mm²: the next smaller size fails voltage-drop.";
  it("names the runners-up with the reason each lost", () => {
    const runners = [{ what: "2.5 mm² T&E", reason: "fails voltage-drop", cost: 21 }];
    expect(decided({ sentence, runners })).toBe(`${sentence} Rejected: 2.5 mm² T&E fails voltage-drop.`);
    expect(decided({ sentence, runners: [] })).toBe(sentence);
  });
});
