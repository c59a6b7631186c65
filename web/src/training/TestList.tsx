import type { Act, PlayView } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { figure } from "../readings/testModel";
import { Button } from "../ui/Button";
import { leadsInWords } from "./Tester";
import { withUnit } from "./withUnit";

type Test = PlayView["tests"][number];
type Do = (...acts: Act[]) => void;

/**
 * The tests of the standard in its order, with what was read; below them, what is read in a doubt. On the first level a button connects the
 * leads; later the learner does.
 */
export function TestList({ view, act }: { view: PlayView; act: Do }) {
  const doubt = view.tests.filter((test) => test.in_doubt);
  return (
    <section aria-label={t("web.training.tests")}>
      <h2 className="font-semibold">{t("web.training.tests")}</h2>
      <div className="max-h-[52vh] overflow-auto rounded-lg border border-line bg-sheet text-[13px]">
        <Tests view={view} tests={view.tests.filter((test) => !test.in_doubt)} act={act} />
        <details>
          <summary className="cursor-pointer px-2 py-1 font-medium">
            {t("web.training.in_doubt", { n: doubt.length })}
          </summary>
          <Tests view={view} tests={doubt} act={act} />
        </details>
      </div>
    </section>
  );
}

function Tests({ view, tests, act }: { view: PlayView; tests: Test[]; act: Do }) {
  return (
    <ul>
      {tests.map((test) => (
        <li
          key={test.id}
          data-test={test.id}
          className="flex items-center gap-2 border-b border-line/60 px-2 py-0.5"
        >
          <span className="min-w-0 flex-1">
            {say(test.name)}{" "}
            <span
              className="text-soft"
              title={!view.leads_by_hand && test.leads ? leadsInWords(test.leads) : undefined}
            >
              {say(test.title)}
            </span>
          </span>
          <span className="figure text-soft">
            {test.expected === null || test.expected === undefined
              ? ""
              : t("web.training.expected", { value: figure(test.expected) })}
          </span>
          <span data-reading className="figure w-24 text-right">
            {withUnit(test.reading, test.unit)}
          </span>
          {(!view.leads_by_hand || !test.leads) && (
            <Button
              aria-label={t("web.training.read", { test: `${say(test.name)}, ${say(test.title)}` })}
              onClick={() => act({ act: "measure", test: test.test as never, subject: test.subject })}
            >
              {t(test.leads ? "web.training.read_short" : "web.training.do_short")}
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}
