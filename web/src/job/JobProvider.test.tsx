// @vitest-environment jsdom
import { act, cleanup, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Job } from "../api/client";
import { outbox } from "../offline/outbox";
import { assessment, JOB, RULES, revision, shown } from "../testing/fixtures";
import { type Call, problem, server } from "../testing/server";
import { ConflictDialog } from "./ConflictDialog";
import { takeDraft } from "./draft";
import { type OpenJob, useJob } from "./JobContext";
import { JobProvider } from "./JobProvider";

const PUT = "PUT /api/jobs/j1";
let job: OpenJob;

function Probe() {
  job = useJob();
  return <ConflictDialog />;
}

const open = (draft?: Parameters<typeof JobProvider>[0]["draft"]) =>
  shown(
    <JobProvider opened={revision(1)} rules={RULES} draft={draft}>
      <Probe />
    </JobProvider>,
  );

const titled = (title: string): Job => ({ ...JOB, job: { ...JOB.job, title } });
const edit = (title: string) => act(async () => job.edit(titled(title)));
const state = (wanted: string) => waitFor(() => expect(job.saveStatus).toBe(wanted), { timeout: 8000 });

beforeEach(() => {
  localStorage.clear();
  sessionStorage.clear();
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("a change", () => {
  it("is assessed, then saved on top of the revision it was made from, and its draft is gone", async () => {
    const { calls, at } = server({
      "POST /api/assess": assessment(),
      [PUT]: () => revision(2, titled("Forge")),
    });
    open();
    await edit("Forge");
    await waitFor(() => expect(job.revision.number).toBe(2));
    await state("saved");
    expect(at(PUT)[0]?.body).toMatchObject({
      base: 1,
      base_uid: "u1",
      document: { job: { title: "Forge" } },
    });
    const order = calls.map((call) => call.path);
    expect(order.indexOf("/api/assess")).toBeLessThan(order.indexOf("/api/jobs/j1"));
    expect(takeDraft("j1")).toBeUndefined();
  });

  it("is not overwritten by an answer to the document before it", async () => {
    server({ "POST /api/assess": assessment(), [PUT]: () => revision(2, titled("Forge")) });
    open();
    const asked = job.document;
    await edit("Forge");
    await act(async () => expect(job.edit(titled("Late"), asked)).toBe(false));
    expect(job.document.job.title).toBe("Forge");
    expect(job.message).toContain("edited");
    await act(async () => expect(job.edit(titled("In time"), job.document)).toBe(true));
    expect(job.document.job.title).toBe("In time");
    await state("saved");
  });

  it("and readings sent at the same time follow each other, whichever comes first", async () => {
    let head = 1;
    let document = JOB;
    const saves: string[] = [];
    server({
      "POST /api/assess": assessment(),
      [PUT]: ({ body }: Call) => {
        const sent = body as { base: number; document: Job };
        if (sent.base !== head) return problem(409, "stale", { head });
        saves.push("save");
        document = sent.document;
        head += 1;
        return { ...revision(head, document), parent: head - 1 };
      },
      "POST /api/jobs/j1/readings": ({ body }: Call) => {
        const { readings } = body as { readings: { id: string }[] };
        saves.push("readings");
        const testing = {
          ...document.testing,
          readings: [...(document.testing?.readings ?? []), ...readings],
        };
        document = { ...document, testing } as Job;
        head += 1;
        return {
          revision: { ...revision(head, document), parent: head - 1 },
          taken: readings.map(({ id }) => id),
          refused: [],
        };
      },
    });
    open();
    const entry = (id: string) =>
      outbox.put([
        {
          ...{
            id,
            job: "j1",
            test: `zs:circuit:${id}`,
            at: "2026-11-30T09:00:00",
            by: "",
            instrument: "",
            before: "",
          },
          reading: { test: "zs", subject: { kind: "circuit", id }, text: "0.5" } as never,
        },
      ]);
    await act(async () => {
      job.edit(titled("Forge"));
      await entry("a1");
    });
    await act(async () => {
      await entry("a2");
      job.edit({ ...job.document, job: { ...job.document.job, title: "Smithy" } });
    });
    await waitFor(() => expect(outbox.all()).toEqual([]), { timeout: 8000 });
    await waitFor(() => expect(document.job.title).toBe("Smithy"), { timeout: 8000 });
    await state("saved");
    expect(document.testing?.readings?.map(({ id }) => id)).toEqual(["a1", "a2"]);
    expect(job.document.testing?.readings).toHaveLength(2);
    expect(saves.filter((each) => each === "readings")).toHaveLength(2);
  });

  it("is not saved while nothing was changed", async () => {
    const { at } = server({ "POST /api/assess": assessment() });
    open();
    await waitFor(() => expect(job.settled).toBe(true));
    expect(at(PUT)).toEqual([]);
  });

  it("that the engine refuses is put back, and the reason is told", async () => {
    const { at } = server({
      "POST /api/assess": ({ body }: Call) =>
        (body as { document: Job }).document.job.title === "Bad"
          ? problem(422, "bad document", { problems: [{ path: "job.title", message: "not this one" }] })
          : assessment(),
    });
    open();
    await edit("Bad");
    await waitFor(() => expect(job.message).toBe("job.title: not this one"));
    expect(job.document.job.title).toBe("Mill");
    expect(at(PUT)).toEqual([]);
  });

  it("waits for a server that does not answer, in this browser too, and is saved when it does", async () => {
    let down = true;
    const { at } = server({
      "POST /api/assess": assessment(),
      [PUT]: () => (down ? new TypeError("no network") : revision(2, titled("Forge"))),
    });
    open();
    await edit("Forge");
    await state("unreachable");
    expect(takeDraft("j1")?.document.job.title).toBe("Forge");
    down = false;
    await state("saved");
    expect(at(PUT).length).toBe(2);
    expect(takeDraft("j1")).toBeUndefined();
  }, 15_000);

  it("made while another is being saved is saved after it, each on top of the one before", async () => {
    let number = 1;
    const { at } = server({
      "POST /api/assess": assessment(),
      [PUT]: ({ body }: Call) => revision(++number, (body as { document: Job }).document),
    });
    open();
    await edit("One");
    await edit("Two");
    await waitFor(() => expect(at(PUT).at(-1)?.body).toMatchObject({ document: { job: { title: "Two" } } }));
    await state("saved");
    expect(job.revision.number).toBe(number);
    const bases = at(PUT).map((call) => (call.body as { base: number }).base);
    expect(bases).toEqual(bases.map((_, index) => index + 1));
  });
});

describe("a change that meets another", () => {
  const conflict = () =>
    problem(409, "changed elsewhere", {
      head: 5,
      head_uid: "u5",
      theirs: ["Oven: B16 → B20"],
      yours: ["Title"],
    });

  it("shows both sides, and can be saved on top of the other", async () => {
    let met = false;
    const { at } = server({
      "POST /api/assess": assessment(),
      [PUT]: () => {
        if (met) return revision(6, titled("Mine"));
        met = true;
        return conflict();
      },
    });
    open();
    await edit("Mine");
    await state("conflict");
    expect(screen.getByText("Oven: B16 → B20")).toBeTruthy();
    await act(async () => job.saveMine());
    await state("saved");
    expect(at(PUT)[1]?.body).toMatchObject({ base: 5, base_uid: "u5", document: { job: { title: "Mine" } } });
  });

  it("is kept as a job of its own where the other is opened", async () => {
    const { at } = server({
      "POST /api/assess": assessment(),
      "POST /api/jobs/import": revision(1, titled("Mine (copy)")),
      "GET /api/jobs": [],
      "GET /api/jobs/j1": revision(5, titled("Theirs")),
      [PUT]: conflict,
    });
    open();
    await edit("Mine");
    await state("conflict");
    await act(async () => job.openSaved(true));
    expect(job.document.job.title).toBe("Theirs");
    expect(at("POST /api/jobs/import")[0]?.body).toMatchObject({ job: { title: "Mine (copy)" } });
    await state("saved");
  });
});

describe("a draft that this browser holds", () => {
  it("goes on from the revision it was made from, and is saved", async () => {
    const { at } = server({ "POST /api/assess": assessment(), [PUT]: () => revision(4, titled("Held")) });
    open({ base: 3, uid: "u3", document: titled("Held"), at: 0 });
    expect(job.document.job.title).toBe("Held");
    await waitFor(() => expect(at(PUT)[0]?.body).toMatchObject({ base: 3, base_uid: "u3" }));
    await state("saved");
  });
});
