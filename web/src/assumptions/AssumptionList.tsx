import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useRef, useState } from "react";
import { client, type OpenAssumption, type Supply } from "../api/client";
import { lengthsQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { circuitById } from "../job/jobModel";
import { useAnsweredEdit } from "../job/useAnsweredEdit";
import { say } from "../messages/say";
import { type Key, t } from "../messages/text";
import { Button } from "../ui/Button";
import { readFigure, TextBox } from "../ui/Field";
import { withValue } from "./assumedValue";

type How = "measured" | "enquiry" | "read";
const KEYS: Record<string, How> = { m: "measured", e: "enquiry", r: "read" };
const WAYS: { how: How; word: Key; hint: Key }[] = [
  { how: "measured", word: "web.assumed.measured", hint: "web.assumed.measured_hint" },
  { how: "enquiry", word: "web.assumed.enquiry", hint: "web.assumed.enquiry_hint" },
  { how: "read", word: "web.assumed.read", hint: "web.assumed.read_hint" },
];

/** The field that is asked, and never assumed. */
export const SYSTEM = "supply.system";

/** Every value that is assumed: confirmed with one key or a press, or typed over. Arrow keys go from one to the next. */
export function AssumptionList() {
  const { document, assessment, edit } = useJob();
  const answeredEdit = useAnsweredEdit();
  const list = useRef<HTMLUListElement>(null);
  const confirm = (fields: string[], how: How) =>
    answeredEdit(client.POST("/api/assumptions/confirm", { body: { document, fields, how } }));
  const assumptions = assessment?.assumptions ?? [];
  const rows = () => Array.from(list.current?.querySelectorAll<HTMLElement>("[data-assumption]") ?? []);
  const move = (event: KeyboardEvent<HTMLElement>) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const here = rows().findIndex((row) => row.contains(event.target as Node));
    if (!step || here < 0) return;
    event.preventDefault();
    rows()[here + step]?.focus();
  };
  if (!assumptions.length) return <p className="text-[13px] text-soft">{t("web.assumed.none")}</p>;
  return (
    <>
      {assumptions.some((assumed) => assumed.field !== SYSTEM) && (
        <p className="mb-1 text-[12px] text-soft max-md:hidden">{t("web.assumed.keys")}</p>
      )}
      <ul ref={list} className="flex flex-col" data-testid="to-confirm-list" onKeyDown={move}>
        {assumptions.map((assumed) =>
          assumed.field === SYSTEM ? (
            <SystemQuestion key={assumed.field} assumed={assumed} />
          ) : (
            <Row
              key={assumed.field}
              assumed={assumed}
              onConfirm={(how) => {
                // The next one takes the focus, so that several are confirmed one after the other.
                const at = assumptions.indexOf(assumed);
                void confirm([assumed.field], how).then(() =>
                  requestAnimationFrame(() => (rows()[at] ?? rows()[at - 1])?.focus()),
                );
              }}
              onValue={(value) => edit(withValue(document, assumed.field, value))}
            />
          ),
        )}
      </ul>
    </>
  );
}

function Row({
  assumed,
  onConfirm,
  onValue,
}: {
  assumed: OpenAssumption;
  onConfirm: (how: How) => void;
  onValue: (value: number) => void;
}) {
  const label = say(assumed.label);
  // A size that is written by its name (4 AWG) is chosen where it stands, not typed here.
  const named = assumed.shown !== String(assumed.value);
  const [wrong, setWrong] = useState("");
  return (
    <li className="border-t border-dashed border-line py-1.5 first:border-t-0">
      <div
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a row is confirmed with one key
        tabIndex={0}
        role="group"
        data-assumption={assumed.field}
        aria-label={`${label} ${assumed.shown} ${assumed.unit}`}
        className="grid items-center gap-x-3 gap-y-1 rounded-md sm:grid-cols-[1fr_auto] px-1 focus:outline-2 focus:outline-accent"
        onKeyDown={(event) => {
          const how = KEYS[event.key.toLowerCase()];
          if (!how || event.target !== event.currentTarget || event.ctrlKey || event.metaKey) return;
          event.preventDefault();
          onConfirm(how);
        }}
      >
        <div className="min-w-0">
          <p className="text-[13px]">{label}</p>
          <p className="text-[12px] text-soft">
            {assumed.confirm}
            {assumed.other && t("web.assumed.other", { value: assumed.other, unit: assumed.unit })}
            {/\.length_m$/.test(assumed.field) && assumed.kind === "circuit" && (
              <LongestRun circuit={assumed.subject} />
            )}
          </p>
          {wrong && (
            <p role="alert" className="text-[12px] text-fail">
              {wrong}
            </p>
          )}
        </div>
        <div className="flex flex-wrap items-center gap-1">
          <TextBox
            aria-label={t("web.assumed.value", { label, unit: assumed.unit })}
            className="figure !w-16 border-dashed sm:!w-20 py-0.5 text-right"
            inputMode="decimal"
            value={assumed.shown}
            readOnly={named}
            onCommit={(text) => {
              const value = readFigure(text);
              if (value === null || value === undefined) setWrong(t("web.common.not_a_number", { text }));
              else {
                setWrong("");
                onValue(value);
              }
            }}
          />
          <span className="figure w-7 text-[12px] text-soft">{assumed.unit}</span>
          {WAYS.map(({ how, word, hint }) => (
            <Button
              key={how}
              className="px-1.5 py-0.5 text-[12px]"
              tabIndex={-1}
              title={t(hint)}
              onClick={() => onConfirm(how)}
            >
              {t(word)}
            </Button>
          ))}
        </div>
      </div>
    </li>
  );
}

/** The longest run that passes, beside a length that is taken as usual. */
function LongestRun({ circuit: id }: { circuit: string }) {
  const { document, version, settled } = useJob();
  const circuit = circuitById(document, id);
  const cable = circuit?.cable;
  const area = cable && typeof cable !== "string" ? cable.area_mm2 : undefined;
  const lengths = useQuery(lengthsQuery(document, version, id, settled && area !== undefined));
  const longest = lengths.data?.find((run) => run.area_mm2 === area);
  if (!longest?.length_m) return null;
  return <span className="figure"> · {t("web.assumed.longest", { m: longest.length_m })}</span>;
}

/** The one value that nothing is assumed of: which earthing system arrives. */
function SystemQuestion({ assumed }: { assumed: OpenAssumption }) {
  const { document, rules } = useJob();
  const answeredEdit = useAnsweredEdit();
  const answer = (system: string) => {
    const body = { document, system: system as Supply["system"] };
    return answeredEdit(client.POST("/api/assumptions/system", { body }));
  };
  return (
    <li className="py-1.5" data-assumption={assumed.field}>
      <p className="text-[13px] font-medium">{t("web.assumed.system")}</p>
      <p className="mb-1 text-[12px] text-soft">{assumed.confirm}</p>
      <ul className="flex flex-wrap gap-1.5" aria-label={t("web.assumed.system")}>
        {rules.systems.map((system) => (
          <li key={system.id}>
            <Button onClick={() => void answer(system.id)}>{system.title}</Button>
          </li>
        ))}
      </ul>
    </li>
  );
}
