import type { FaultResult } from "../api/client";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { TripTimes } from "./TripTimes";

/** What follows, in a sentence, and who opens when. */
export function Outcome({ story }: { story: FaultResult }) {
  return (
    <section aria-label={t("web.faults.result.section")} className="flex flex-col gap-2" data-testid="story">
      <h1 className="text-[19px] font-semibold leading-snug">{story.title}</h1>
      <p className="max-w-3xl text-[14px]" data-testid="outcome">
        {story.outcome}
      </p>
      <TripTimes stages={story.stages} />
    </section>
  );
}

/** What may be touched, what the conductor stands, what stays live, what to do. */
export function Consequences({ story }: { story: FaultResult }) {
  return (
    <section aria-label={t("web.faults.result.consequences")} className="flex flex-col gap-3">
      <div className="grid gap-3 md:grid-cols-3">
        {story.touch && (
          <Fact
            title={t("web.faults.result.touch")}
            value={`${Math.ceil(story.touch.volts)} V`}
            bad={story.touch.dangerous}
            words={`${story.touch.between}, ${
              story.touch.seconds === null || story.touch.seconds === undefined
                ? t("web.faults.result.touch_stays")
                : t("web.faults.result.touch_for", { time: duration(story.touch.seconds) })
            }`}
          />
        )}
        {story.heat && (
          <Fact
            title={t("web.faults.result.heat")}
            value={story.heat.enough ? t("web.faults.result.heat_ok") : t("web.faults.result.heat_over")}
            bad={!story.heat.enough}
            words={story.heat.text}
          />
        )}
        <Fact
          title={t("web.faults.result.lost")}
          value={String(story.circuits_lost.length)}
          bad={story.circuits_lost.length > 1}
          words={
            story.circuits_maybe_lost.length
              ? t("web.faults.result.lost_maybe", { n: story.circuits_maybe_lost.length })
              : t("web.faults.result.lost_sure")
          }
        />
      </div>
      <div className="grid gap-x-6 gap-y-2 text-[13px] md:grid-cols-2">
        <List title={t("web.faults.result.live")} lines={story.still_live} />
        <List title={t("web.faults.result.next")} lines={story.next_steps} ordered />
      </div>
      {story.notes.length > 0 && (
        <details className="text-[12.5px] text-soft">
          <summary className="cursor-pointer text-accent">{t("web.faults.result.basis")}</summary>
          <ul className="list-disc pl-5">
            {story.notes.map((note) => (
              <li key={note}>{note}</li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

const duration = (seconds: number) =>
  seconds < 1 ? `${Math.ceil(seconds * 1000)} ms` : `${Number(seconds.toPrecision(2))} s`;

function Fact({ title, value, bad, words }: { title: string; value: string; bad: boolean; words: string }) {
  return (
    <div className="rounded-xl border border-line bg-sheet px-3 py-2">
      <h2 className="text-[12px] font-medium text-soft">{title}</h2>
      <p className={cx("figure text-[20px] font-semibold leading-tight", bad ? "text-fail" : "text-ink")}>
        {bad && <span aria-hidden>▲ </span>}
        {value}
      </p>
      <p className="text-[12.5px] text-soft">{words}</p>
    </div>
  );
}

function List({ title, lines, ordered }: { title: string; lines: readonly string[]; ordered?: boolean }) {
  const Tag = ordered ? "ol" : "ul";
  return (
    <div>
      <h2 className="text-[12px] font-semibold text-soft">{title}</h2>
      <Tag className={cx("pl-5", ordered ? "list-decimal" : "list-disc")}>
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
        {lines.length === 0 && <li>{t("web.faults.result.live_none")}</li>}
      </Tag>
    </div>
  );
}
