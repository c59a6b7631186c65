import { afterEach, describe, expect, test, vi } from "vitest";
import { Refused, Unreachable } from "./client";
import { postForLines, reasons } from "./lines";

// The client takes its address from the page it is on.
vi.hoisted(() => {
  Object.assign(globalThis, { window: { location: { origin: "" } } });
});

/** An answer that arrives in the given pieces. */
function answer(pieces: string[], status = 200): Response {
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    start(control) {
      for (const piece of pieces) control.enqueue(encoder.encode(piece));
      control.close();
    },
  });
  return new Response(body, { status });
}

const ask = (tell: (line: { n: number }) => void = () => {}) =>
  postForLines<{ n: number }>("/x", {}, new AbortController().signal, tell);

afterEach(() => vi.unstubAllGlobals());

describe("answers that come line by line", () => {
  test("are put together however they are cut", async () => {
    vi.stubGlobal("fetch", async () => answer(['{"n"', ':1}\n{"n":2}\n{', '"n":3}\n']));
    const told: number[] = [];
    const last = await ask(({ n }) => told.push(n));
    expect(told).toEqual([1, 2, 3]);
    expect(last).toEqual({ n: 3 });
  });
  test("a line that was cut off is not taken for one", async () => {
    vi.stubGlobal("fetch", async () => answer(['{"n":1}\n{"n":']));
    expect(await ask()).toEqual({ n: 1 });
  });
  test("a refusal is told as it was said", async () => {
    const problem = {
      detail: "no",
      title: "t",
      status: 422,
      type: "",
      problems: [{ path: "a", message: "b" }],
    };
    vi.stubGlobal("fetch", async () => answer([JSON.stringify(problem)], 422));
    const error = await ask().catch((reason: unknown) => reason);
    expect(error).toBeInstanceOf(Refused);
    expect(reasons(error)).toEqual(["a: b"]);
  });
  test("a server that does not answer is said to", async () => {
    vi.stubGlobal("fetch", async () => {
      throw new TypeError("failed");
    });
    const error = await ask().catch((reason: unknown) => reason);
    expect(error).toBeInstanceOf(Unreachable);
    expect(reasons(error)).toEqual([
      "No response from the server. Check that Vivid Lattice is running, then try again.",
    ]);
  });
});
