import { useState } from "react";
import type { OtherReading } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Select } from "../ui/Select";
import { Seen, Typed } from "./Typed";
import { otherTest } from "./testModel";
import type { Enter, WaitingByTest } from "./useEntries";

/** A reading that the sequence does not have, where there is a doubt: what is read, of what, and its value. */
export function AnotherReading({
  others,
  enter,
  waiting,
}: {
  others: OtherReading[];
  enter: Enter;
  waiting: WaitingByTest;
}) {
  const [kind, setKind] = useState("rcd_load");
  const [of, setOf] = useState("");
  const other = others.find(({ test }) => test === kind) ?? others[0];
  if (!other) return null;
  const key = ({ kind, id }: OtherReading["of"][number]["subject"]) => `${kind}:${id}`;
  const subject = other.of.find((each) => key(each.subject) === of) ?? other.of[0];
  if (!subject) return null;
  const test = otherTest(other, subject);
  const Box = test.unit ? Typed : Seen;
  return (
    <section aria-label={t("web.testing.another")} className="mb-4 w-full max-w-5xl">
      <h2 className="text-[14px] font-semibold">{t("web.testing.another")}</h2>
      <p className="mb-1 text-[12.5px] text-soft">{t("web.testing.another_hint")}</p>
      <div className="flex flex-wrap items-center gap-2">
        <Select
          aria-label={t("web.testing.another_what")}
          className="w-80 max-w-full"
          value={other.test}
          options={others.map(({ test, title }) => ({ value: test, label: say(title) }))}
          onCommit={setKind}
        />
        <Select
          aria-label={t("web.testing.another_of")}
          className="w-56 max-w-full"
          value={key(subject.subject)}
          options={other.of.map((each) => ({ value: key(each.subject), label: say(each.name) }))}
          onCommit={setOf}
        />
        <Box key={test.id} test={test} enter={enter} waiting={waiting[test.id]} />
        {test.live && <span className="text-[12.5px] text-soft">{t("web.testing.live")}</span>}
      </div>
      {waiting[test.id]?.why && (
        <p role="alert" className="text-[12.5px] text-fail">
          {waiting[test.id]?.why}
        </p>
      )}
    </section>
  );
}
