import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Board, BoardView } from "../api/client";
import { isolationQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Field";
import { isHot } from "./boardModel";

const STATES: Record<string, string> = {
  get live() {
    return t("web.board.live.state.live");
  },
  get generated() {
    return t("web.board.live.state.generated");
  },
  get "through-load"() {
    return t("web.board.live.state.load");
  },
  get neutral() {
    return t("web.board.live.state.neutral");
  },
  get earth() {
    return t("web.board.live.state.earth");
  },
  get dead() {
    return t("web.board.live.state.dead");
  },
};

/** What is live with the switches as they are, and the order of isolation for the work in hand. */
export function LiveParts({
  board,
  view,
  chosen,
  open,
  onOpen,
}: {
  board: Board;
  view: BoardView;
  chosen: string | undefined;
  open: ReadonlySet<string>;
  onOpen: (open: string[]) => void;
}) {
  const { document, version } = useJob();
  const [work, setWork] = useState("board");
  const isolation = useQuery(isolationQuery(document, version, board.id, work, true));
  const dead = view.units.filter((unit) => unit.kind === "way" && state(view, unit.id) === "dead");
  const unit = view.units.find((unit) => unit.id === chosen);
  return (
    <>
      <section
        className="rounded-xl border border-line bg-sheet p-3 text-[13px]"
        aria-label={t("web.board.tab.live")}
        aria-live="polite"
        data-testid="live-panel"
      >
        <div className="mb-1 flex items-center justify-between">
          <h2 className="text-[13px] font-semibold">
            {open.size
              ? t("web.board.live.switched_off", {
                  names: view.units
                    .filter((unit) => open.has(unit.id))
                    .map((unit) => say(unit.name))
                    .join(", "),
                })
              : t("web.board.live.all_on")}
          </h2>
          {open.size > 0 && (
            <Button variant="quiet" onClick={() => onOpen([])}>
              {t("web.board.live.all_on_button")}
            </Button>
          )}
        </div>
        <p data-testid="stays-live">
          <b className="text-fail">{t("web.board.live.live")}</b>{" "}
          {liveWords(view) || t("web.board.live.none")}
        </p>
        <p className="mt-1">
          <b>{t("web.board.live.dead")}</b>{" "}
          {dead.length ? dead.map((way) => say(way.name)).join(", ") : t("web.board.live.none")}
        </p>
        {unit && (
          <ul className="mt-2 border-t border-line pt-1 text-[12.5px]">
            <li className="font-medium">{say(unit.name)}</li>
            {unit.clamps.map((clamp) => (
              <li key={clamp.terminal} className="flex justify-between">
                <span>
                  {t("web.board.live.terminal")} <span className="figure">{say(clamp.number)}</span>
                </span>
                <span>{STATES[view.live.find((liveNet) => liveNet.net === clamp.net)?.state ?? "dead"]}</span>
              </li>
            ))}
          </ul>
        )}
      </section>
      <section
        className="rounded-xl border border-line bg-sheet p-3 text-[13px]"
        aria-label={t("web.board.live.steps")}
        data-testid="isolation"
      >
        <Choice
          label={t("web.board.live.work")}
          value={work}
          options={[
            { value: "board", label: t("web.board.live.work_board") },
            ...view.units.map((unit) => ({
              value: unit.id,
              label: t("web.board.live.work_inside", { device: say(unit.name) }),
            })),
            ...view.units
              .filter((unit) => unit.kind === "way")
              .map((unit) => ({
                value: `circuit:${unit.circuit}`,
                label: t("web.board.live.work_circuit", { name: say(unit.name) }),
              })),
          ]}
          onCommit={setWork}
        />
        {isolation.data && (
          <>
            <ol className="mt-2 list-decimal pl-5">
              {isolation.data.steps.map((step) => (
                <li key={say(step)}>{say(step)}</li>
              ))}
            </ol>
            <p className="mt-2 text-fail">
              {isolation.data.stays_live.length
                ? t("web.board.live.stays_live", { list: isolation.data.stays_live.map(say).join("; ") })
                : t("web.board.live.nothing_live")}
            </p>
            <Button className="mt-2" onClick={() => onOpen([...isolation.data.open])}>
              {t("web.board.live.show")}
            </Button>
          </>
        )}
      </section>
    </>
  );
}

function state(view: BoardView, unit: string): string {
  const out = view.units
    .find((placed) => placed.id === unit)
    ?.clamps.filter((clamp) => clamp.terminal.endsWith("/out"));
  const states = new Map(view.live.map((liveNet) => [liveNet.net, liveNet.state]));
  return out?.some((clamp) => isHot(states.get(clamp.net))) ? "live" : "dead";
}

/** What is live, by the devices it can be touched at; the main switch and the devices beside it first. */
function liveWords(view: BoardView): string {
  const states = new Map(view.live.map((liveNet) => [liveNet.net, liveNet.state]));
  const rank = (unit: BoardView["units"][number]) => ({ main: 0, way: 2 })[unit.kind as string] ?? 1;
  const words = [...view.units]
    .sort((one, other) => rank(one) - rank(other))
    .flatMap((unit) => {
      const hot = (side: string) =>
        unit.clamps.some((clamp) => clamp.terminal.endsWith(side) && isHot(states.get(clamp.net)));
      const [into, out, tap] = [hot("/in"), hot("/out"), hot("/tap")];
      if (into && out) return [say(unit.name)];
      if (into) return [t("web.board.live.incoming", { unit: say(unit.name) })];
      if (out) return [t("web.board.live.outgoing", { unit: say(unit.name) })];
      return tap ? [say(unit.name)] : [];
    });
  if (words.length <= 6) return words.join("; ");
  return t("web.board.live.more", { list: words.slice(0, 6).join("; "), n: words.length - 6 });
}
