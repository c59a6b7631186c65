import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answered, type BoardSpec, type ClassExercise, client } from "../api/client";
import { t } from "../messages/text";
import { Field, TextBox } from "../ui/Field";
import { Mark } from "../ui/Mark";
import { Segments } from "../ui/Segments";
import { BoardPractice } from "./BoardPractice";
import { ClassWork } from "./ClassWork";
import { Exercises } from "./Exercises";
import { useAttempt } from "./useAttempt";

const PARTS = [
  { id: "board", title: "web.training.part.board" },
  { id: "exercises", title: "web.training.part.exercises" },
  { id: "class", title: "web.training.part.class" },
] as const;
type Part = (typeof PARTS)[number]["id"];

/** Training: boards with hidden defects, exercises without a board, and the work of a class. */
export function TrainingPage() {
  const [part, setPart] = useState<Part>("board");
  const practice = useAttempt();
  const [given, setGiven] = useState<ClassExercise[]>();
  const [learner, setLearner] = useState(() => localStorage.getItem("training-learner") ?? "");
  const offer = useQuery({
    queryKey: ["training-offer"],
    queryFn: async () => answered(client.GET("/api/training")),
  });
  const name = (text: string) => {
    localStorage.setItem("training-learner", text.trim());
    setLearner(text.trim());
  };
  const begin = (board: BoardSpec) => {
    practice.start(board);
    setPart("board");
  };
  const work = (exercises: ClassExercise[]) => {
    setGiven(exercises);
    setPart("exercises");
  };
  return (
    <div className="flex h-full flex-col">
      <header className="flex flex-wrap items-center gap-3 border-b border-line bg-sheet px-4 py-2">
        <Link to="/" className="flex items-center gap-2 font-semibold" aria-label={t("web.shell.home")}>
          <Mark /> <span className="max-sm:sr-only">Vivid Lattice</span>
        </Link>
        <h1 className="text-[13px] font-medium">{t("web.training.title")}</h1>
        <Segments
          label={t("web.training.title")}
          options={PARTS.map(({ id, title }) => ({ id, title: t(title) }))}
          value={part}
          onChange={(id) => setPart(id as Part)}
        />
        <div className="ml-auto w-44">
          <Field label={t("web.training.learner")}>
            {(id) => <TextBox id={id} value={learner} maxLength={80} onCommit={name} />}
          </Field>
        </div>
      </header>
      <main className="min-h-0 flex-1 overflow-auto px-4 py-3 max-sm:px-2">
        {offer.error && <p role="alert">{offer.error.message}</p>}
        {offer.data && part === "board" && (
          <BoardPractice offer={offer.data} learner={learner} practice={practice} />
        )}
        {offer.data && part === "exercises" && (
          <Exercises offer={offer.data} learner={learner} given={given} onDone={() => setGiven(undefined)} />
        )}
        {offer.data && part === "class" && (
          <ClassWork offer={offer.data} onLearner={name} onBoard={begin} onExercises={work} />
        )}
      </main>
    </div>
  );
}
