import { useEffect, useRef, useState } from "react";
import type { JudgedReading } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import type { Waiting } from "../offline/database";
import { Button } from "../ui/Button";
import { cx } from "../ui/cx";
import type { ReadTest } from "./testModel";
import type { Enter } from "./useEntries";
import type { ConnectedInstrument } from "./useInstrument";

/** The colour of each verdict. */
export const TONE: Record<JudgedReading["verdict"], string> = {
  fail: "text-fail font-semibold",
  missing: "text-missing",
  advice: "text-advice",
  tight: "text-tight",
  pass: "text-pass",
  "not-applicable": "text-soft",
};
/** Each verdict has a sign of its own, so that colour is never alone. */
export const SIGN: Record<JudgedReading["verdict"], string> = {
  fail: "✗",
  missing: "?",
  advice: "◇",
  tight: "≈",
  pass: "✓",
  "not-applicable": "•",
};

/** What a part of a test's row is given: the test, its reading, and how one is entered. */
export type OfTest = {
  test: ReadTest;
  judged?: JudgedReading;
  enter: Enter;
  /** What was typed and is not in the document yet. */
  waiting?: Waiting;
  /** The tester that is connected. */
  connected?: ConnectedInstrument;
};

/** The box of a value. It keeps what was typed until it is understood; Enter and Tab go on. */
export function Typed({ test, judged, enter, waiting, connected }: OfTest) {
  const kept = waiting?.reading.text ?? (judged ? judged.shown.replace(` ${test.unit}`, "") : "");
  const [text, setText] = useState(kept);
  // A verdict that arrives while the box has the focus must not type over it, nor take its selection away.
  const inside = useRef(false);
  const edited = useRef(false);
  const atFocus = useRef(kept);
  useEffect(() => {
    if (!inside.current) setText(kept);
  }, [kept]);
  const leave = () => {
    inside.current = false;
    if (!edited.current && kept !== atFocus.current) setText(kept);
    else if (text.trim() !== kept.trim()) void enter([{ test, text }]);
    edited.current = false;
  };
  return (
    <span className="flex items-center gap-1">
      <span aria-hidden className={cx("w-3 text-center", !waiting && judged && TONE[judged.verdict])}>
        {waiting ? "…" : judged ? SIGN[judged.verdict] : ""}
      </span>
      <input
        data-reading
        inputMode="text"
        autoComplete="off"
        aria-label={`${say(test.name)}, ${say(test.title)}`}
        className="figure w-20 rounded-md border border-line bg-sheet px-2 py-1 max-sm:py-2 max-sm:text-[16px]"
        value={text}
        onChange={(event) => {
          edited.current = true;
          setText(event.target.value);
        }}
        onFocus={() => {
          inside.current = true;
          atFocus.current = kept;
        }}
        onBlur={leave}
        onKeyDown={(event) => {
          if (event.key === "Escape") {
            edited.current = false;
            setText(kept);
          }
          if (event.key !== "Enter") return;
          event.preventDefault();
          const next = nextBox(event.currentTarget);
          if (next) next.focus();
          else event.currentTarget.blur();
        }}
      />
      <span className="figure text-[12.5px] text-soft">{test.unit}</span>
      {connected?.identity && (
        <Button
          variant="quiet"
          aria-label={`${t("web.testing.take")}: ${say(test.name)}, ${say(test.title)}`}
          onClick={() => void connected.take(test, judged?.no_trip ?? false)}
        >
          {t("web.testing.take")}
        </Button>
      )}
    </span>
  );
}

const SHOWN: Record<string, string> = { ok: "✓", wrong: "✗" };

/** What is seen, not read: right or wrong. */
export function Seen({ test, judged, enter, waiting }: OfTest) {
  const now = waiting ? (SHOWN[waiting.reading.text] ?? "") : judged?.shown;
  const press = (text: string, sign: string) => void enter([{ test, text: now === sign ? "" : text }]);
  return (
    <span className="flex gap-1">
      {(
        [
          ["ok", "✓", "web.testing.right"],
          ["wrong", "✗", "web.testing.wrong"],
        ] as const
      ).map(([text, sign, label]) => (
        <Button
          key={text}
          aria-label={`${say(test.name)}, ${say(test.title)}: ${t(label)}`}
          aria-pressed={now === sign}
          variant={now === sign ? "strong" : "plain"}
          className="w-14 justify-center max-sm:py-2"
          onClick={() => press(text, sign)}
        >
          {sign}
        </Button>
      ))}
    </span>
  );
}

/** The box that comes after one on the page. */
function nextBox(box: HTMLElement): HTMLElement | undefined {
  const boxes = [...document.querySelectorAll<HTMLElement>("[data-reading]")];
  return boxes[boxes.indexOf(box) + 1];
}
