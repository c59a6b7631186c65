import { type Problem, Refused, Unreachable } from "./client";

/** Posts a body and reads the answer line by line as it comes; `tell` gets each line, the last one is given back. */
export async function postForLines<Line>(
  path: string,
  body: unknown,
  signal: AbortSignal,
  tell: (line: Line) => void,
): Promise<Line | undefined> {
  let response: Response;
  try {
    response = await fetch(path, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(body),
      signal,
    });
  } catch (error) {
    if (signal.aborted) throw error;
    throw new Unreachable();
  }
  if (!response.ok || !response.body) throw new Refused(response.status, (await response.json()) as Problem);
  const reader = response.body.getReader();
  const decoder = new TextDecoder();
  let rest = "";
  let last: Line | undefined;
  for (;;) {
    const { value, done } = await reader.read();
    if (done) return last;
    const lines = (rest + decoder.decode(value, { stream: true })).split("\n");
    rest = lines.pop() ?? "";
    for (const text of lines) {
      last = JSON.parse(text) as Line;
      tell(last);
    }
  }
}

/** What a refusal says, with a line for each thing wrong. */
export function reasons(error: unknown): string[] {
  const lines = error instanceof Refused ? (error.problem.problems ?? []) : [];
  if (lines.length) return lines.map((line) => `${line.path || "file"}: ${line.message}`);
  return [error instanceof Error ? error.message : String(error)];
}
