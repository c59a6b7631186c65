import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { answered, type Board, type BoardView, type Conductor, client } from "../api/client";
import { ticksQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { CheckBox } from "../ui/CheckBox";
import { swatchOf } from "../ui/conductors";
import { cx } from "../ui/cx";
import { asMade, cut, madeAs } from "./boardModel";

const SHARED: Record<string, string> = {
  get yes() {
    return t("web.board.wiring.shared_allowed");
  },
  get unknown() {
    return t("web.board.wiring.shared_unknown");
  },
  get no() {
    return t("web.board.wiring.shared_no");
  },
};

/** Every conductor from clamp to clamp in the order to do it, each ticked off once it is in. */
export function WiringList({
  board,
  view,
  lit,
  onLight,
}: {
  board: Board;
  view: BoardView;
  /** The conductor that is pointed at in the drawing. */
  lit: string | undefined;
  onLight: (wire: string | undefined) => void;
}) {
  const { jobId, notify } = useJob();
  const queries = useQueryClient();
  const { data: ticks = [] } = useQuery(ticksQuery(jobId));
  const [open, setOpen] = useState(true);
  const done = new Map(
    ticks.filter((tick) => tick.board === board.id).map((tick) => [tick.wire, tick.as_made]),
  );
  const wires = view.conductors.filter((conductor) => conductor.kind !== "plug");
  // Only what this board has is numbered, so that nobody looks for a step that is not there.
  const steps = view.steps
    .map((step, at) => ({ step, conductors: wires.filter((wire) => wire.step === at + 1) }))
    .filter(({ conductors }) => conductors.length > 0);
  const isDone = (conductor: Conductor) => madeAs(done.get(conductor.id), conductor);
  const count = wires.filter(isDone).length;
  const tick = async (conductor: Conductor, checked: boolean) => {
    const body = { board: board.id, wire: conductor.id, as_made: asMade(conductor), done: checked };
    try {
      await answered(
        client.POST("/api/jobs/{job_id}/wiring-progress", { params: { path: { job_id: jobId } }, body }),
      );
    } catch (reason) {
      notify(t("web.board.wiring.tick_failed", { reason: (reason as Error).message }));
    }
    void queries.invalidateQueries({ queryKey: ["wired", jobId] });
  };
  return (
    <section
      aria-label={t("web.board.wiring.section")}
      className="min-h-0 overflow-auto rounded-xl border border-line bg-sheet p-3 lg:max-h-[82vh]"
      data-testid="wiring-list"
    >
      <header className="mb-1 flex items-baseline justify-between">
        <h2 className="text-[13px] font-semibold">{t("web.board.wiring.section")}</h2>
        <span className="figure text-[12.5px] text-soft" data-testid="wired-count">
          {t("web.board.wiring.count", { n: count, total: wires.length })}
        </span>
      </header>
      {view.missing.map((lack) => (
        <p key={say(lack)} className="text-[12.5px] text-missing">
          ? {say(lack)}
        </p>
      ))}
      {view.combs.length > 0 && (
        <ul className="mb-2 text-[12.5px]">
          {view.combs.map((comb, at) => (
            <li key={comb.id}>
              {t("web.board.wiring.busbar_line", {
                n: at + 1,
                row: comb.row,
                pins: comb.teeth.length,
                mm: comb.cut_mm.toFixed(0),
                covered: comb.covered,
              })}
            </li>
          ))}
        </ul>
      )}
      {view.blocks.map((block) => (
        <p key={block.id} className="text-[12.5px]">
          {t("web.board.wiring.block_line", { n: block.id.replace("block", ""), ways: block.ways })}
        </p>
      ))}
      {steps.map(({ step, conductors }, at) => (
        <details
          key={say(step)}
          open={open}
          onToggle={() => setOpen(true)}
          className="border-t border-line py-1"
        >
          <summary className="cursor-pointer text-[12.5px] font-medium">
            {at + 1}. {say(step)}{" "}
            <span className="figure font-normal text-soft">
              {conductors.filter(isDone).length}/{conductors.length}
            </span>
          </summary>
          <ol>
            {conductors.map((conductor) => (
              <Line
                key={conductor.id}
                conductor={conductor}
                lit={conductor.id === lit}
                done={isDone(conductor)}
                changed={done.has(conductor.id) && !isDone(conductor)}
                onTick={(checked) => void tick(conductor, checked)}
                onLight={onLight}
              />
            ))}
          </ol>
        </details>
      ))}
      <p className="mt-2 text-[12px] text-soft">{t("web.board.wiring.torque")}</p>
    </section>
  );
}

function Line({
  conductor,
  lit,
  done,
  changed,
  onTick,
  onLight,
}: {
  conductor: Conductor;
  lit: boolean;
  done: boolean;
  changed: boolean;
  onTick: (checked: boolean) => void;
  onLight: (wire: string | undefined) => void;
}) {
  const line = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (lit && !line.current?.matches(":hover")) line.current?.scrollIntoView({ block: "nearest" });
  }, [lit]);
  return (
    <li
      ref={line}
      className={cx(
        "grid grid-cols-[18px_14px_1fr] gap-1.5 rounded py-0.5 text-[12.5px]",
        done && "opacity-60",
        lit && "bg-wash",
      )}
      onMouseEnter={() => onLight(conductor.id)}
      onMouseLeave={() => onLight(undefined)}
      data-wire-line={conductor.id}
      title={say(conductor.reason)}
    >
      <CheckBox
        aria-label={t("web.board.wiring.tick", {
          from: say(conductor.start.text),
          to: say(conductor.end.text),
        })}
        checked={done}
        onFocus={() => onLight(conductor.id)}
        onBlur={() => onLight(undefined)}
        onChange={(checked) => onTick(checked)}
      />
      <span
        aria-hidden
        className="mt-1 h-2.5 w-3.5 rounded-sm border border-line"
        style={{ background: swatchOf(conductor.colour) }}
      />
      <span>
        {say(conductor.start.text)} <span aria-hidden>→</span>
        <span className="sr-only"> {t("web.board.wiring.to")} </span> {say(conductor.end.text)}
        <span className="figure block text-[11.5px] text-soft">
          {[
            conductor.colour,
            say(conductor.size),
            cut(conductor.length_mm),
            finishOf(conductor),
            torqueOf(conductor),
          ]
            .filter(Boolean)
            .join(" · ")}
        </span>
        {conductor.shared && (
          <span className="block text-[11.5px] text-advice">◇ {SHARED[conductor.shared]}</span>
        )}
        {changed && <span className="block text-[11.5px] text-tight">{t("web.board.wiring.changed")}</span>}
      </span>
    </li>
  );
}

function finishOf(conductor: Conductor): string {
  if (conductor.kind === "own-lead") return "";
  const strip = conductor.start.strip_mm
    ? t("web.board.wiring.strip", { strip_mm: conductor.start.strip_mm })
    : "";
  return [say(conductor.start.finish), strip].filter(Boolean).join(", ");
}

function torqueOf(conductor: Conductor): string {
  return [...new Set([say(conductor.start.torque), say(conductor.end.torque)].filter(Boolean))].join(" / ");
}
