import type { SuggestedObservation } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { wallClock } from "../readings/testModel";
import { Button } from "../ui/Button";
import { withObservation } from "./inspectionModel";

/** How many observations are offered for a reading. */
const MOST = 3;

/** Readings that fail and that no observation tells of yet, with what they usually show. */
export function Suggested({ suggested, by }: { suggested: SuggestedObservation[]; by: string }) {
  const { document, edit } = useJob();
  if (suggested.length === 0) return null;
  const add = (kind: string, subject: string, text: string) =>
    edit(withObservation(document, { kind, subject, text, by, at: wallClock(new Date()) }));
  return (
    <section aria-label={t("web.inspection.suggested")} data-testid="suggested">
      <h2 className="text-[14px] font-semibold">{t("web.inspection.suggested")}</h2>
      <ul>
        {suggested.map(({ reading, name, test, shown, subject, kinds }) => (
          <li
            key={reading}
            className="flex flex-wrap items-center gap-2 border-b border-line/60 py-1 text-[13px]"
          >
            <span className="min-w-56">
              {say(name)}, {say(test)}: <span className="figure text-fail">{shown}</span>
            </span>
            {kinds.slice(0, MOST).map((kind) => (
              <Button
                key={kind.id}
                className="text-left"
                title={`${kind.reason} ${kind.clause}`}
                onClick={() => add(kind.id, subject, `${say(test)}: ${shown}`)}
              >
                <span className="figure text-soft">{kind.code}</span> {kind.title}
              </Button>
            ))}
            {kinds.length === 0 && (
              <Button onClick={() => add("", subject, `${say(test)}: ${shown}`)}>
                {t("web.inspection.own_words")}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
