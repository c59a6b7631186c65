import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import type { Circuit, Finding, Remedy, Step } from "../api/client";
import { remediesQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { circuitById, withRemedy } from "../job/jobModel";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { NeedLine } from "../needs/NeedLine";
import { cx } from "../ui/cx";
import { verdictWord } from "./gridModel";

type Props = {
  circuit: Circuit;
  check: string;
  finding: Finding | undefined;
  onTake: (remedy: Remedy) => void;
  children?: ReactNode;
};

const BIG: Record<Finding["verdict"], string> = {
  pass: "text-ink",
  tight: "text-tight",
  fail: "text-fail",
  advice: "text-advice",
  missing: "text-missing",
  "not-applicable": "text-soft",
};

/** Why a cell is as it is: the sum, the limit, where they come from, and what would mend it. */
export function CheckDetails({ circuit, check, finding, onTake, children }: Props) {
  const { rules } = useJob();
  const column = rules.checks.find((known) => known.id === check);
  return (
    <div className="flex flex-col gap-3" data-testid="working" data-check={check} data-circuit={circuit.id}>
      <header>
        <h2 className="text-[17px] font-semibold leading-snug">{column?.question}</h2>
        <p className="text-[13px] text-soft">
          {circuit.name} · {column?.title}
        </p>
      </header>
      {finding ? (
        <Answer finding={finding} onTake={onTake}>
          {children}
        </Answer>
      ) : (
        <p className="text-soft">{t("web.circuits.counts.calculating")}</p>
      )}
    </div>
  );
}

/** A finding in full: figure, sentence, what it needs, what mends it, and the sum. */
export function Answer({
  finding,
  onTake,
  otherWays = false,
  children,
}: {
  finding: Finding;
  /** What else is done with a fix than taking it into the job. */
  onTake?: (remedy: Remedy) => void;
  /** The view tells other ways out where no single change mends it. */
  otherWays?: boolean;
  children?: ReactNode;
}) {
  const { document, edit } = useJob();
  const take = onTake ?? ((remedy: Remedy) => edit(withRemedy(document, remedy)));
  return (
    <div className="flex flex-col gap-3">
      {finding.shown_value && (
        <p className="figure">
          <strong className={cx("text-[26px] leading-none", BIG[finding.verdict])}>
            {finding.shown_value}
          </strong>
          <span className="text-[14px] text-soft">
            {" "}
            {t("web.circuits.of_limit", {
              limit: finding.shown_limit ?? "",
              unit: finding.unit ?? "",
              verdict: verdictWord(finding.verdict),
            })}
          </span>
        </p>
      )}
      <p className="text-[13px]">
        {!finding.shown_value && finding.verdict === "fail" && (
          <strong className="text-fail">{t("web.circuits.fails")}. </strong>
        )}
        {say(finding.sentence)}
      </p>
      {finding.accepted && (
        <p className="text-[13px] text-soft">
          {t("web.next.accepted_because", { reason: finding.accepted })}
        </p>
      )}
      <Needs finding={finding} />
      <Assumptions finding={finding} />
      <Remedies finding={finding} onTake={take} otherWays={otherWays} />
      {children}
      <Working steps={finding.working ?? []} />
      {finding.rule && (
        <p className="text-[12px] text-soft">
          {t("web.circuits.answer.rule", {
            publication: finding.rule.publication,
            provenance: finding.rule.provenance,
          })}
        </p>
      )}
    </div>
  );
}

/** What the answer rests on and nobody has confirmed. */
function Assumptions({ finding }: { finding: Finding }) {
  const { assessment } = useJob();
  if (!finding.assumptions?.length) return null;
  // What is marked in the document is told by what it is; an estimate of the check by its field and source.
  const label = (field: string) => assessment?.assumptions.find((known) => known.field === field)?.label;
  return (
    <ul className="text-[12px] text-soft" aria-label={t("web.circuits.assumed")} data-testid="assumptions">
      {finding.assumptions.map((assumption) => (
        <li key={assumption.field}>
          {assumption.to_confirm
            ? t("web.circuits.answer.to_confirm", {
                label: say(label(assumption.field) ?? ""),
                value: say(assumption.value),
              })
            : t("web.circuits.answer.assumed", {
                field: fieldWords(assumption.field),
                value: say(assumption.value),
                source: assumption.source,
              })}
        </li>
      ))}
    </ul>
  );
}

/** The last part of a field's path in words: loads.leakage_ma is leakage. */
const fieldWords = (field: string) =>
  (field.split(".").at(-1) ?? field).replace(/_(ma|a|ka|ohm|m|mm2|w|c|v|pct)$/, "").replaceAll("_", " ");

function Needs({ finding }: { finding: Finding }) {
  if (!finding.needs?.length) return null;
  return (
    <ul className="flex flex-col gap-1 rounded-lg border border-dashed border-missing p-2 text-[13px]">
      {finding.needs.map((need) => (
        <li key={say(need.what)}>
          <NeedLine
            path={need.path}
            of={finding.subject}
            text={`${t("web.circuits.answer.needs", { what: say(need.what) })} ${say(need.ask)}`}
          />
        </li>
      ))}
    </ul>
  );
}

/** The calculation, a line a step, as it would be written by hand. */
function Working({ steps }: { steps: Step[] }) {
  if (!steps.length) return null;
  return (
    <section aria-label={t("web.circuits.details")}>
      <h3 className="mb-1 text-[12px] font-semibold text-soft">{t("web.circuits.answer.working")}</h3>
      <ol className="flex flex-col">
        {steps.map((step, at) => (
          <li key={at} className="border-t border-line py-1">
            <div className="figure flex items-baseline justify-between gap-2 text-[12.5px]">
              <span className="min-w-0">
                <b className="font-semibold">{step.symbol}</b>
                {step.symbol && step.formula ? " = " : ""}
                <span className="text-soft">{say(step.formula)}</span>
              </span>
              <b className="whitespace-nowrap font-semibold">
                {say(step.shown)} {say(step.unit)}
              </b>
            </div>
            {step.figures && <div className="figure text-[12px] text-soft">{say(step.figures)}</div>}
            <div className="text-[12px] text-soft">
              {say(step.meaning)}
              {step.source && (
                <cite
                  className="not-italic"
                  title={t("web.circuits.answer.source", {
                    id: step.source.table,
                    confidence: step.source.confidence,
                  })}
                >
                  {" "}
                  · {step.source.publication}
                  {step.source.provenance === "memory"
                    ? t("web.circuits.answer.from_memory")
                    : t("web.circuits.answer.provenance", { provenance: step.source.provenance })}
                  {step.source.confidence === "high" ? "" : t("web.circuits.answer.medium")}
                </cite>
              )}
            </div>
          </li>
        ))}
      </ol>
    </section>
  );
}

const MENDABLE: Finding["verdict"][] = ["fail", "advice", "tight"];

const canBeMended = (finding: Finding | undefined) =>
  finding !== undefined && MENDABLE.includes(finding.verdict);

/** What a fix makes worse, "id of circuit or board: id of check", by what both are called. */
function useWorsened(): (line: string) => string {
  const { document, rules } = useJob();
  const checks = [...rules.checks, ...rules.board_checks, ...rules.supply_checks];
  return (line) => {
    const [id = "", check = ""] = line.split(": ");
    const subject = circuitById(document, id) ?? document.boards.find((board) => board.id === id);
    const title = checks.find((known) => known.id === check)?.title;
    return t("web.circuits.worsened", { subject: subject?.name ?? id, check: title ?? check });
  };
}

/** Changes that would mend it, each with its effect before it is taken; the figure keys take them. */
function Remedies({
  finding,
  onTake,
  otherWays,
}: {
  finding: Finding;
  onTake: (remedy: Remedy) => void;
  otherWays: boolean;
}) {
  const worsened = useWorsened();
  const remedies = useRemedies(finding);
  if (!canBeMended(finding)) return null;
  if (remedies.isPending)
    return <p className="text-[12px] text-soft">{t("web.circuits.answer.fixes.loading")}</p>;
  if (remedies.error) return <p className="text-[12px] text-fail">{remedies.error.message}</p>;
  if (!remedies.data.length) {
    if (otherWays) return null;
    return (
      <p className="text-[13px] text-soft">
        {finding.verdict === "tight"
          ? t("web.circuits.answer.fixes.none_tight")
          : t("web.circuits.answer.fixes.none")}
      </p>
    );
  }
  return (
    <section aria-label={t("web.circuits.answer.fixes.section")}>
      <h3 className="mb-1 text-[12px] font-semibold text-soft">
        {finding.verdict === "tight"
          ? t("web.circuits.answer.fixes.title_tight")
          : t("web.circuits.answer.fixes.title")}
      </h3>
      <ul className="flex flex-col gap-1.5">
        {remedies.data.map((remedy, at) => (
          <li key={remedy.id}>
            <button
              type="button"
              className="w-full rounded-lg border border-line bg-sheet px-2.5 py-1.5 text-left hover:border-accent"
              onClick={() => onTake(remedy)}
              data-remedy={remedy.id}
            >
              <span className="flex items-baseline justify-between gap-2">
                <b className="text-[13px] font-semibold">{say(remedy.label)}</b>
                <kbd className="figure rounded border border-line px-1 text-[11px] text-accent">{at + 1}</kbd>
              </span>
              <span className="figure block text-[12px] text-soft">→ {say(remedy.effect)}</span>
              {remedy.worsens.length > 0 && (
                <span className="block text-[12px] text-fail">
                  {t("web.circuits.answer.fixes.worsens")} {remedy.worsens.map(worsened).join("; ")}
                </span>
              )}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const subjectOf = (finding: Finding | undefined) => ({
  kind: finding?.subject.kind ?? ("circuit" as const),
  subject: finding?.subject.id ?? "",
});

/** The remedies of a finding of the open document. */
export function useRemedies(finding: Finding | undefined) {
  const { document, version, settled } = useJob();
  const wanted = settled && canBeMended(finding);
  const of = { check: finding?.check ?? "", ...subjectOf(finding) };
  return useQuery(remediesQuery(document, version, of, wanted));
}
