import { useState } from "react";
import type { Board } from "../api/client";
import { blankRcd } from "../job/blank";
import { useJob } from "../job/JobContext";
import { freeId, withBoard } from "../job/jobModel";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice, Field, FigureField, TextBox } from "../ui/Field";
import { FedFromEitherSide } from "./FedFromEitherSide";

type Group = NonNullable<Board["shared_rcds"]>[number];
const TYPES = ["AC", "A", "F", "B"];

/** The RCDs of a board that several ways share. Which circuits stand behind one is said in the circuit's own sheet. */
export function SharedRcds({ board }: { board: Board }) {
  const { document, edit } = useJob();
  const [error, setError] = useState("");
  const groups = board.shared_rcds ?? [];
  const keep = (shared_rcds: Group[]) => edit(withBoard(document, { ...board, shared_rcds }));
  const set = (id: string, part: Partial<Group>) =>
    keep(groups.map((group) => (group.id === id ? { ...group, ...part } : group)));
  const add = () => {
    keep([
      ...groups,
      {
        id: freeId("g", groups),
        name: t("web.setup.boards.rcd.default_name", { n: groups.length + 1 }),
        rating_a: 63,
        rcd: blankRcd(30),
      },
    ]);
  };
  const remove = (group: Group) => {
    const behind = (board.ways ?? []).filter((way) => way.rcd === group.id).length;
    if (behind) return setError(t("web.setup.boards.rcd.not_empty", { n: behind, rcd: group.name }));
    setError("");
    keep(groups.filter((known) => known.id !== group.id));
  };
  return (
    <div className="sm:col-span-5">
      {groups.map((group) => (
        <div key={group.id} className="mb-2 grid items-end gap-3 sm:grid-cols-5">
          <Field label={t("web.setup.boards.rcd.name")}>
            {(id) => (
              <TextBox
                id={id}
                value={group.name}
                maxLength={120}
                onCommit={(name) => name.trim() && set(group.id, { name: name.trim() })}
              />
            )}
          </Field>
          <FigureField
            label={t("web.setup.boards.rcd.rating")}
            unit="A"
            required
            value={group.rating_a}
            onCommit={(rating_a) => rating_a && set(group.id, { rating_a })}
          />
          <FigureField
            label="IΔn"
            unit="mA"
            required
            value={group.rcd.idn_ma}
            onCommit={(idn_ma) => idn_ma && set(group.id, { rcd: { ...group.rcd, idn_ma } })}
          />
          <Choice
            label={t("web.setup.boards.rcd.type")}
            value={group.rcd.type}
            options={TYPES.map((type) => ({ value: type, label: type }))}
            onCommit={(type) => set(group.id, { rcd: { ...group.rcd, type: type as Group["rcd"]["type"] } })}
          />
          <FedFromEitherSide
            value={group.bidirectional}
            onCommit={(bidirectional) => set(group.id, { bidirectional })}
          />
          <Button variant="quiet" className="justify-self-end" onClick={() => remove(group)}>
            {t("web.setup.boards.rcd.remove")}
          </Button>
        </div>
      ))}
      {error && (
        <p role="alert" className="mb-1 text-[13px] text-fail">
          {error}
        </p>
      )}
      <Button onClick={add}>{t("web.setup.boards.rcd.add")}</Button>
    </div>
  );
}
