import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import {
  answered,
  type ClassExercise,
  client,
  type ExerciseView,
  type Judged,
  type TrainingOffer,
} from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Field";

type Kind = ExerciseView["kind"];
/** A number at random, so that exercises do not end. */
const fresh = () => Math.floor(Math.random() * 9e8);

/** Exercises one after the other: those of a class in their order; without one, what went wrong comes again first. */
export function Exercises({
  offer,
  learner,
  given,
  onDone,
}: {
  offer: TrainingOffer;
  learner: string;
  given?: ClassExercise[] | undefined;
  onDone: () => void;
}) {
  const [chosenStandard, setStandard] = useState("uk");
  const [at, setAt] = useState(0);
  const set = given?.[at];
  const standard = set?.standard ?? chosenStandard;
  const [seed, setSeed] = useState(fresh);
  const [chosen, setChosen] = useState<number>();
  const [judged, setJudged] = useState<Judged>();
  const [error, setError] = useState("");
  const name = learner || t("web.training.anybody");
  const progress = useQuery({
    queryKey: ["training-progress", name, standard, seed],
    queryFn: async () =>
      answered(
        client.GET("/api/training/learners/{learner}", {
          params: { path: { learner: name }, query: { standard, seed } },
        }),
      ),
  });
  const kind = set?.kind ?? progress.data?.next.kind;
  const number = set?.number ?? progress.data?.next.number;
  const question = useQuery({
    queryKey: ["exercise", standard, kind, number],
    enabled: kind !== undefined && number !== undefined,
    queryFn: async () =>
      answered(
        client.GET("/api/training/exercises/{standard}/{kind}/{number}", {
          params: { path: { standard, kind: kind as Kind, number: number as number } },
        }),
      ),
  });
  const choose = async (option: number) => {
    if (judged || !question.data) return;
    setChosen(option);
    try {
      setJudged(
        await answered(
          client.POST("/api/training/exercises", {
            body: {
              learner: name,
              standard,
              kind: question.data.kind,
              number: question.data.number,
              chosen: option,
            },
          }),
        ),
      );
      setError("");
    } catch (wrong) {
      setError((wrong as Error).message);
    }
  };
  const next = () => {
    setJudged(undefined);
    setChosen(undefined);
    setSeed(fresh());
    if (!given) return;
    if (at + 1 < given.length) setAt(at + 1);
    else {
      setAt(0);
      onDone();
    }
  };
  const go = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (judged) go.current?.focus();
  }, [judged]);
  const all = Object.values(progress.data?.answered ?? {}).reduce((sum, each) => sum + each, 0);
  const right = Object.values(progress.data?.right ?? {}).reduce((sum, each) => sum + each, 0);
  return (
    <div className="mx-auto max-w-2xl">
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-56">
          <Choice
            label={t("web.training.standard")}
            disabled={set !== undefined}
            value={standard}
            options={offer.standards.map(({ id, title }) => ({ value: id, label: title }))}
            onCommit={(id) => {
              setStandard(id);
              next();
            }}
          />
        </div>
        {given && (
          <p className="pb-1 text-[13px]" data-testid="class-at">
            {t("web.training.class_at", { n: String(at + 1), of: String(given.length) })}
          </p>
        )}
        <p className="figure pb-1 text-[13px] text-soft" data-testid="tally">
          {t("web.training.tally", { right: String(right), n: String(all) })}
        </p>
      </div>
      {(progress.error || question.error) && (
        <p role="alert">{(progress.error ?? question.error)?.message}</p>
      )}
      {error && <p role="alert">{error}</p>}
      {question.data && (
        <section
          className="mt-4 rounded-xl border border-line bg-sheet p-4"
          data-testid="exercise"
          data-exercise={`${question.data.standard}/${question.data.kind}/${question.data.number}`}
        >
          <p className="font-medium">{say(question.data.question)}</p>
          <ul className="figure my-2 text-[13px]">
            {question.data.lines.map((line) => (
              <li key={say(line)}>{say(line)}</li>
            ))}
          </ul>
          <div className="flex flex-col items-start gap-1.5">
            {question.data.options.map((option, at) => (
              <Button
                key={say(option)}
                data-option={at}
                disabled={judged !== undefined && at !== chosen && at !== judged.right}
                aria-pressed={chosen === at}
                variant={judged && at === judged.right ? "strong" : "plain"}
                onClick={() => void choose(at)}
              >
                {judged ? (at === judged.right ? "✓" : at === chosen ? "✗" : "") : `${at + 1}.`} {say(option)}
              </Button>
            ))}
          </div>
          {judged && (
            <div className="mt-3" data-testid="judged" data-right={judged.is_right}>
              <p className={judged.is_right ? "text-pass font-semibold" : "text-fail font-semibold"}>
                {t(judged.is_right ? "web.training.is_right" : "web.training.is_wrong")}
              </p>
              {judged.answer.map((line) => (
                <p key={say(line)} className="figure text-[13px]">
                  {say(line)}
                </p>
              ))}
              <p className="text-[12px] text-soft">{judged.publication}</p>
              <Button ref={go} className="mt-2" variant="strong" onClick={next}>
                {t("web.training.next")}
              </Button>
            </div>
          )}
        </section>
      )}
    </div>
  );
}
