import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import {
  answered,
  type BoardSpec,
  type ClassExercise,
  type ClassFile,
  client,
  type TrainingOffer,
} from "../api/client";
import { saveFrom } from "../documents/saveFrom";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { FileButton } from "../ui/FileButton";

/** The work of a class: a file with boards and exercises, what each learner did, and the results as a table. */
export function ClassWork({
  offer,
  onLearner,
  onBoard,
  onExercises,
}: {
  offer: TrainingOffer;
  onLearner: (name: string) => void;
  onBoard: (board: BoardSpec) => void;
  onExercises: (exercises: ClassExercise[]) => void;
}) {
  const [file, setFile] = useState<ClassFile>();
  const [error, setError] = useState("");
  const read = async ([first]: File[]) => {
    if (!first) return;
    try {
      setFile(await answered(client.POST("/api/training/class", { body: { text: await first.text() } })));
      setError("");
    } catch (wrong) {
      setError((wrong as Error).message);
    }
  };
  const make = () => {
    const boards = offer.standards.map(({ id }) => ({
      standard: id,
      level: 1,
      number: 1,
      defects: [],
      piece: "",
    }));
    const exercises = offer.standards.flatMap(({ id, kinds }) =>
      kinds.map((kind) => ({ standard: id, kind, number: 1 })),
    );
    const example: ClassFile = {
      format: "vivid-lattice-class/1",
      title: t("web.training.class_title"),
      boards,
      exercises,
    };
    saveFrom(
      `data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(example, null, 1))}`,
      "class.json",
    );
  };
  return (
    <div className="mx-auto grid max-w-4xl gap-6 md:grid-cols-2">
      <section aria-label={t("web.training.class_file")}>
        <h2 className="font-semibold">{t("web.training.class_file")}</h2>
        <p className="text-[13px] text-soft">{t("web.training.class_text")}</p>
        <div className="mt-2 flex flex-wrap gap-2">
          <FileButton
            label={t("web.training.open_class")}
            accept=".json"
            onFiles={(files) => void read(files)}
          />
          <Button onClick={make}>{t("web.training.make_class")}</Button>
          <a
            href="/api/training/results.csv"
            download
            className="inline-flex items-center rounded-md border border-line bg-sheet px-2.5 py-1 text-[13px] font-medium"
          >
            {t("web.training.results")}
          </a>
        </div>
        {error && <p role="alert">{error}</p>}
        {file && (
          <div className="mt-3 text-[13px]" data-testid="class">
            <h3 className="font-semibold">{file.title}</h3>
            <ul>
              {(file.boards ?? []).map((board) => (
                <li
                  key={`${board.standard} ${board.level} ${board.number}`}
                  className="flex items-center gap-2 py-0.5"
                >
                  <Button onClick={() => onBoard(board)}>{t("web.training.start")}</Button>
                  {t("web.training.of", {
                    standard: titleOf(offer, board.standard ?? ""),
                    level: String(board.level),
                    n: String(board.number),
                  })}
                </li>
              ))}
            </ul>
            {file.exercises && file.exercises.length > 0 && (
              <p className="flex items-center gap-2 py-0.5">
                <Button onClick={() => onExercises(file.exercises ?? [])}>{t("web.training.start")}</Button>
                {t("web.training.class_exercises", { n: file.exercises.length })}
              </p>
            )}
          </div>
        )}
      </section>
      <section aria-label={t("web.training.learners")}>
        <h2 className="font-semibold">{t("web.training.learners")}</h2>
        {offer.learners.length === 0 && <p className="text-soft">{t("web.training.no_learners")}</p>}
        <ul>
          {offer.learners.map((name) => (
            <Learner key={name} name={name} offer={offer} onChoose={() => onLearner(name)} />
          ))}
        </ul>
      </section>
    </div>
  );
}

const titleOf = (offer: TrainingOffer, standard: string) =>
  offer.standards.find(({ id }) => id === standard)?.title ?? standard;

function Learner({ name, offer, onChoose }: { name: string; offer: TrainingOffer; onChoose: () => void }) {
  const progress = useQuery({
    queryKey: ["training-learner", name],
    queryFn: async () =>
      answered(
        client.GET("/api/training/learners/{learner}", {
          params: { path: { learner: name }, query: { standard: "uk" } },
        }),
      ),
  });
  return (
    <li className="border-b border-line/60 py-1 text-[13px]" data-learner={name}>
      <Button variant="quiet" onClick={onChoose}>
        {name}
      </Button>
      <ul className="figure ml-3 text-[12.5px] text-soft">
        {(progress.data?.attempts ?? []).slice(0, 5).map((attempt) => (
          <li key={attempt.id}>
            {t("web.training.of", {
              standard: titleOf(offer, attempt.standard),
              level: String(attempt.level),
              n: String(attempt.number),
            })}
            : {attempt.total}
          </li>
        ))}
      </ul>
    </li>
  );
}
