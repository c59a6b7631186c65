import type { Diagnosis, PossibleDefect } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { Seen, Typed } from "./Typed";
import type { Enter, WaitingByTest } from "./useEntries";

type Entering = { enter: Enter; waiting: WaitingByTest };

const DANGER = {
  now: "web.testing.danger_now",
  soon: "web.testing.danger_soon",
  hidden: "web.testing.danger_hidden",
  none: null,
} as const;

/** What the readings that disagree usually mean: for each circuit the likeliest causes, and the test that tells them apart. */
export function Explained({ diagnoses, ...entering }: { diagnoses: Diagnosis[] } & Entering) {
  if (diagnoses.length === 0) return null;
  return (
    <section aria-label={t("web.testing.explained")} className="mb-4 w-full max-w-5xl">
      <h2 className="text-[14px] font-semibold">{t("web.testing.explained")}</h2>
      <p className="mb-1 text-[12.5px] text-soft">{t("web.testing.explained_hint")}</p>
      <div className="grid gap-2 lg:grid-cols-2">
        {diagnoses.map((diagnosis) => (
          <OneCircuit key={diagnosis.circuit} diagnosis={diagnosis} {...entering} />
        ))}
      </div>
    </section>
  );
}

function OneCircuit({ diagnosis, enter, waiting }: { diagnosis: Diagnosis } & Entering) {
  const { possible, certain, next_test: next } = diagnosis;
  return (
    <article
      className="rounded-md border border-line bg-sheet px-3 py-2 text-[12.5px]"
      data-diagnosis={diagnosis.circuit || "supply"}
    >
      <h3 className="text-[13px] font-semibold">{say(diagnosis.name)}</h3>
      {certain && possible.length > 1 && <p>{t("web.testing.one_of")}</p>}
      <ol>
        {possible.map((each) => (
          <Possible key={each.ids.join()} possible={each} certain={certain && possible.length === 1} />
        ))}
      </ol>
      {!diagnosis.explains && <p className="text-advice">{t("web.testing.unexplained")}</p>}
      {next && (
        <div className="mt-1 border-t border-line/60 pt-1">
          <p>
            <span className="text-soft">{t("web.testing.next")}</span>{" "}
            <strong className="font-semibold">{say(next.title)}</strong>
            {next.reading && say(next.reading.name) !== say(diagnosis.name) && (
              <span> {say(next.reading.name)}</span>
            )}
            {next.reading?.live && <span className="ml-2 text-soft">{t("web.testing.live")}</span>}
          </p>
          {next.reading &&
            (next.reading.unit ? (
              <Typed
                key={next.reading.id}
                test={next.reading}
                enter={enter}
                waiting={waiting[next.reading.id]}
              />
            ) : (
              <Seen
                key={next.reading.id}
                test={next.reading}
                enter={enter}
                waiting={waiting[next.reading.id]}
              />
            ))}
          {next.reading && waiting[next.reading.id]?.why && (
            <p role="alert" className="text-fail">
              {waiting[next.reading.id]?.why}
            </p>
          )}
          <dl className="grid grid-cols-[max-content_1fr] gap-x-3">
            <dt className="figure">{say(next.first)}</dt>
            <dd className="text-soft">{possible[0]?.names.join(" + ")}</dd>
            <dt className="figure">{say(next.second)}</dt>
            <dd className="text-soft">{possible[1]?.names.join(" + ") ?? t("web.testing.as_designed")}</dd>
          </dl>
        </div>
      )}
    </article>
  );
}

function Possible({ possible, certain }: { possible: PossibleDefect; certain: boolean }) {
  const danger = DANGER[possible.danger];
  return (
    <li className="py-0.5">
      <details open={certain}>
        <summary className="cursor-pointer">
          <span className="figure mr-1.5 inline-block min-w-10 text-soft">
            {certain ? t("web.testing.certain") : `${Math.floor(possible.probability * 100)} %`}
          </span>
          {possible.names.join(" + ")}
          {danger && (
            <span
              className={cx(
                "block pl-16",
                possible.danger === "now" ? "font-semibold text-fail" : "text-advice",
              )}
            >
              {t(danger)}
            </span>
          )}
        </summary>
        <dl className="grid grid-cols-[max-content_1fr] gap-x-3 pl-4">
          {possible.seen.length > 0 && <dt className="text-soft">{t("web.testing.seen")}</dt>}
          {possible.seen.length > 0 && <dd>{possible.seen.join("; ")}</dd>}
          {possible.heat && <dt className="text-soft">{t("web.testing.heat")}</dt>}
          {possible.heat && <dd>{say(possible.heat)}</dd>}
          {possible.repair.length > 0 && <dt className="text-soft">{t("web.testing.repair")}</dt>}
          {possible.repair.length > 0 && <dd>{possible.repair.join("; ")}</dd>}
        </dl>
      </details>
    </li>
  );
}
