import type { Matrix, PairResult } from "../api/client";
import { t } from "../messages/text";

/** How a pair stands, as a sign and a word: the shape says it without its colour. */
export const STATUSES: Record<PairResult["status"], { mark: string; word: string; look: string }> = {
  total: {
    mark: "●",
    get word() {
      return t("web.selectivity.status.total");
    },
    look: "text-pass",
  },
  typical: {
    mark: "◐",
    get word() {
      return t("web.selectivity.status.races");
    },
    look: "text-tight",
  },
  partial: {
    mark: "◔",
    get word() {
      return t("web.selectivity.status.partial");
    },
    look: "text-advice",
  },
  none: {
    mark: "✕",
    get word() {
      return t("web.selectivity.status.crossed");
    },
    look: "text-fail",
  },
  unknown: {
    mark: "?",
    get word() {
      return t("web.selectivity.status.unknown");
    },
    look: "text-missing",
  },
};

/** The devices that stand ahead of any other, as columns, and those behind one, as rows. */
export function sides(matrix: Matrix) {
  const ups = new Set(matrix.pairs.map((pair) => pair.up));
  const downs = new Set(matrix.pairs.map((pair) => pair.down));
  return {
    ups: matrix.devices.filter((device) => ups.has(device.id)),
    downs: matrix.devices.filter((device) => downs.has(device.id)),
  };
}

export const pairKey = (up: string, down: string) => `${up} ${down}`;

const WORST: PairResult["status"][] = ["none", "unknown", "partial", "typical", "total"];

/** The pair to look at first: the worst, and of those the one that is selective least far. */
export function worstPair(matrix: Matrix): PairResult | undefined {
  const far = (pair: PairResult) => (pair.fault_a && pair.upto_a ? pair.upto_a / pair.fault_a : 1);
  return [...matrix.pairs]
    .filter((pair) => !matrix.devices.find((device) => device.id === pair.down)?.outlet)
    .sort((a, b) => WORST.indexOf(a.status) - WORST.indexOf(b.status) || far(a) - far(b))[0];
}
