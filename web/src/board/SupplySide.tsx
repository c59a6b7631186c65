import type { Board, BoardView, Conductor } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { paintOf } from "../ui/conductors";

/** Space above the enclosure that the supply takes [mm]. */
export const SUPPLY_MM = 48;
const ASIDE_MM = 10;

/**
 * What supplies the board, outside it: cut-out, meter and tails, or the way that feeds it. It stays live with the board's main
 * switch off, which the live view shows.
 */
export function SupplySide({ board, view, live }: { board: Board; view: BoardView; live: boolean }) {
  const { document } = useJob();
  const entering = view.conductors.filter(({ kind, conductor }) => kind === "supply" && conductor !== "PE");
  const places = entering.map(entryOf).filter((place) => place !== undefined);
  const first = places[0];
  if (!first) return null;
  const { cutout, tails } = document.supply;
  const [cutX, meterX] = sides(first.x, view.width_mm);
  const origin = board.fed_by === "origin";
  return (
    <g data-testid="supply-side" className="no-drag">
      {entering.map((conductor, at) => {
        const place = places[at];
        if (!place) return null;
        const y = -SUPPLY_MM + 20 + at * 3;
        return (
          <polyline
            key={conductor.id}
            points={[[cutX, y], ...around(place, y, view)].map((point) => point.join(",")).join(" ")}
            fill="none"
            stroke={
              !live ? paintOf(conductor.colour) : conductor.conductor === "N" ? "var(--pass)" : "var(--fail)"
            }
            strokeWidth={live && conductor.conductor !== "N" ? 2.2 : 1.6}
            strokeLinejoin="round"
          />
        );
      })}
      {origin ? (
        <>
          <Box x={cutX} title={t("web.board.supply.cutout")} text={cutout ? `${cutout.rating_a} A` : "?"} />
          <Box x={meterX} title={t("web.board.supply.meter")} text="kWh" />
          <text
            x={(first.x + meterX) / 2}
            y={-SUPPLY_MM + 14}
            textAnchor="middle"
            fontSize={4.6}
            className="fill-soft"
          >
            {tails
              ? t("web.board.supply.tails", {
                  size: say(entering[0]?.size ?? ""),
                  m: String(tails.length_m ?? "?"),
                })
              : t("web.board.supply.no_tails")}
          </text>
        </>
      ) : (
        <Box x={cutX} wide={90} title="" text={fedBy(document.boards, board)} />
      )}
      {live && (
        <text x={cutX - 17} y={-4} fontSize={5.5} className="fill-fail font-semibold">
          {t("web.board.supply.stays_live")}
        </text>
      )}
    </g>
  );
}

type Place = { x: number; y: number };

/** Where a supply conductor enters: the end of it that is no terminal. */
function entryOf({ start, corners }: Conductor): Place | undefined {
  return start.terminal.startsWith("supply") ? corners[0] : corners.at(-1);
}

/** From the supply to an entry: straight down to one at the top, round the side to any other. */
function around({ x, y }: Place, from: number, view: BoardView): number[][] {
  if (y <= 1)
    return [
      [x, from],
      [x, y],
    ];
  const side = x < view.width_mm / 2 ? -ASIDE_MM : view.width_mm + ASIDE_MM;
  if (y < view.height_mm - 1)
    return [
      [side, from],
      [side, y],
      [x, y],
    ];
  return [
    [side, from],
    [side, view.height_mm + ASIDE_MM],
    [x, view.height_mm + ASIDE_MM],
    [x, y],
  ];
}

/** Where the cut-out and the meter are drawn: away from the entry, to the side that has the space. */
function sides(x: number, width: number): [number, number] {
  const direction = x < width / 2 ? 1 : -1;
  return [x + direction * 130, x + direction * 70];
}

/** A box with its name above it. */
function Box({ x, wide = 26, title, text }: { x: number; wide?: number; title: string; text: string }) {
  const y = -SUPPLY_MM + 10;
  return (
    <g>
      <text x={x} y={y - 3} textAnchor="middle" fontSize={5.2} className="fill-ink font-semibold">
        {title}
      </text>
      <rect
        x={x - wide / 2}
        y={y}
        width={wide}
        height={24}
        rx={2}
        className="fill-sheet stroke-ink"
        strokeWidth={0.9}
      />
      <text x={x} y={y + 14} textAnchor="middle" fontSize={5.4} className="figure fill-ink">
        {text}
      </text>
    </g>
  );
}

function fedBy(boards: Board[], board: Board): string {
  if (typeof board.fed_by === "string") return "";
  const { way, board: id } = board.fed_by;
  return t("web.circuits.board.fed_way", {
    n: way,
    board: boards.find((known) => known.id === id)?.name ?? id,
  });
}
