import { useState } from "react";
import type { BoardSpec, PlayView, TrainingOffer } from "../api/client";
import { say } from "../messages/say";
import { setWordsOf, t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice, FigureField } from "../ui/Field";
import { Bench } from "./Bench";
import { Ended } from "./Ended";
import { Naming } from "./Naming";
import { Tester } from "./Tester";
import { TestList } from "./TestList";
import type { Practice } from "./useAttempt";
import { withUnit } from "./withUnit";

/** A board to practise on: begun by its number, worked on act by act, scored at the end. */
export function BoardPractice({
  offer,
  learner,
  practice,
}: {
  offer: TrainingOffer;
  learner: string;
  practice: Practice;
}) {
  const { attempt, view, act, start, leave } = practice;
  if (attempt) setWordsOf(attempt.board.standard ?? "uk");
  const [spec, setSpec] = useState<BoardSpec>({
    standard: "uk",
    level: 1,
    number: 1,
    defects: [],
    piece: "",
  });
  const pieces = offer.standards.find(({ id }) => id === spec.standard)?.pieces ?? [];
  if (!attempt)
    return (
      <form
        className="mx-auto flex max-w-2xl flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          start(spec);
        }}
      >
        <p className="w-full text-[13px] text-soft">{t("web.training.board_text")}</p>
        <div className="w-56">
          <Choice
            label={t("web.training.standard")}
            value={spec.standard ?? "uk"}
            options={offer.standards.map(({ id, title }) => ({ value: id, label: title }))}
            onCommit={(standard) => setSpec({ ...spec, standard, piece: "" })}
          />
        </div>
        <div className="w-72">
          <Choice
            label={t("web.training.piece")}
            value={spec.piece ?? ""}
            options={[
              { value: "", label: t("web.training.by_number") },
              ...pieces.map(({ id, title, level }) => ({ value: id, label: `${level} · ${title}` })),
            ]}
            onCommit={(piece) =>
              setSpec({ ...spec, piece, level: pieces.find(({ id }) => id === piece)?.level ?? 1 })
            }
          />
        </div>
        <div className="w-44">
          <Choice
            label={t("web.training.level")}
            disabled={spec.piece !== ""}
            value={String(spec.level)}
            options={offer.levels.map((level) => ({
              value: String(level.level),
              label: `${level.level} · ${level.name}`,
            }))}
            onCommit={(level) => setSpec({ ...spec, level: Number(level) })}
          />
        </div>
        <div className="w-28">
          <FigureField
            label={t("web.training.number")}
            unit=""
            required
            value={spec.number}
            onCommit={(number) => setSpec({ ...spec, number: Math.round(number ?? 1) })}
          />
        </div>
        <Button type="submit" variant="strong">
          {t("web.training.start")}
        </Button>
      </form>
    );
  if (view.error)
    return (
      <p role="alert">
        {view.error.message} <Button onClick={leave}>{t("web.training.leave")}</Button>
      </p>
    );
  if (!view.data) return <p className="text-soft">{t("web.training.opening")}</p>;
  return (
    <div>
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <p className="figure text-[12.5px] text-soft">
          {t("web.training.of", {
            standard: view.data.title,
            level: String(attempt.board.level),
            n: String(attempt.board.number),
          })}
        </p>
        <Button onClick={leave}>{t("web.training.leave")}</Button>
      </div>
      <Said view={view.data} />
      {view.data.ended ? (
        <Ended view={view.data} attempt={attempt} learner={learner} />
      ) : (
        <div className="grid gap-4 lg:grid-cols-[minmax(0,5fr)_minmax(0,4fr)]">
          <Bench view={view.data} act={act} />
          <div>
            {view.data.leads_by_hand && <Tester view={view.data} act={act} />}
            <TestList view={view.data} act={act} />
            <Naming view={view.data} act={act} />
          </div>
        </div>
      )}
    </div>
  );
}

/** What came of the last act: what is seen or read; or why it was stopped, and what is right. */
function Said({ view }: { view: PlayView }) {
  const last = view.outcomes[view.outcomes.length - 1];
  const stopped = last?.refused ? view.stopped[view.stopped.length - 1] : undefined;
  return (
    <output
      data-testid="said"
      data-refused={last?.refused ?? ""}
      className={`sticky top-0 z-10 mb-2 block min-h-10 rounded-lg border px-3 py-2 text-[13px] ${stopped ? "border-fail" : "border-line"} bg-sheet`}
    >
      {stopped ? (
        <>
          <b className="text-fail">✗ {t("web.training.stopped", { what: stopped.what })}</b> {stopped.why}{" "}
          <span className="text-soft">{t("web.training.right_way", { what: stopped.right })}</span>
        </>
      ) : last ? (
        last.reading ? (
          <>
            {say(last.said)}: <b className="figure text-[16px]">{withUnit(last.reading, last.unit)}</b>{" "}
            {last.tripped.length > 0 && t("web.training.trips")}
          </>
        ) : (
          say(last.said)
        )
      ) : (
        t("web.training.begin")
      )}
    </output>
  );
}
