import { scaleLog } from "d3-scale";

/** The ruler's ends [s]: below the first nothing opens, past the last nobody waits. */
export const ENDS = [0.005, 10_000] as const;

/** Times on a ruler of so many pixels, a decade as wide as any other. */
export const ruler = (from: number, to: number) =>
  scaleLog()
    .domain([...ENDS])
    .range([from, to])
    .clamp(true);

export const TICKS = [
  { at: 0.01, label: "10 ms" },
  { at: 0.1, label: "0.1 s" },
  { at: 1, label: "1 s" },
  { at: 10, label: "10 s" },
  { at: 60, label: "1 min" },
  { at: 600, label: "10 min" },
  { at: 3600, label: "1 h" },
] as const;
