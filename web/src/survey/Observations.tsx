import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { ExistingBoard, ObservationResult } from "../api/client";
import { catalogueQuery, thingsQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { cx } from "../ui/cx";
import { Choice, TextBox } from "../ui/Field";

const URGENCY: Record<string, { title: string; look: string; mark: string }> = {
  now: {
    get title() {
      return t("web.survey.observations.now");
    },
    look: "text-fail",
    mark: "▲",
  },
  soon: {
    get title() {
      return t("web.survey.observations.soon");
    },
    look: "text-tight",
    mark: "‖",
  },
  better: {
    get title() {
      return t("web.survey.observations.better");
    },
    look: "text-advice",
    mark: "◇",
  },
  note: {
    get title() {
      return t("web.survey.observations.note");
    },
    look: "text-missing",
    mark: "?",
  },
};

/** What is wrong in the old board: why it matters, how urgent, by which clause. Nothing for its age alone. */
export function Observations({
  board,
  things,
  onChange,
}: {
  board: ExistingBoard;
  things: ObservationResult[];
  onChange: (board: ExistingBoard) => void;
}) {
  const { rules } = useJob();
  const { data: catalogue } = useQuery(catalogueQuery(rules.id));
  return (
    <div className="grid shrink-0 grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[minmax(0,1fr)_320px]">
      <section aria-label={t("web.survey.tab.observations")} data-testid="things">
        {Object.entries(URGENCY).map(([urgency, about]) => {
          const ofUrgency = things.filter((thing) => thing.kind.urgency === urgency);
          if (!ofUrgency.length) return null;
          return (
            <section key={urgency} className="mb-3" data-urgency={urgency}>
              <h2 className={cx("mb-1 text-[13px] font-semibold", about.look)}>
                <span aria-hidden>{about.mark}</span> {about.title}{" "}
                <span className="figure" data-testid="code">
                  {catalogue?.codes.find((code) => code.urgency === urgency)?.code}
                </span>
              </h2>
              <ul className="grid gap-2 sm:grid-cols-2">
                {grouped(ofUrgency).map((same) => {
                  const observation = same[0];
                  return observation ? (
                    <ObservationCard
                      key={`${observation.kind.id} ${observation.way}`}
                      observation={observation}
                      same={same}
                    />
                  ) : null;
                })}
              </ul>
            </section>
          );
        })}
        {!things.length && <p className="text-soft">{t("web.survey.observations.empty")}</p>}
        <p className="text-[12px] text-soft">{t("web.survey.observations.text")}</p>
      </section>
      <SeenForm board={board} onChange={onChange} />
    </div>
  );
}

/** Observations of one kind together, so that seven old fuses are one card. */
function grouped(things: ObservationResult[]): ObservationResult[][] {
  const byKind = new Map<string, ObservationResult[]>();
  for (const thing of things) byKind.set(thing.kind.id, [...(byKind.get(thing.kind.id) ?? []), thing]);
  return [...byKind.values()];
}

function ObservationCard({
  observation,
  same,
}: {
  observation: ObservationResult;
  same: ObservationResult[];
}) {
  const ways = same.filter((other) => other.way);
  return (
    <li
      className="rounded-xl border border-line bg-sheet px-3 py-2 text-[12.5px]"
      data-thing={observation.kind.id}
    >
      <p className="text-[13px] font-semibold">{observation.kind.title}</p>
      {ways.length > 0 ? (
        <ul>
          {ways.map((other) => (
            <li key={`${other.way} ${say(other.text)}`}>
              <span className="font-medium">{t("web.survey.observations.way", { n: other.way ?? "" })}</span>
              {other.text && <span className="text-soft">: {say(other.text)}</span>}
              {other.by === "seen" && <span className="text-soft"> {t("web.survey.observations.seen")}</span>}
            </li>
          ))}
        </ul>
      ) : (
        observation.text && <p className="text-soft">{say(observation.text)}</p>
      )}
      <p className="mt-1">{observation.kind.reason}</p>
      <p>{observation.kind.act}</p>
      <p className="text-[11.5px] text-soft">{clause(observation)}</p>
    </li>
  );
}

function clause(observationResult: ObservationResult): string {
  if (!observationResult.source) return t("web.survey.observations.clause_none");
  const { publication, provenance } = observationResult.source;
  return publication === "practice"
    ? t("web.survey.observations.clause_practice")
    : `${publication} (${provenance})`;
}

function SeenForm({ board, onChange }: { board: ExistingBoard; onChange: (board: ExistingBoard) => void }) {
  const { data: kinds = [] } = useQuery(thingsQuery);
  const [what, setWhat] = useState("burnt-terminal");
  const [way, setWay] = useState("");
  const [note, setNote] = useState("");
  const add = () => {
    onChange({
      ...board,
      observations: [...board.observations, { kind: what, way: way ? Number(way) : null, note }],
    });
    setNote("");
  };
  return (
    <aside
      className="self-start rounded-xl border border-line bg-sheet p-3"
      aria-label={t("web.survey.observations.form")}
    >
      <h2 className="mb-2 text-[13px] font-semibold">{t("web.survey.observations.form_title")}</h2>
      <div className="flex flex-col gap-2">
        <Choice
          label={t("web.survey.observations.kind")}
          value={what}
          options={kinds.map((kind) => ({ value: kind.id, label: kind.title }))}
          onCommit={setWhat}
        />
        <Choice
          label={t("web.survey.observations.where")}
          value={way}
          options={[
            { value: "", label: t("web.survey.observations.where_board") },
            ...board.ways.map((way) => ({
              value: String(way.number),
              label: t("web.survey.observations.where_way", { number: way.number, label: way.label ?? "" }),
            })),
          ]}
          onCommit={setWay}
        />
        <TextBox
          aria-label={t("web.survey.observations.note_label")}
          placeholder={t("web.survey.observations.note_placeholder")}
          value={note}
          maxLength={500}
          onCommit={setNote}
        />
        <Button onClick={add}>{t("web.survey.observations.add")}</Button>
      </div>
      <ul className="mt-3 text-[12.5px]">
        {board.observations.map((observation, at) => (
          <li
            key={`${observation.kind} ${observation.way} ${at}`}
            className="flex items-center justify-between border-t border-line"
          >
            <span>
              {observation.way ? t("web.survey.observations.way_prefix", { n: observation.way }) : ""}
              {kinds.find((kind) => kind.id === observation.kind)?.title ?? observation.kind}
            </span>
            <Button
              variant="quiet"
              onClick={() =>
                onChange({ ...board, observations: board.observations.filter((_, number) => number !== at) })
              }
            >
              {t("web.survey.observations.delete")}
            </Button>
          </li>
        ))}
      </ul>
    </aside>
  );
}
