import { memo, useState } from "react";
import type { JudgedReading, PlannedTest } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { CheckBox } from "../ui/CheckBox";
import { cx } from "../ui/cx";
import { Earlier } from "./Earlier";
import { type OfTest, Seen, SIGN, TONE, Typed } from "./Typed";
import { figure } from "./testModel";
import type { Enter, Entry } from "./useEntries";

/** A reading to take: what it should be, a box for what it is, and what that says. Enter goes to the next one. */
export const TestRow = memo(function TestRow({
  test,
  judged,
  enter,
  waiting,
  connected,
}: OfTest & { test: PlannedTest }) {
  const [open, setOpen] = useState(false);
  const off = judged && judged.agreement !== "agrees" && judged.agreement !== "none";
  const odd = judged?.comparisons.filter(({ agreement }) => agreement !== "agrees") ?? [];
  return (
    <li className="border-b border-line/60 py-1" data-test={test.id} data-verdict={judged?.verdict ?? ""}>
      <div
        className={cx(
          "grid items-center gap-x-3",
          connected?.identity
            ? "grid-cols-[minmax(0,1fr)_12.5rem_minmax(0,1.2fr)] max-sm:grid-cols-[minmax(0,1fr)_13rem]"
            : "grid-cols-[minmax(0,1fr)_8.5rem_minmax(0,1.2fr)] max-sm:grid-cols-[minmax(0,1fr)_9.5rem]",
        )}
      >
        <button
          type="button"
          className="min-w-0 text-left text-[13px]"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          <span className="figure mr-1.5 text-soft">{test.way ?? ""}</span>
          {say(test.name)} <span className="text-soft">{say(test.title)}</span>
          {test.optional && <span className="ml-1 text-[12px] text-soft">{t("web.testing.optional")}</span>}
        </button>
        {test.unit ? (
          <Typed test={test} judged={judged} enter={enter} waiting={waiting} connected={connected} />
        ) : (
          <Seen test={test} judged={judged} enter={enter} waiting={waiting} />
        )}
        <p className="figure text-[12.5px] text-soft max-sm:col-span-2">
          <Expected test={test} />
        </p>
      </div>
      {connected?.said.test === test.id && connected.said.text && (
        <p role="alert" className="text-[12.5px] text-fail">
          {connected.said.text}
        </p>
      )}
      {waiting?.why && (
        <p role="alert" className="text-[12.5px] text-fail">
          {waiting.why}
        </p>
      )}
      {judged && (judged.verdict !== "pass" || off || odd.length > 0) && (
        <p className="text-[12.5px]" data-testid="said">
          {judged.verdict !== "not-applicable" && judged.verdict !== "pass" && (
            <span className={cx("mr-2", TONE[judged.verdict])}>
              {SIGN[judged.verdict]} {say(judged.sentence)}
            </span>
          )}
          {off && <span className="mr-2 text-advice">◇ {say(judged.agreement_text)}</span>}
          {odd.map((comparison) => (
            <span key={comparison.against} className="mr-2 text-advice">
              ◇ {say(comparison.text)}
            </span>
          ))}
        </p>
      )}
      {judged?.verdict === "missing" && <Reason test={test} judged={judged} enter={enter} />}
      {open && <Details test={test} judged={judged} enter={enter} />}
    </li>
  );
});

function Expected({ test }: { test: PlannedTest }) {
  const { value, low, high, least, most, by_calculation, missing } = test.expected;
  const parts: string[] = [];
  if (value !== null && value !== undefined) {
    const band = low !== null && low !== undefined && high !== null && high !== undefined;
    parts.push(
      band
        ? t("web.testing.expected_band", {
            value: figure(value),
            low: figure(low, "up"),
            high: figure(high, "down"),
          })
        : t("web.testing.expected", { value: figure(value) }),
    );
  }
  if (least !== null && least !== undefined) parts.push(`≥ ${figure(least, "up")}`);
  if (most !== null && most !== undefined) parts.push(`≤ ${figure(most, "down")}`);
  if (by_calculation !== null && by_calculation !== undefined)
    parts.push(t("web.testing.calculated", { limit: figure(by_calculation, "down") }));
  if (parts.length) return <>{parts.join(" · ")}</>;
  return <>{missing[0] ? t("web.testing.not_known", { what: say(missing[0]) }) : ""}</>;
}

/** Why a test was left out: asked where it was, and no reason is there. */
function Reason({ test, judged, enter }: { test: PlannedTest; judged: JudgedReading; enter: Enter }) {
  const [reason, setReason] = useState("");
  if (judged.shown !== "–") return null;
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (reason.trim()) void enter([{ test, text: "n/a", reason }]);
      }}
    >
      <input
        aria-label={t("web.testing.reason")}
        placeholder={t("web.testing.reason")}
        className="w-64 rounded-md border border-line bg-sheet px-2 py-1 text-[12.5px]"
        maxLength={400}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit">{t("web.testing.keep_reason")}</Button>
    </form>
  );
}

function Details({ test, judged, enter }: OfTest & { test: PlannedTest }) {
  const { warm } = test.expected;
  const again = (more: Partial<Entry>) =>
    judged && void enter([{ test, text: judged.shown.replace(` ${test.unit}`, ""), ...more }]);
  return (
    <div className="my-1 max-w-3xl rounded-md bg-sheet px-3 py-2 text-[12.5px]">
      {warm !== null && warm !== undefined && (
        <p>{t("web.testing.warm", { value: figure(warm), unit: test.unit })}</p>
      )}
      {judged && <p>{say(judged.sentence)}</p>}
      {judged?.agreement_text ? <p>{say(judged.agreement_text)}</p> : null}
      {judged?.comparisons.map((comparison) => (
        <p key={comparison.against}>{say(comparison.text)}</p>
      ))}
      {judged?.limit_source && <p className="text-soft">{judged.limit_source.publication}</p>}
      {judged && (test.test === "r1r2" || test.test === "x_le") && (
        <label className="mt-1 flex items-center gap-2" htmlFor={`alone-${test.id}`}>
          <CheckBox
            id={`alone-${test.id}`}
            checked={judged.alone === true}
            onChange={(alone) => again({ alone: alone || null })}
          />
          {t("web.testing.alone")}
        </label>
      )}
      {judged && test.test === "zs" && (
        <label className="mt-1 flex items-center gap-2" htmlFor={`no-trip-${test.id}`}>
          <CheckBox
            id={`no-trip-${test.id}`}
            checked={judged.no_trip}
            onChange={(no_trip) => again({ no_trip })}
          />
          {t("web.testing.no_trip")}
        </label>
      )}
      <Earlier test={test} />
    </div>
  );
}
