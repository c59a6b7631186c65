import { useQuery } from "@tanstack/react-query";
import { rcdReachQuery } from "../../api/queries";
import { useJob } from "../../job/JobContext";
import { say } from "../../messages/say";
import { t } from "../../messages/text";

/** The run of a circuit once for each of its residual-current devices: the part that it protects solid, the rest hatched. */
export function RcdReach({ circuit }: { circuit: string }) {
  const { document, version } = useJob();
  const reaches = useQuery(rcdReachQuery(document, version, circuit, true)).data ?? [];
  if (!reaches.length) return null;
  return (
    <ul
      aria-label={t("web.circuit.local.reach")}
      data-testid="rcd-reach"
      className="mt-2 flex flex-col gap-1.5"
    >
      {reaches.map((reach) => {
        const length = reach.length_m ?? 0;
        const from = reach.from_m ?? undefined;
        const bare = from === undefined ? 1 : length > 0 ? Math.min(1, from / length) : 0;
        const name = say(reach.name);
        return (
          <li key={name} className="grid grid-cols-[1fr_2fr] items-center gap-3 text-[12.5px]">
            <span>
              <b className="font-semibold">{name}</b> {say(reach.text)}
            </span>
            <svg viewBox="0 0 300 26" className="h-[26px] w-full" aria-hidden="true">
              <defs>
                <pattern id={`bare-${circuit}`} width="6" height="6" patternUnits="userSpaceOnUse">
                  <path d="M0 6 L6 0" className="stroke-soft" strokeWidth="1.2" />
                </pattern>
              </defs>
              <rect x="1" y="5" width="14" height="16" rx="2" className="fill-sheet stroke-ink" />
              <rect
                x="15"
                y="10"
                width={bare * 263}
                height="6"
                fill={`url(#bare-${circuit})`}
                className="stroke-soft"
                strokeWidth="0.8"
              />
              <rect x={15 + bare * 263} y="10" width={(1 - bare) * 263} height="6" className="fill-accent" />
              <circle
                cx={15 + bare * 263}
                cy="13"
                r="6"
                className="fill-sheet stroke-accent"
                strokeWidth="2"
              />
              <rect x="278" y="6" width="14" height="14" rx="2" className="fill-sheet stroke-ink" />
            </svg>
          </li>
        );
      })}
    </ul>
  );
}
