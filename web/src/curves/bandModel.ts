import { scaleLog } from "d3-scale";
import type { BandPoints } from "../api/client";
import { t } from "../messages/text";

export type Point = readonly [number, number];

/** The plot's ends: currents [A] and times [s]. */
export const AMPS: Point = [5, 20_000];
export const SECONDS: Point = [0.001, 10_000];

export const decades = ([low, high]: Point): number[] => {
  const first = Math.ceil(Math.log10(low));
  const last = Math.floor(Math.log10(high));
  return Array.from({ length: last - first + 1 }, (_, at) => 10 ** (first + at));
};

/** Scales of a plot of so many pixels, for currents and times on logarithmic paper. */
export function scales(width: number, height: number, margin: { left: number; bottom: number; top: number }) {
  return {
    x: scaleLog()
      .domain([...AMPS])
      .range([margin.left, width - 6])
      .clamp(true),
    y: scaleLog()
      .domain([...SECONDS])
      .range([height - margin.bottom, margin.top])
      .clamp(true),
  };
}

/** An edge as pairs of current and time. */
export const edgeOf = (points: BandPoints["lower"]): Point[] =>
  points.map(({ amps, seconds }) => [amps, seconds]);

/** The outline of a band: down its quick edge and back up its slow one. */
export function outline(band: Pick<BandPoints, "lower" | "upper">): Point[] {
  const lower = edgeOf(band.lower);
  const upper = edgeOf(band.upper);
  return [...lower, ...upper.toReversed()];
}

/** A current as it is written on the axis. */
export const ampsText = (amps: number) =>
  amps >= 1000 ? `${amps / 1000} kA` : t("web.setup.path.cutout_rating", { rating_a: amps });

/** A time as it is written on the axis. */
export const secondsText = (seconds: number) =>
  seconds >= 1 ? `${seconds} s` : `${Number((seconds * 1000).toPrecision(3))} ms`;
