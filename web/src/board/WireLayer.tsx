import type { BoardView } from "../api/client";
import { t } from "../messages/text";
import { isStriped, paintOf, STRIPE } from "../ui/conductors";
import { cx } from "../ui/cx";
import { liveByNet, netOf, netOfTerminal, spread } from "./boardModel";

type Props = { view: BoardView; live: boolean; lit: string | undefined };

/** Every conductor in its colour along its way; in the live view the live ones full and thick, the dead ones dotted. */
export function WireLayer({ view, live, lit }: Props) {
  const states = liveByNet(view);
  const terminals = netOfTerminal(view);
  const stab = view.form === "panelboard";
  return (
    <g pointerEvents={t("web.board.build.enclosure_none")} data-testid="wires">
      {view.conductors.map((conductor, number) => {
        if (conductor.kind === "plug") return null;
        const points = spread(conductor, number, stab)
          .map((corner) => corner.join(","))
          .join(" ");
        const state = states.get(netOf(conductor, terminals) ?? "")?.state ?? "dead";
        const hot = state === "live" || state === "through-load";
        const wide =
          conductor.kind === "own-lead"
            ? 1.1
            : Math.min(3.2, 0.9 + Math.sqrt(conductor.area_mm2 ?? 2.5) * 0.38);
        const dimmed = lit !== undefined && lit !== conductor.id;
        return (
          <g
            key={conductor.id}
            data-wire={conductor.id}
            data-state={state}
            className={cx(dimmed && "opacity-15")}
            strokeLinejoin="round"
          >
            <polyline
              points={points}
              fill="none"
              stroke={/white|black/.test(conductor.colour) && !live ? "var(--soft)" : "var(--sheet)"}
              strokeWidth={wide + 1.1}
            />
            <polyline
              points={points}
              fill="none"
              stroke={live ? (hot ? "var(--fail)" : "var(--pass)") : paintOf(conductor.colour)}
              strokeWidth={live && hot ? wide + 0.7 : wide}
              strokeDasharray={live && !hot ? "0.1 2.6" : undefined}
              strokeLinecap="round"
            />
            {!live && isStriped(conductor.colour) && (
              <polyline
                points={points}
                fill="none"
                stroke={STRIPE}
                strokeWidth={wide * 0.5}
                strokeDasharray="4 4"
              />
            )}
          </g>
        );
      })}
    </g>
  );
}
