import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { ExistingBoard, ObservationResult } from "../api/client";
import { thingsQuery } from "../api/queries";
import { Button } from "../ui/Button";
import { cx } from "../ui/cx";
import { Choice, TextBox } from "../ui/Field";

const URGENCY: Record<string, { title: string; look: string; mark: string }> = {
  now: { title: "Make safe before you leave", look: "text-fail", mark: "▲" },
  soon: { title: "A fault in waiting", look: "text-tight", mark: "‖" },
  better: { title: "Worth doing with the next work", look: "text-advice", mark: "◇" },
  note: { title: "To be looked at", look: "text-missing", mark: "?" },
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
  return (
    <div className="grid shrink-0 grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[minmax(0,1fr)_320px]">
      <section aria-label="What is wrong" data-testid="things">
        {Object.entries(URGENCY).map(([urgency, about]) => {
          const held = things.filter((one) => one.kind.urgency === urgency);
          if (!held.length) return null;
          return (
            <section key={urgency} className="mb-3" data-urgency={urgency}>
              <h2 className={cx("mb-1 text-[13px] font-semibold", about.look)}>
                <span aria-hidden>{about.mark}</span> {about.title}
              </h2>
              <ul className="grid gap-2 sm:grid-cols-2">
                {grouped(held).map((same) => {
                  const one = same[0];
                  return one ? <ThingCard key={`${one.kind.id} ${one.way}`} one={one} same={same} /> : null;
                })}
              </ul>
            </section>
          );
        })}
        {!things.length && (
          <p className="text-soft">Nothing that follows from what is written down so far.</p>
        )}
        <p className="text-[12px] text-soft">
          Age alone is no reason to replace a board: each thing is weighed for itself, by a licensed
          electrician on the spot.
        </p>
      </section>
      <SeenForm board={board} onChange={onChange} />
    </div>
  );
}

/** Observations of one kind together, so that seven old fuses are one card. */
function grouped(things: ObservationResult[]): ObservationResult[][] {
  const byKind = new Map<string, ObservationResult[]>();
  for (const one of things) byKind.set(one.kind.id, [...(byKind.get(one.kind.id) ?? []), one]);
  return [...byKind.values()];
}

function ThingCard({ one, same }: { one: ObservationResult; same: ObservationResult[] }) {
  const ways = same.filter((other) => other.way);
  return (
    <li className="rounded-xl border border-line bg-sheet px-3 py-2 text-[12.5px]" data-thing={one.kind.id}>
      <p className="text-[13px] font-semibold">{one.kind.title}</p>
      {ways.length > 0 ? (
        <ul>
          {ways.map((other) => (
            <li key={`${other.way} ${other.text}`}>
              <span className="font-medium">Way {other.way}</span>
              {other.text && <span className="text-soft">: {other.text}</span>}
              {other.by === "seen" && <span className="text-soft"> (seen)</span>}
            </li>
          ))}
        </ul>
      ) : (
        one.text && <p className="text-soft">{one.text}</p>
      )}
      <p className="mt-1">{one.kind.reason}</p>
      <p>{one.kind.act}</p>
      <p className="text-[11.5px] text-soft">{clause(one)}</p>
    </li>
  );
}

function clause(one: ObservationResult): string {
  if (!one.source) return "These rules hold no clause.";
  const { publication, provenance } = one.source;
  return publication === "practice" ? "Common practice, no source." : `${publication} (${provenance})`;
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
    <aside className="self-start rounded-xl border border-line bg-sheet p-3" aria-label="What you see">
      <h2 className="mb-2 text-[13px] font-semibold">You see something</h2>
      <div className="flex flex-col gap-2">
        <Choice
          label="What"
          value={what}
          options={kinds.map((one) => ({ value: one.id, label: one.title }))}
          onCommit={setWhat}
        />
        <Choice
          label="Where"
          value={way}
          options={[
            { value: "", label: "the board as a whole" },
            ...board.ways.map((one) => ({
              value: String(one.number),
              label: `way ${one.number} ${one.label}`,
            })),
          ]}
          onCommit={setWay}
        />
        <TextBox aria-label="Note" placeholder="a note" value={note} maxLength={500} onCommit={setNote} />
        <Button onClick={add}>Write it down</Button>
      </div>
      <ul className="mt-3 text-[12.5px]">
        {board.observations.map((one, at) => (
          <li
            key={`${one.kind} ${one.way} ${at}`}
            className="flex items-center justify-between border-t border-line"
          >
            <span>
              {one.way ? `Way ${one.way}: ` : ""}
              {kinds.find((kind) => kind.id === one.kind)?.title ?? one.kind}
            </span>
            <Button
              variant="quiet"
              onClick={() =>
                onChange({ ...board, observations: board.observations.filter((_, number) => number !== at) })
              }
            >
              Strike
            </Button>
          </li>
        ))}
      </ul>
    </aside>
  );
}
