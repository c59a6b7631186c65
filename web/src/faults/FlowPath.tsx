import type { FaultResult } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";

/** A current as it is read: mA below one ampere. */
function amps(value: number): string {
  if (value < 0.001) return "0";
  if (value < 1) return t("web.rcd_plans.leakage_value", { tight: (value * 1000).toFixed(0) });
  return t("web.faults.flow", { most: value < 10 ? value.toFixed(1) : Math.round(value) });
}

const CONDUCTORS = () =>
  [
    ["line_a", t("web.faults.path.line"), "var(--fail)"],
    ["neutral_a", t("web.faults.path.neutral"), "var(--accent)"],
    ["earth_a", t("web.faults.path.earth"), "var(--pass)"],
  ] as const;

/** The path from the origin to the fault, with what flows on each conductor of each stretch: the thicker, the more. */
export function FlowPath({ path }: { path: FaultResult["path"] }) {
  if (!path.length) return null;
  const most = Math.max(
    ...path.flatMap((stretch) => [stretch.line_a, stretch.neutral_a, stretch.earth_a]),
    1,
  );
  const step = 900 / path.length;
  return (
    <section
      aria-label={t("web.faults.path.section")}
      className="shrink-0 overflow-x-auto rounded-xl border border-line bg-sheet px-3 py-2"
    >
      <svg
        viewBox="0 0 900 112"
        className="h-auto w-full min-w-[40rem]"
        role="img"
        aria-label={path
          .map((stretch) =>
            t("web.faults.path.spoken", {
              place: say(stretch.label),
              line: amps(stretch.line_a),
              neutral: amps(stretch.neutral_a),
              earth: amps(stretch.earth_a),
            }),
          )
          .join("; ")}
        data-testid="flow-path"
      >
        {path.map((stretch, at) => (
          <g key={say(stretch.label)}>
            <circle cx={at * step + step - 14} cy={16} r={4.5} fill="var(--ink)" />
            <text
              x={at * step + step - 24}
              y={20}
              fontSize="13"
              textAnchor="end"
              fontWeight={600}
              fill="var(--ink)"
            >
              {say(stretch.label)}
            </text>
            {CONDUCTORS().map(([name, word, colour], row) => (
              <g key={name}>
                <line
                  x1={at * step + 4}
                  x2={at * step + step - 14}
                  y1={44 + row * 26}
                  y2={44 + row * 26}
                  stroke={colour}
                  strokeWidth={1 + (9 * stretch[name]) / most}
                  strokeDasharray={stretch[name] < 0.001 ? "2 5" : ""}
                  opacity={stretch[name] < 0.001 ? 0.5 : 0.85}
                />
                <text x={at * step + 8} y={38 + row * 26} fontSize="12" fill="var(--soft)">
                  {word} {amps(stretch[name])}
                </text>
              </g>
            ))}
          </g>
        ))}
      </svg>
    </section>
  );
}
