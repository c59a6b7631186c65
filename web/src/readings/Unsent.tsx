import { t } from "../messages/text";
import { outbox } from "../offline/outbox";
import { useOutbox } from "../offline/useOutbox";
import { Button } from "../ui/Button";
import { shownTime } from "./testModel";

/** What is still in this browser alone: said while the server cannot be reached, and of what it refused until that is settled. */
export function Unsent({ job, tests }: { job: string; tests: ReadonlySet<string> }) {
  const { waiting, problem } = useOutbox(job);
  const open = waiting.filter(({ why }) => !why).length;
  // What belongs to no test that is shown has no box of its own to be corrected in.
  const lost = waiting.filter(({ why, test }) => why && !tests.has(test));
  if (!(problem && open) && lost.length === 0) return null;
  return (
    <section
      role="status"
      data-testid="unsent"
      className="mb-2 max-w-5xl rounded-md border border-line bg-wash px-3 py-1.5 text-[12.5px]"
    >
      {problem && open > 0 && (
        <p>
          {t("web.testing.unsent", { n: open })} {problem}
        </p>
      )}
      {lost.map(({ id, reading, why, at }) => (
        <p key={id} className="flex flex-wrap items-center gap-2">
          <span className="figure">{`${reading.test} ${reading.subject.id}: ${reading.text}`}</span>
          <span className="text-soft">{shownTime(at)}</span>
          <span className="text-fail">{why}</span>
          <Button variant="quiet" onClick={() => void outbox.discard(id)}>
            {t("web.testing.discard")}
          </Button>
        </p>
      ))}
    </section>
  );
}
