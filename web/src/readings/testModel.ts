import type {
  Job,
  JudgedReading,
  OtherReading,
  PlannedTest,
  ReadingRecord,
  TestingView,
  TestStep,
} from "../api/client";
import { WORST_FIRST } from "../circuits/gridModel";

/** What of the tests is shown. */
export type Shown = "all" | "open" | "bad";

/** A test with the reading of it that is in force: of several points the worst. */
export type TestWithReading = { test: PlannedTest; judged?: JudgedReading };

/** A step of the sequence with its tests. */
export type StepWithTests = { step: TestStep; tests: TestWithReading[] };

const WORST: JudgedReading["verdict"][] = [...WORST_FIRST, "not-applicable"];

/** The readings by the test that they are of, the worst of several points. */
export function worstByTest(judged: JudgedReading[]): Map<string, JudgedReading> {
  const found = new Map<string, JudgedReading>();
  for (const one of judged) {
    const before = found.get(one.test);
    if (!before || WORST.indexOf(one.verdict) < WORST.indexOf(before.verdict)) found.set(one.test, one);
  }
  return found;
}

/** Whether a reading needs a second look: it fails, is unclear, or disagrees with the design or with another reading. */
export function isBad(judged: JudgedReading | undefined): boolean {
  return judged !== undefined && (judged.off || judged.verdict === "missing");
}

/** The steps of a plan with their tests, at a board or at all of them, as far as they are to be shown. */
export function stepsOf(view: TestingView, board: string, shown: Shown): StepWithTests[] {
  const tests = withReadings(
    view.plan.tests.filter((test) => !board || test.board === board),
    view,
  );
  return view.plan.steps
    .map((step) => ({
      step,
      tests: tests
        .filter(({ test }) => test.step === step.id)
        .filter(
          ({ judged, test }) =>
            shown === "all" || (shown === "open" ? !judged && !test.optional : isBad(judged)),
        ),
    }))
    .filter(({ tests }) => tests.length > 0);
}

/** Tests with the readings of them that are in force. */
export function withReadings(tests: PlannedTest[], view: TestingView): TestWithReading[] {
  const readings = worstByTest(view.judged);
  return tests.map((test) => ({ test, judged: readings.get(test.id) }));
}

/** A test that readings are typed of: its name, what it is of, and its unit. */
export type ReadTest = Pick<PlannedTest, "id" | "test" | "title" | "subject" | "name" | "unit" | "live">;

/** The test that a reading beside the sequence is of. */
export function otherTest(other: OtherReading, of: OtherReading["of"][number]): ReadTest {
  const { test, title, unit, live } = other;
  return { id: `${test}:${of.subject.kind}:${of.subject.id}`, test, title, unit, live, ...of };
}

/** How many of the tests that are required are done, of how many. */
export function progress(view: TestingView): { done: number; all: number } {
  const readings = worstByTest(view.judged);
  const required = view.plan.tests.filter((test) => !test.optional);
  return { done: required.filter((test) => readings.has(test.id)).length, all: required.length };
}

/** The clock on the wall, as readings are dated. */
export function wallClock(now: Date): string {
  const two = (figure: number) => String(figure).padStart(2, "0");
  const day = `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
  return `${day}T${two(now.getHours())}:${two(now.getMinutes())}:${two(now.getSeconds())}`;
}

/** The id of a new reading: of this browser alone, so that an entry sent twice is one. */
export function newReadingId(): string {
  return `r-${crypto.randomUUID()}`;
}

/** The reading of a test that is in force. */
export function inForce(job: Job, test: ReadTest) {
  return job.testing?.readings?.find(
    (reading) =>
      reading.test === test.test &&
      reading.subject.kind === test.subject.kind &&
      reading.subject.id === test.subject.id &&
      !reading.point,
  );
}

/** A time as it is shown: its day and minute; '' where none is recorded. */
export const shownTime = (at: string | null | undefined): string => at?.replace("T", " ").slice(0, 16) ?? "";

const SEEN: Record<string, string> = { right: "✓", wrong: "✗", "left-out": "–" };

/** A reading as it is shown beside another one. */
export function shownReading(reading: ReadingRecord["reading"], unit: string): string {
  const { state, value } = reading;
  if (SEEN[state]) return SEEN[state];
  if (value === null || value === undefined) return "LIM";
  const sign = state === "above-range" ? "> " : state === "below-range" ? "< " : "";
  return `${sign}${value} ${unit}`.trim();
}

/** A figure as a plan shows it, of three digits; a limit is rounded to the safe side, so that rounding never flatters. */
export function figure(value: number, rounded: "near" | "down" | "up" = "near"): string {
  if (value === 0) return "0";
  const digits = Math.min(6, Math.max(0, 2 - Math.floor(Math.log10(Math.abs(value)))));
  const scaled = Number((value * 10 ** digits).toFixed(6));
  const whole = { near: Math.round, down: Math.floor, up: Math.ceil }[rounded](scaled);
  return String(Number((whole / 10 ** digits).toFixed(digits)));
}

/** The document with a step of isolation done at a time, or with it and all after it taken back. */
export function withIsolation(job: Job, step: number, at: string | null, by: string): Job {
  const testing = job.testing;
  const before = (testing?.isolation ?? []).filter((done) => done.step < step);
  const isolation = at ? [...before, { step, at, by, record: "" }] : before;
  return { ...job, testing: { ...testing, isolation } } as Job;
}
