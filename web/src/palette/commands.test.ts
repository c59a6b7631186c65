import { describe, expect, it, vi } from "vitest";
import type { Job } from "../api/client";
import { commandsOf, matching } from "./commands";

const document = {
  circuits: [
    { id: "c1", name: "Kiln" },
    { id: "c2", name: "Lights, kiln room" },
  ],
} as unknown as Job;

describe("the command palette", () => {
  const go = vi.fn();
  const undo = vi.fn();
  const commands = commandsOf({
    document,
    go,
    actions: [{ id: "undo", title: "web.shell.undo", run: undo }],
  });

  it("offers views, circuits, actions and settings", () => {
    expect(new Set(commands.map(({ kind }) => kind)).size).toBe(4);
    expect(matching(commands, "").length).toBe(commands.length);
  });

  it("finds by words in any order, what begins so first", () => {
    expect(matching(commands, "kiln").map(({ title }) => title)).toEqual(["Kiln", "Lights, kiln room"]);
    expect(matching(commands, "room lights")[0]?.title).toBe("Lights, kiln room");
    expect(matching(commands, "shower")).toEqual([]);
  });

  it("goes to a circuit, and does what it names", () => {
    matching(commands, "kiln")[0]?.run();
    expect(go).toHaveBeenCalledWith("circuits", { circuit: "c1" });
    matching(commands, "undo")[0]?.run();
    expect(undo).toHaveBeenCalledOnce();
  });
});
