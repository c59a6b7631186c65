import { describe, expect, it } from "vitest";
import { completions } from "./completion";

const words = ["cooker", "cooker hood", "kitchen", "living room", "lights", "Mill floor"];
const recent = ["cooker 7.2kW 14m, kitchen", "shower 9.5kW 17m"];

describe("completion of a typed line", () => {
  it("offers lines entered before, those that begin with what is typed first", () => {
    expect(completions("", words, recent)).toEqual(recent);
    expect(completions("coo", words, recent)).toEqual([recent[0], "cooker", "cooker hood"]);
    expect(completions("Shower 9", words, recent)).toEqual([recent[1]]);
  });

  it("completes the last word, or two of them, and leaves the rest as it is", () => {
    expect(completions("8 lights 6W, liv", words, [])).toEqual(["8 lights 6W, living room"]);
    expect(completions("lights, living r", words, [])).toEqual(["lights, living room"]);
    expect(completions("sockets 20m mill", words, [])).toEqual(["sockets 20m Mill floor"]);
  });

  it("offers nothing for one letter, a number or a word that is whole", () => {
    for (const text of ["c", "cooker 7.2", "lights"]) expect(completions(text, words, [])).toEqual([]);
  });
});
