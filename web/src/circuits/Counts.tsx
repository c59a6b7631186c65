import { Popover } from "radix-ui";
import { useNavigate } from "react-router";
import type { Assessment, CauseGroup, Verdict } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { type Key, t } from "../messages/text";
import { PopoverPanel } from "../ui/PopoverPanel";
import { countCauses, VERDICT_MARKS, viewOfCause } from "./gridModel";

const SHOWN: { verdict: Verdict; word: Key; look: string }[] = [
  { verdict: "fail", word: "web.circuits.counts.fail", look: "text-fail" },
  { verdict: "missing", word: "web.circuits.counts.missing", look: "text-missing" },
  {
    verdict: "advice",
    word: "web.circuits.counts.advice",
    look: "text-advice",
  },
];

/** How the whole job stands, in a line that opens into what to look at: each cause once. */
export function Counts({
  assessment,
  onCircuit,
}: {
  assessment: Assessment | undefined;
  onCircuit: (check: string, circuit: string) => void;
}) {
  const { document } = useJob();
  if (!assessment) return <p className="text-[13px] text-soft">{t("web.circuits.counts.calculating")}</p>;
  if (!document.circuits?.length) {
    return (
      <output className="text-[13px] text-soft" data-testid="counts">
        {t("web.circuits.counts.empty")}
      </output>
    );
  }
  const causes = assessment.causes;
  const counts = countCauses(causes);
  if (!causes.length) {
    return (
      <output className="text-[13px]" data-testid="counts">
        {assessment.counts.pass ? t("web.circuits.counts.all_pass") : t("web.circuits.counts.empty")}
      </output>
    );
  }
  return (
    <Popover.Root>
      <Popover.Trigger
        className="flex shrink-0 flex-wrap gap-x-3 rounded-md px-1 text-[13px] underline decoration-dotted"
        data-testid="counts"
      >
        {SHOWN.filter(({ verdict }) => counts[verdict]).map(({ verdict, word, look }) => (
          <span key={verdict} className={look}>
            <span aria-hidden="true">{VERDICT_MARKS[verdict]} </span>
            {t(word, { n: counts[verdict] ?? 0 })}
          </span>
        ))}
      </Popover.Trigger>
      <PopoverPanel title={t("web.circuits.counts.title")} align="end" className="w-[32rem]">
        <ul className="flex flex-col" data-testid="causes">
          {causes.map((cause) => (
            <CauseLine
              key={`${cause.verdict} ${cause.cause.check} ${cause.cause.subject.id}`}
              cause={cause}
              onCircuit={onCircuit}
            />
          ))}
        </ul>
      </PopoverPanel>
    </Popover.Root>
  );
}

/** A cause in its sentence, with how many circuits it is about; a click goes to its calculation. */
function CauseLine({
  cause,
  onCircuit,
}: {
  cause: CauseGroup;
  onCircuit: (check: string, circuit: string) => void;
}) {
  const { document, rules } = useJob();
  const navigate = useNavigate();
  const go = () => {
    const view = viewOfCause(cause, rules);
    if (view) navigate(`../${view}`);
    else onCircuit(cause.cause.check, cause.circuits[0] ?? "");
  };
  const look = SHOWN.find(({ verdict }) => verdict === cause.verdict)?.look;
  const [first, ...rest] = cause.circuits;
  const where = rest.length
    ? `${cause.circuits.length} circuits`
    : document.circuits?.find((circuit) => circuit.id === first)?.name;
  return (
    <li className="border-t border-line first:border-t-0">
      <Popover.Close
        className="grid w-full grid-cols-[1.2rem_1fr_auto] gap-1 py-1.5 text-left text-[13px]"
        onClick={go}
      >
        <span className={look} aria-hidden="true">
          {VERDICT_MARKS[cause.verdict]}
        </span>
        <span>{say(cause.sentence)}</span>
        <span className="max-w-36 pl-2 text-right text-[12px] text-soft">{where}</span>
      </Popover.Close>
    </li>
  );
}
