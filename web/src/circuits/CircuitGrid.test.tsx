// @vitest-environment jsdom
import { cleanup, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Job } from "../api/client";
import { JobProvider } from "../job/JobProvider";
import { assessment, finding, RULES, revision, shown } from "../testing/fixtures";
import { type Call, server } from "../testing/server";
import { CircuitGrid } from "./CircuitGrid";

const PUT = "PUT /api/jobs/j1";
const FINDINGS = [
  finding("overload", "c1"),
  finding("capacity", "c1", "fail"),
  finding("rcd-duty", "c1", "missing"),
  finding("overload", "c2"),
];

let asked: ReturnType<typeof server>;

/** The grid over the demo of two circuits; the document that was saved last. */
async function grid() {
  let number = 1;
  asked = server({
    "POST /api/assess": assessment(FINDINGS),
    "POST /api/remedies": [],
    "POST /api/max-lengths": [],
    "POST /api/what-if/ranges": [],
    [PUT]: ({ body }: Call) => revision(++number, (body as { document: Job }).document),
  });
  shown(
    <JobProvider opened={revision(1)} rules={RULES}>
      <CircuitGrid />
    </JobProvider>,
  );
  await screen.findByRole("row", { name: "Oven" });
  await waitFor(() => expect(cell(0, 5).getAttribute("data-verdict")).toBe("pass"));
}

const cell = (row: number, column: number) =>
  document.querySelector(`[data-row="${row}"][data-column="${column}"]`) as HTMLElement;
const saved = async () => {
  await waitFor(() => expect(asked.at(PUT).length).toBeGreaterThan(0));
  return (asked.at(PUT)[asked.at(PUT).length - 1] as Call & { body: { document: Job } }).body.document;
};

beforeEach(() => {
  localStorage.clear();
  Element.prototype.scrollIntoView = () => undefined;
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("the circuit grid", () => {
  it("has a row a circuit and shows each verdict in its cell", async () => {
    await grid();
    expect(screen.getAllByRole("row").length).toBeGreaterThanOrEqual(2);
    expect(cell(0, 6).getAttribute("data-verdict")).toBe("fail");
  });

  it("steps a size by one key and saves it", async () => {
    await grid();
    const user = userEvent.setup();
    await user.click(cell(0, 2));
    await user.keyboard("+");
    expect((await saved()).circuits?.[0]?.cable).toMatchObject({ area_mm2: 4 });
  });

  it("takes a typed device, and says what is wrong with one there is not", async () => {
    await grid();
    const user = userEvent.setup();
    await user.click(cell(1, 1));
    await user.keyboard("C20{Enter}");
    expect((await saved()).circuits?.[1]?.device).toMatchObject({ curve: "C", rating_a: 20 });
    const before = asked.at(PUT).length;
    await user.click(cell(1, 1));
    await user.keyboard("B17{Enter}");
    expect(asked.at(PUT).length).toBe(before);
  });

  it("asks for the calculation of the cell that the cursor is in", async () => {
    await grid();
    const user = userEvent.setup();
    await user.click(cell(0, 6));
    await waitFor(() =>
      expect(asked.at("POST /api/assess").at(-1)?.body).toMatchObject({
        explain: [{ check: "capacity", circuit: "c1" }],
      }),
    );
    // Beside the device: the check that a device is decided by first.
    await user.click(cell(0, 1));
    await waitFor(() =>
      expect(asked.at("POST /api/assess").at(-1)?.body).toMatchObject({
        explain: [{ check: "overload", circuit: "c1" }],
      }),
    );
  });

  it("shows the other group of checks by a key, and moves no further than its edges", async () => {
    await grid();
    const user = userEvent.setup();
    await user.click(cell(0, 5));
    await user.keyboard("p");
    await waitFor(() => expect(cell(0, 2).getAttribute("data-verdict")).toBe("missing"));
    expect(cell(0, 3)).toBeNull();
    await user.keyboard("{ArrowRight}{ArrowUp}");
    await waitFor(() => expect(document.activeElement).toBe(cell(0, 2)));
  });

  it("takes a circuit out of the document by Delete on its name", async () => {
    await grid();
    const user = userEvent.setup();
    await user.click(cell(1, 0));
    await user.keyboard("{Delete}");
    const left = await saved();
    expect(left.circuits?.map(({ id }) => id)).toEqual(["c1"]);
    expect(left.boards?.[0]?.ways?.map(({ circuit }) => circuit)).toEqual(["c1"]);
    expect(within(screen.getByRole("grid")).queryByRole("row", { name: "Shower" })).toBeNull();
  });
});
