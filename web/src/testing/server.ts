import { vi } from "vitest";

type Answer = unknown | Response | Error;
export type Call = { method: string; path: string; search: string; body: unknown };

/**
 * A server that answers each path as it is told; an Error is a server that does not answer. What it was asked stands in
 * `calls`, in order.
 */
export function server(answers: Record<string, Answer | ((call: Call) => Answer)>) {
  const calls: Call[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const { pathname: path, search } = new URL(request.url);
    const text = await request.text();
    const call = { method: request.method, path, search, body: parsed(text) };
    calls.push(call);
    const told = answers[`${request.method} ${path}`];
    const answer = typeof told === "function" ? (told as (call: Call) => Answer)(call) : told;
    if (answer instanceof Error) throw answer;
    if (answer instanceof Response) return answer;
    if (answer === undefined) return problem(404, `nothing at ${request.method} ${path}`);
    return new Response(JSON.stringify(answer), { headers: { "content-type": "application/json" } });
  });
  return { calls, at: (path: string) => calls.filter((call) => `${call.method} ${call.path}` === path) };
}

/** A refusal as the server words one. */
export function problem(status: number, detail: string, more: object = {}): Response {
  const body = { type: "about:blank", title: detail, status, detail, ...more };
  return new Response(JSON.stringify(body), {
    status,
    headers: { "content-type": "application/problem+json" },
  });
}

function parsed(text: string): unknown {
  if (!text) return undefined;
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
}
