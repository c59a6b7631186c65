// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import type { JudgedReading, PlannedTest } from "../api/client";
import type { Waiting } from "../offline/database";
import { Typed } from "./Typed";

const TEST = {
  ...{ id: "r1r2:circuit:c1", test: "r1r2", unit: "Ω" },
  ...{ name: { id: "", values: {} }, title: { id: "", values: {} } },
} as unknown as PlannedTest;
const judged = (shown: string) => ({ shown, verdict: "pass" }) as unknown as JudgedReading;
const waits = (text: string) => ({ reading: { text } }) as unknown as Waiting;

vi.mock("../messages/say", () => ({ say: () => "R1+R2" }));
afterEach(cleanup);

it("keeps what is typed while the reading before it is judged", () => {
  const enter = vi.fn(async () => undefined);
  const { rerender } = render(<Typed test={TEST} enter={enter} waiting={waits("0.9")} />);
  const box = screen.getByRole("textbox") as HTMLInputElement;
  fireEvent.focus(box);
  fireEvent.change(box, { target: { value: "0.14" } });
  rerender(<Typed test={TEST} enter={enter} />);
  rerender(<Typed test={TEST} enter={enter} judged={judged("0.9 Ω")} />);
  expect(box.value).toBe("0.14");
  fireEvent.blur(box);
  expect(enter).toHaveBeenCalledWith([{ test: TEST, text: "0.14" }]);
});

it("does not take the selection away from who is about to type, and shows what came when left", () => {
  const enter = vi.fn(async () => undefined);
  const { rerender } = render(<Typed test={TEST} enter={enter} waiting={waits("0.9")} />);
  const box = screen.getByRole("textbox") as HTMLInputElement;
  fireEvent.focus(box);
  rerender(<Typed test={TEST} enter={enter} judged={judged("0.90 Ω")} />);
  expect(box.value).toBe("0.9");
  fireEvent.blur(box);
  expect(box.value).toBe("0.90");
  expect(enter).not.toHaveBeenCalled();
});

it("shows what is judged while the box is left alone, and gives it back at Esc", () => {
  const enter = vi.fn(async () => undefined);
  const { rerender } = render(<Typed test={TEST} enter={enter} waiting={waits("0.9")} />);
  const box = screen.getByRole("textbox") as HTMLInputElement;
  rerender(<Typed test={TEST} enter={enter} judged={judged("0.90 Ω")} />);
  expect(box.value).toBe("0.90");
  fireEvent.change(box, { target: { value: "7" } });
  fireEvent.keyDown(box, { key: "Escape" });
  fireEvent.blur(box);
  expect(box.value).toBe("0.90");
  expect(enter).not.toHaveBeenCalled();
});
