import type { FaultResult } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { TripTimes } from "./TripTimes";

/** What follows, in a sentence, and who opens when. */
export function Outcome({ result }: { result: FaultResult }) {
  return (
    <section
      aria-label={t("web.faults.result.section")}
      className="flex flex-col gap-2"
      data-testid="fault-result"
    >
      <h1 className="text-[19px] font-semibold leading-snug">{say(result.title)}</h1>
      <p className="max-w-3xl text-[14px]" data-testid="outcome">
        {say(result.outcome)}
      </p>
      <TripTimes stages={result.stages} />
    </section>
  );
}

/** What may be touched, what the conductor stands, what stays live, what to do. */
export function Consequences({ result }: { result: FaultResult }) {
  return (
    <section aria-label={t("web.faults.result.consequences")} className="flex flex-col gap-3">
      <div className="grid gap-3 md:grid-cols-3">
        {result.touch && (
          <Fact
            title={t("web.faults.result.touch")}
            value={`${Math.ceil(result.touch.volts)} V`}
            bad={result.touch.dangerous}
            words={`${say(result.touch.between)}, ${
              result.touch.seconds === null || result.touch.seconds === undefined
                ? t("web.faults.result.touch_stays")
                : t("web.faults.result.touch_for", { time: duration(result.touch.seconds) })
            }`}
          />
        )}
        {result.heat && (
          <Fact
            title={t("web.faults.result.heat")}
            value={result.heat.enough ? t("web.faults.result.heat_ok") : t("web.faults.result.heat_over")}
            bad={!result.heat.enough}
            words={say(result.heat.text)}
          />
        )}
        <Fact
          title={t("web.faults.result.lost")}
          value={String(result.circuits_lost.length)}
          bad={result.circuits_lost.length > 1}
          words={
            result.circuits_maybe_lost.length
              ? t("web.faults.result.lost_maybe", { n: result.circuits_maybe_lost.length })
              : t("web.faults.result.lost_sure")
          }
        />
      </div>
      <div className="grid gap-x-6 gap-y-2 text-[13px] md:grid-cols-2">
        <List title={t("web.faults.result.live")} lines={result.still_live.map(say)} />
        <List title={t("web.faults.result.next")} lines={result.next_steps.map(say)} ordered />
      </div>
      {result.notes.length > 0 && (
        <details className="text-[12.5px] text-soft">
          <summary className="cursor-pointer text-accent">{t("web.faults.result.basis")}</summary>
          <ul className="list-disc pl-5">
            {result.notes.map(say).map((note) => (
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
