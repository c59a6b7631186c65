import type { BoardView } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { paintOf } from "../ui/conductors";

/** Neutral and earth bars with their numbered screws. */
export function Bars({ view, lit }: { view: BoardView; lit: string | undefined }) {
  return (
    <g>
      {view.bars.map((bar) => (
        <g key={bar.id} data-bar={bar.id}>
          <rect
            x={bar.box.x}
            y={bar.box.y}
            width={bar.box.w}
            height={bar.box.h}
            rx={1.4}
            fill={paintOf(bar.colour)}
            stroke="var(--ink)"
            strokeWidth={0.4}
            opacity={0.85}
          />
          {bar.screws.map((screw) => (
            <g key={screw.terminal}>
              <title>
                {t("web.board.drawing.bar_terminal", {
                  bar: say(bar.title),
                  n: screw.number,
                  conductor: say(screw.text),
                })}
              </title>
              <circle
                cx={screw.x}
                cy={screw.y}
                r={2.2}
                fill="var(--sheet)"
                stroke={screw.circuit && screw.circuit === lit ? "var(--accent)" : "var(--ink)"}
                strokeWidth={screw.circuit && screw.circuit === lit ? 1.4 : 0.4}
              />
              <text
                x={bar.box.w >= bar.box.h ? screw.x : screw.x + (bar.box.x < view.width_mm / 2 ? -6.5 : 6.5)}
                y={numberY(view, bar.box, screw.y)}
                textAnchor="middle"
                fontSize={4}
                className={
                  screw.circuit && screw.circuit === lit ? "figure fill-accent font-bold" : "figure fill-soft"
                }
              >
                {screw.number}
              </text>
            </g>
          ))}
        </g>
      ))}
    </g>
  );
}

/** Numbers stand outside the bar: above one at the top, below one at the bottom, beside an upright one. */
function numberY(view: BoardView, box: { y: number; w: number; h: number }, y: number): number {
  if (box.w < box.h) return y + 1.4;
  return box.y < view.height_mm / 2 ? box.y - 1.6 : box.y + box.h + 5;
}

/** Combs: a bar along their teeth, covered teeth hollow. */
export function Combs({ view }: { view: BoardView }) {
  return (
    <g>
      {view.combs.map((comb) => {
        const first = comb.teeth[0];
        const last = comb.teeth[comb.teeth.length - 1];
        if (!first || !last) return null;
        return (
          <g key={comb.id} data-comb={comb.id}>
            <title>
              {t("web.board.drawing.busbar", {
                n: comb.teeth.length,
                mm: comb.cut_mm.toFixed(0),
                covered: comb.covered,
              })}
            </title>
            <rect
              x={first.x - 7}
              y={first.y + 3.4}
              width={last.x - first.x + 14}
              height={5}
              rx={1}
              fill="var(--tight)"
              opacity={0.9}
            />
            {comb.teeth.map((tooth) => (
              <g key={tooth.x}>
                <rect
                  x={tooth.x - 1.5}
                  y={tooth.y - 2.2}
                  width={3}
                  height={7}
                  fill={tooth.covered ? "var(--sheet)" : "var(--tight)"}
                  stroke="var(--tight)"
                  strokeWidth={0.5}
                />
                {comb.lines.length > 1 && (
                  <text
                    x={tooth.x}
                    y={first.y + 7.3}
                    textAnchor="middle"
                    fontSize={3.2}
                    className="figure fill-sheet"
                  >
                    {tooth.line.replace("L", "")}
                  </text>
                )}
              </g>
            ))}
          </g>
        );
      })}
    </g>
  );
}

/** Terminal blocks that some nets need. */
export function Blocks({ view }: { view: BoardView }) {
  return (
    <g>
      {view.blocks.map((block) => (
        <g key={block.id} data-block={block.id}>
          <title>{t("web.board.drawing.block", { n: block.ways })}</title>
          <rect
            x={block.at.x - 5}
            y={block.at.y - 4}
            width={10}
            height={8}
            rx={1}
            className="fill-sheet stroke-ink"
            strokeWidth={0.6}
          />
          <text
            x={block.at.x}
            y={block.at.y + 1.6}
            textAnchor="middle"
            fontSize={4.4}
            className="figure fill-ink"
          >
            {block.ways}
          </text>
        </g>
      ))}
    </g>
  );
}
