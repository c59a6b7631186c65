import type { Verdict } from "../api/client";
import { cx } from "../ui/cx";

const WIDTH = 84;
const HEIGHT = 7;

/**
 * How much is in hand, drawn: a bar as long as what is left of the limit. Each verdict has a shape of its own, so that
 * colour is never alone: a plain bar; a short bar with two notches (tight); a wedge that cuts back from the edge
 * (over the limit); an open diamond (advice); a broken outline (input missing). A bar that rests on an assumed value is drawn
 * hollow; advice that was accepted, in grey.
 */
export function Gauge({
  verdict,
  margin,
  assumed,
  accepted,
}: {
  verdict: Verdict;
  margin: number | null | undefined;
  assumed?: boolean;
  accepted?: boolean;
}) {
  const share = Math.min(Math.max(margin ?? 0, 0), 1);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block h-[7px] w-full"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <line x1="0" y1={HEIGHT - 1} x2={WIDTH} y2={HEIGHT - 1} className="stroke-line" strokeWidth="1" />
      <Shape
        verdict={verdict}
        assumed={assumed}
        accepted={accepted}
        share={share}
        over={Math.min(Math.max(-(margin ?? 0), 0.08), 1)}
      />
    </svg>
  );
}

function Shape({
  verdict,
  share,
  over,
  assumed,
  accepted,
}: {
  verdict: Verdict;
  share: number;
  over: number;
  assumed?: boolean;
  accepted?: boolean;
}) {
  const length = share * WIDTH;
  if (assumed && verdict === "pass") {
    return (
      <rect
        x="0.5"
        y="1.5"
        width={Math.max(length - 1, 1)}
        height="4"
        className="fill-none stroke-pass"
        strokeWidth="1"
        vectorEffect="non-scaling-stroke"
      />
    );
  }
  if (verdict === "pass") return <rect x="0" y="1" width={length} height="5" className="fill-pass" />;
  if (verdict === "tight") {
    return (
      <g className="fill-tight">
        <rect x="0" y="0" width="2" height={HEIGHT} />
        <rect x="4" y="0" width="2" height={HEIGHT} />
        <rect x="6" y="1" width={Math.max(length - 6, 0)} height="5" />
      </g>
    );
  }
  if (verdict === "fail") {
    const reach = Math.max(over * WIDTH, 26);
    return (
      <g className="fill-fail">
        <path d={`M${WIDTH} 0 L${WIDTH - reach} ${HEIGHT / 2} L${WIDTH} ${HEIGHT} Z`} />
        <rect x="0" y={HEIGHT / 2 - 0.75} width={WIDTH} height="1.5" />
      </g>
    );
  }
  if (verdict === "advice") {
    return (
      <path
        d="M1 3.5 L7 0.5 L13 3.5 L7 6.5 Z"
        className={cx("fill-none", accepted ? "stroke-line" : "stroke-advice")}
        strokeWidth="1.3"
      />
    );
  }
  if (verdict === "missing") {
    return (
      <rect
        x="0.5"
        y="1"
        width={WIDTH - 1}
        height="5"
        className="fill-none stroke-missing"
        strokeDasharray="3 3"
      />
    );
  }
  return null;
}
