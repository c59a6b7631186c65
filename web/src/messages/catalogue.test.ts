import { execFileSync } from "node:child_process";
import { afterEach, describe, expect, it } from "vitest";
import { LANGUAGES, type MessageData, render, setLanguage } from "./catalogue";
import { sameText, say } from "./say";

type Sample = { language: string; message: MessageData; text: string };

afterEach(() => setLanguage("en"));

describe("messages of the server", () => {
  it("are rendered here as they are there, in every language and standard", () => {
    const output = execFileSync("../.venv/bin/python", ["../tools/message_samples.py"], {
      maxBuffer: 256 * 1024 * 1024,
    });
    const samples: Sample[] = JSON.parse(output.toString());
    expect(samples.length).toBeGreaterThan(1000);
    const different = [];
    for (const { language, message, text } of samples) {
      setLanguage(language);
      const here = render(message);
      if (here !== text) different.push({ id: message.id, language, standard: message.standard, here, text });
    }
    expect(different.slice(0, 5)).toEqual([]);
  }, 120_000);

  it("that are not known are an error, not an empty line", () => {
    expect(() => render({ id: "core.no_such", params: {}, standard: "uk" })).toThrow("no message");
  });

  it("stay text where they are text", () => {
    expect(say("as {typed}")).toBe("as {typed}");
    const message = { id: "core.ending.fact", params: { fact: "x" }, standard: "uk" };
    expect(say(message)).toBe("x.");
    expect(sameText(message, { ...message })).toBe(true);
    expect(sameText(message, "x.")).toBe(false);
  });

  it("fall back to English in a language that is not there", () => {
    setLanguage("xx");
    expect(LANGUAGES).toContain("en");
    expect(say({ id: "core.ending.size_small", params: {}, standard: "uk" })).toBe("too small");
  });
});
