import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { LANGUAGES } from "./catalogue";
import en from "./texts/en/web.json";

/** The source of every view, without its tests. */
const sources = readdirSync("src", { recursive: true, encoding: "utf8" })
  .filter((file) => /\.tsx?$/.test(file) && !/\.test\./.test(file) && !file.endsWith("schema.d.ts"))
  .map((file) => readFileSync(join("src", file), "utf8"));

const named = new Set(
  sources.flatMap((text) => [...text.matchAll(/"(web\.[\w.-]+)"/g)].map((match) => match[1])),
);

describe("texts of the views", () => {
  it("are all used, and all stated", () => {
    expect(Object.keys(en).filter((id) => !named.has(id))).toEqual([]);
    expect([...named].filter((id) => id && !(id in en))).toEqual([]);
  });

  it("are in the order of their ids", () => {
    expect(Object.keys(en)).toEqual([...Object.keys(en)].sort());
  });

  it("have no space at an end, no double space and no placeholder that is not closed", () => {
    const odd = Object.entries(en).filter(
      ([, text]) => / {2}|^\s|\{\s*\}$/.test(text) || text !== text.trimStart(),
    );
    expect(odd).toEqual([]);
    expect(LANGUAGES.length).toBeGreaterThan(0);
  });
});
