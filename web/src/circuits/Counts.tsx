import { Popover } from "radix-ui";
import type { Assessment, Verdict } from "../api/client";
import { useJob } from "../job/JobContext";
import { type Key, t } from "../messages/text";
import { PopoverPanel } from "../ui/PopoverPanel";
import { AcceptedList, CauseList, type Jump } from "./CauseList";
import { countCauses, VERDICT_MARKS } from "./gridModel";

const SHOWN: { verdict: Verdict; word: Key; look: string }[] = [
  { verdict: "fail", word: "web.circuits.counts.fail", look: "text-fail" },
  { verdict: "missing", word: "web.circuits.counts.missing", look: "text-missing" },
  { verdict: "advice", word: "web.circuits.counts.advice", look: "text-advice" },
];

/** How the whole job is, in a line that opens into what to look at: each cause once, then the advice that was accepted. */
export function Counts({ assessment, onCircuit }: { assessment: Assessment | undefined; onCircuit: Jump }) {
  const { document } = useJob();
  if (!assessment) return <p className="text-[13px] text-soft">{t("web.circuits.counts.calculating")}</p>;
  const { causes, accepted } = assessment;
  if (!document.circuits?.length || !(causes.length || accepted.length)) {
    const passed = document.circuits?.length && assessment.counts.pass;
    return (
      <output className="text-[13px] text-soft" data-testid="counts">
        {t(passed ? "web.circuits.counts.all_pass" : "web.circuits.counts.empty")}
      </output>
    );
  }
  const counts = countCauses(causes);
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
        {accepted.length > 0 && (
          <span className="text-soft">{t("web.circuits.counts.accepted", { n: accepted.length })}</span>
        )}
      </Popover.Trigger>
      <PopoverPanel title={t("web.circuits.counts.title")} align="end" className="w-[36rem]">
        <CauseList causes={causes} onCircuit={onCircuit} />
        <AcceptedList accepted={accepted} />
      </PopoverPanel>
    </Popover.Root>
  );
}
