import { Popover } from "radix-ui";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { AcceptedCause, CauseGroup, Verdict } from "../api/client";
import { client } from "../api/client";
import { useJob } from "../job/JobContext";
import { useAnsweredEdit } from "../job/useAnsweredEdit";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { FIGURE } from "./CheckCell";
import { VERDICT_MARKS, viewOfCause } from "./gridModel";

export type Jump = (check: string, circuit: string) => void;

/** Every cause of what is not in order, the worst first; advice is accepted here with a reason. */
export function CauseList({ causes, onCircuit }: { causes: CauseGroup[]; onCircuit: Jump }) {
  return (
    <ul className="flex flex-col" data-testid="causes">
      {causes.map((cause) => (
        <CauseLine
          key={`${cause.verdict} ${cause.cause.check} ${cause.cause.subject.id}`}
          cause={cause}
          onCircuit={onCircuit}
        />
      ))}
    </ul>
  );
}

/** Advice that was accepted, and why; each may be raised again. */
export function AcceptedList({ accepted }: { accepted: AcceptedCause[] }) {
  const { document } = useJob();
  const answeredEdit = useAnsweredEdit();
  if (!accepted.length) return null;
  return (
    <>
      <h3 className="mt-2 text-[12px] font-semibold text-soft">{t("web.next.accepted")}</h3>
      <ul data-testid="accepted">
        {accepted.map((entry) => (
          <li
            key={`${entry.cause.check} ${entry.cause.subject.id}`}
            className="grid grid-cols-[1fr_auto] items-start gap-2 border-t border-line py-1 text-[12.5px] text-soft"
          >
            <span>
              {say(entry.sentence)}{" "}
              <b className="font-medium">{t("web.next.accepted_because", { reason: entry.reason })}</b>
            </span>
            <Button
              className="px-1.5 py-0.5 text-[12px]"
              onClick={() =>
                void answeredEdit(
                  client.POST("/api/advice/raise-again", { body: { document, advice: adviceOf(entry) } }),
                )
              }
            >
              {t("web.next.raise_again")}
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}

/** A cause in its sentence, with how many circuits it is about; a click goes to its calculation. */
function CauseLine({ cause, onCircuit }: { cause: CauseGroup; onCircuit: Jump }) {
  const { document } = useJob();
  const go = useGoToCause(onCircuit);
  const [accepting, setAccepting] = useState(false);
  const [first, ...rest] = cause.circuits;
  const where = rest.length
    ? t("web.next.circuits", { n: cause.circuits.length })
    : document.circuits?.find((circuit) => circuit.id === first)?.name;
  return (
    <li className="border-t border-line first:border-t-0">
      <div className="flex items-start gap-2">
        <Popover.Close
          className="grid min-w-0 flex-1 grid-cols-[1.2rem_1fr_auto] gap-1 py-1.5 text-left text-[13px]"
          onClick={() => go(cause)}
        >
          <CauseMark verdict={cause.verdict} />
          <span>{say(cause.sentence)}</span>
          <span className="max-w-36 pl-2 text-right text-[12px] text-soft">{where}</span>
        </Popover.Close>
        {cause.verdict === "advice" && !accepting && (
          <Button className="mt-1 px-1.5 py-0.5 text-[12px]" onClick={() => setAccepting(true)}>
            {t("web.next.accept")}
          </Button>
        )}
      </div>
      {accepting && <AcceptForm cause={cause} onDone={() => setAccepting(false)} />}
    </li>
  );
}

/** Why advice is accepted, in a few words. */
function AcceptForm({ cause, onDone }: { cause: CauseGroup; onDone: () => void }) {
  const { document } = useJob();
  const answeredEdit = useAnsweredEdit();
  const [reason, setReason] = useState("");
  return (
    <form
      className="flex gap-2 pb-1.5 pl-5"
      onSubmit={(event) => {
        event.preventDefault();
        if (!reason.trim()) return;
        const body = {
          ...{ document, advice: adviceOf(cause), reason: reason.trim() },
          ...{ name: document.work_details?.contractor ?? "", date: today() },
        };
        void answeredEdit(client.POST("/api/advice/accept", { body })).then(onDone);
      }}
    >
      <input
        // biome-ignore lint/a11y/noAutofocus: it was opened to be typed into
        autoFocus
        aria-label={t("web.next.reason")}
        placeholder={t("web.next.reason_example")}
        maxLength={400}
        className="min-w-0 flex-1 rounded-md border border-line bg-sheet px-2 py-0.5 text-[13px]"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit" variant="strong" className="py-0.5 text-[12px]" disabled={!reason.trim()}>
        {t("web.next.accept_now")}
      </Button>
    </form>
  );
}

const adviceOf = ({ cause }: { cause: CauseGroup["cause"] }) => ({
  check: cause.check,
  kind: cause.subject.kind,
  subject: cause.subject.id,
});

/** The day of today as a document writes it, where the user is. */
const today = () => new Date().toLocaleDateString("sv");

/** The sign of a verdict, in its colour. */
export function CauseMark({ verdict }: { verdict: Verdict }) {
  return (
    <span className={FIGURE[verdict]} aria-hidden="true">
      {VERDICT_MARKS[verdict]}
    </span>
  );
}

/** To the place of a cause: the cell of the grid, else the view that shows it. */
export function useGoToCause(onCircuit: Jump) {
  const { rules } = useJob();
  const navigate = useNavigate();
  return (cause: CauseGroup) => {
    const view = viewOfCause(cause, rules);
    const { check, subject } = cause.cause;
    if (view) navigate(`../${view}`, { state: { finding: `${check} ${subject.id}` } });
    else onCircuit(cause.cause.check, cause.circuits[0] ?? "");
  };
}
