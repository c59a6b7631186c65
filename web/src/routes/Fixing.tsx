import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { DrillRow, FixingPlan } from "../api/client";
import { fixingQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { type Key, t } from "../messages/text";
import { JoistFigure } from "./JoistFigure";

const WALL: Record<string, Key> = {
  front: "web.routes.wall.front",
  right: "web.routes.wall.right",
  back: "web.routes.wall.back",
  left: "web.routes.wall.left",
};
const wall = (name: string | null | undefined) => t(WALL[name ?? ""] ?? "web.routes.wall.front");

/** How the plan is fixed: what to mark out, drill, chase and clip. It is worked out when it is opened. */
export function Fixing() {
  const [open, setOpen] = useState(false);
  return (
    <details
      className="mt-3 text-[13px]"
      data-testid="fixing"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer font-semibold">{t("web.routes.fixing")}</summary>
      {open && <Opened />}
    </details>
  );
}

function Opened() {
  const { document, version } = useJob();
  const { data, error } = useQuery(fixingQuery(document, version));
  if (error) return <p role="alert">{error.message}</p>;
  if (!data) return <p className="text-soft">{t("web.routes.loading")}</p>;
  return <Lists fixing={data} />;
}

function Lists({ fixing }: { fixing: FixingPlan }) {
  const { document } = useJob();
  const room = (id: string) => document.rooms?.find((each) => each.id === id)?.name ?? id;
  const circuit = (id: string) => document.circuits?.find((each) => each.id === id)?.name ?? id;
  return (
    <div>
      {fixing.questions.map((each) => (
        <p key={say(each)} className="text-missing" data-question>
          ? {say(each)}
        </p>
      ))}
      {fixing.refused.map((each) => (
        <p key={say(each)} className="text-fail" data-refused>
          ✗ {say(each)}
        </p>
      ))}
      <p>
        {t("web.routes.fixing_clips", { n: fixing.clips })}
        {fixing.open_m > 0 && (
          <span className="text-missing">
            {" "}
            {t("web.routes.fixing_open", { m: fixing.open_m.toFixed(1) })}
          </span>
        )}
      </p>
      {fixing.joists.length > 0 && (
        <>
          <h3 className="mt-2 font-semibold">{t("web.routes.fixing_drill")}</h3>
          <Figures rows={fixing.joists} />
          <ul>
            {fixing.joists.map((row) => (
              <li key={`${row.room} ${row.void} ${row.at_m} ${row.joists_at_m.join()}`} data-drill>
                <b>{room(row.room)}</b>{" "}
                {t(row.void === "ceiling" ? "web.routes.over_ceiling" : "web.routes.under_floor")}:{" "}
                <span className="figure">{made(row)}</span>{" "}
                {t("web.routes.drill_at", {
                  at: row.at_m.toFixed(2),
                  wall: wall(row.support_wall),
                  joists: row.joists_at_m.join(", "),
                  from: wall(row.from_wall),
                })}{" "}
                <span className="text-soft">{row.circuits.map(circuit).join(", ")}</span>{" "}
                {row.refused && <span className="text-fail">✗ {say(row.refused)}</span>}
                {row.lack && <span className="text-missing">? {say(row.lack)}</span>}
                {row.protect && <span> {t("web.routes.protect")}</span>}
              </li>
            ))}
          </ul>
        </>
      )}
      {fixing.chases.length > 0 && (
        <>
          <h3 className="mt-2 font-semibold">{t("web.routes.fixing_chase")}</h3>
          <ul>
            {fixing.chases.map((chase) => (
              <li key={`${chase.room} ${chase.wall} ${chase.direction} ${chase.along_m} ${chase.height_m}`}>
                <b>{room(chase.room)}</b> {wall(chase.wall)}:{" "}
                {t(chase.direction === "vertical" ? "web.routes.chase_up" : "web.routes.chase_level", {
                  length: chase.length_m.toFixed(2),
                  at: (chase.direction === "vertical" ? chase.along_m : chase.height_m).toFixed(2),
                })}{" "}
                <span className="figure">
                  {chase.needed_mm ?? "?"} /{" "}
                  {chase.limit ? Math.floor(chase.limit.depth_m * 10000) / 10 : "–"} mm
                </span>{" "}
                {chase.refused && <span className="text-fail">✗ {say(chase.refused)}</span>}
              </li>
            ))}
          </ul>
        </>
      )}
      <h3 className="mt-2 font-semibold">{t("web.routes.fixing_marks")}</h3>
      <ul className="columns-2 max-sm:columns-1">
        {fixing.marks.map((mark) => (
          <li key={mark.point} data-mark={mark.point}>
            {mark.name}:{" "}
            <span className="text-soft">
              {mark.wall
                ? t("web.routes.mark_wall", {
                    wall: wall(mark.wall),
                    at: (mark.distance_m ?? 0).toFixed(2),
                    from: wall(mark.from_wall),
                    height: mark.height_m.toFixed(2),
                  })
                : t("web.routes.mark_ceiling", {
                    x: (mark.x_m ?? 0).toFixed(2),
                    y: (mark.y_m ?? 0).toFixed(2),
                  })}
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-1 text-[12px] text-soft">{t("web.routes.fixing_caution")}</p>
    </div>
  );
}

const made = (row: DrillRow) =>
  row.size_mm === null || row.size_mm === undefined
    ? "?"
    : row.kind === "notch"
      ? t("web.routes.notch", { mm: String(row.size_mm) })
      : `${row.holes > 1 ? `${row.holes} × ` : ""}Ø ${row.size_mm} mm`;

/** Each kind of joist once, from the side. */
function Figures({ rows }: { rows: DrillRow[] }) {
  const kinds = new Map<string, DrillRow[]>();
  for (const row of rows) {
    if (!row.depth_mm || !row.span_m || !row.zone_m) continue;
    const key = `${row.depth_mm} ${row.span_m}`;
    kinds.set(key, [...(kinds.get(key) ?? []), row]);
  }
  return [...kinds].map(([key, of]) => <JoistFigure key={key} rows={of} />);
}
