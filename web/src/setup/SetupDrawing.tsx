import { useJob } from "../job/JobContext";
import { t } from "../messages/text";

const WIDTH = 400;
const ROW = 62;

type Stop = { title: string; detail: string; known: boolean };

/** The way in, drawn from what is known: what is missing stands in a broken outline. */
export function SetupDrawing() {
  const { document, rules } = useJob();
  const { supply, boards } = document;
  const figure = (value: number | null | undefined, unit: string) =>
    value ? `${value} ${unit}` : t("web.setup.supply.cutout_unknown");
  const sizeOf = (area: number) =>
    `${rules.sizes.find((size) => size.area_mm2 === area)?.label ?? area} ${rules.size_unit}`;
  const stops: Stop[] = [
    {
      title: t("web.setup.path.supply", { system: supply.system }),
      detail: supply.transformer
        ? t("web.setup.path.supply_calculated", { rated_kva: supply.transformer.rated_kva })
        : `Ze ${figure(supply.ze_ohm, "Ω")} · ${figure(supply.fault_current_ka, "kA")}`,
      known: Boolean(supply.transformer || (supply.ze_ohm && supply.fault_current_ka)),
    },
    {
      title: t("web.setup.path.cutout"),
      detail: supply.cutout
        ? t("web.setup.path.cutout_rating", { rating_a: supply.cutout.rating_a })
        : t("web.setup.supply.cutout_unknown"),
      known: Boolean(supply.cutout),
    },
    {
      title: t("web.setup.path.tails"),
      detail: supply.tails
        ? `${sizeOf(supply.tails.area_mm2)}, ${supply.tails.length_m} m`
        : t("web.setup.supply.tails_none"),
      known: true,
    },
    ...(boards ?? []).map((board) => ({
      title: board.name,
      detail: `${board.main_switch ? t("web.setup.path.main_switch", { rating: board.main_switch.rating_a }) : t("web.setup.path.main_switch_unknown")} · ${board.ways?.length ?? 0} of ${board.way_count} ways`,
      known: Boolean(board.main_switch),
    })),
  ];
  const live = 3;
  const height = stops.length * ROW + 20;
  return (
    <figure className="rounded-xl border border-line bg-sheet p-4">
      <figcaption className="mb-2 font-semibold">{t("web.setup.path.title")}</figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="w-full"
        role="img"
        aria-label={stops.map((stop) => `${stop.title}: ${stop.detail}`).join("; ")}
      >
        {stops.map((stop, at) => {
          const top = at * ROW + 10;
          return (
            <g key={`${stop.title}${at}`}>
              {at > 0 && (
                <line
                  x1="24"
                  y1={top - ROW + 40}
                  x2="24"
                  y2={top}
                  className={at <= live ? "stroke-fail" : "stroke-accent"}
                  strokeWidth="3"
                />
              )}
              <rect
                x="8"
                y={top}
                width="32"
                height="40"
                rx="6"
                className={stop.known ? "fill-wash stroke-accent" : "fill-none stroke-missing"}
                strokeDasharray={stop.known ? undefined : "4 3"}
                strokeWidth="1.5"
              />
              <text x="24" y={top + 25} textAnchor="middle" className="figure fill-ink text-[13px]">
                {stop.known ? at + 1 : "?"}
              </text>
              <text x="54" y={top + 16} className="fill-ink text-[14px] font-medium">
                {stop.title}
              </text>
              <text x="54" y={top + 34} className="figure fill-soft text-[12.5px]">
                {stop.detail}
              </text>
            </g>
          );
        })}
      </svg>
      <p className="mt-1 text-[12.5px] text-soft">
        <span className="text-fail">{t("web.setup.path.live_red")}</span> {t("web.setup.path.stays_live")}
      </p>
    </figure>
  );
}
