import { X } from "lucide-react";
import { useState } from "react";
import type { Room } from "../api/client";
import { blankRoom } from "../job/blank";
import { useJob } from "../job/JobContext";
import { freeId } from "../job/jobModel";
import { planWithoutRoom } from "../job/planWithout";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Select } from "../ui/Select";
import { Card } from "./Card";
import { RoomSheet } from "./RoomSheet";

const KINDS = (): readonly [Room["kind"], string][] => [
  ["ordinary", t("web.setup.rooms.kind.ordinary")],
  ["bedroom", t("web.setup.rooms.kind.bedroom")],
  ["living", t("web.setup.rooms.kind.living")],
  ["kitchen", t("web.setup.rooms.kind.kitchen")],
  ["laundry", t("web.setup.rooms.kind.laundry")],
  ["garage", t("web.setup.rooms.kind.garage")],
  ["basement", t("web.setup.rooms.kind.basement")],
  ["bath", t("web.setup.rooms.kind.bath")],
  ["shower", t("web.setup.rooms.kind.shower")],
  ["sauna", t("web.setup.rooms.kind.sauna")],
  ["pool", t("web.setup.rooms.kind.pool")],
  ["outdoors", t("web.setup.rooms.kind.outdoors")],
  ["damp", t("web.setup.rooms.kind.damp")],
  ["agricultural", t("web.setup.rooms.kind.agricultural")],
  ["childcare", "early childhood"],
  ["treatment", "body-protected treatment"],
];

/** The rooms, so that loads can be placed and later views can say what goes dark. */
export function Rooms() {
  const { document, edit } = useJob();
  const rooms = document.rooms ?? [];
  const [name, setName] = useState("");
  const [error, setError] = useState("");
  const [open, setOpen] = useState<string>();
  const shown = rooms.find((room) => room.id === open);
  const add = () => {
    if (!name.trim()) return;
    edit({ ...document, rooms: [...rooms, blankRoom(freeId("r", rooms), name.trim())] });
    setName("");
  };
  const set = (id: string, part: Partial<Room>) =>
    edit({ ...document, rooms: rooms.map((room) => (room.id === id ? { ...room, ...part } : room)) });
  const remove = (id: string) => {
    const holds = (document.circuits ?? []).filter((circuit) =>
      circuit.loads?.some((load) => load.room === id),
    );
    if (holds.length)
      return setError(
        t("web.setup.rooms.not_empty", { circuits: holds.map((circuit) => circuit.name).join(", ") }),
      );
    setError("");
    edit({ ...planWithoutRoom(document, id), rooms: rooms.filter((room) => room.id !== id) });
  };
  return (
    <Card title={t("web.setup.rooms.title")}>
      <ul className="mb-3 flex flex-wrap gap-2">
        {rooms.map((room) => (
          <li
            key={room.id}
            className="flex items-center gap-1 rounded-full border border-line py-0.5 pl-3 pr-1 text-[13px]"
          >
            <button
              type="button"
              aria-expanded={open === room.id}
              title={t("web.setup.rooms.details")}
              className="underline decoration-line decoration-2 underline-offset-4 hover:decoration-accent"
              onClick={() => setOpen(open === room.id ? undefined : room.id)}
            >
              {room.name}
            </button>
            {room.floor && <span className="text-soft"> · {room.floor}</span>}
            <Select
              aria-label={t("web.setup.rooms.kind_label", { room: room.name })}
              className="border-transparent px-1 py-0 text-[12.5px] text-soft"
              value={room.kind}
              options={KINDS().map(([value, label]) => ({ value, label }))}
              onCommit={(kind) => set(room.id, { kind: kind as Room["kind"] })}
            />
            <button
              type="button"
              aria-label={t("web.setup.rooms.remove", { room: room.name })}
              className="rounded-full p-1 text-soft hover:text-ink"
              onClick={() => remove(room.id)}
            >
              <X size={12} aria-hidden />
            </button>
          </li>
        ))}
        {rooms.length === 0 && <li className="text-[13px] text-soft">{t("web.setup.rooms.empty")}</li>}
      </ul>
      {shown && <RoomSheet room={shown} set={(part) => set(shown.id, part)} />}
      {error && (
        <p role="alert" className="mb-2 text-[13px] text-fail">
          {error}
        </p>
      )}
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <input
          aria-label={t("web.setup.rooms.name_label")}
          className="w-56 rounded-md border border-line bg-sheet px-2 py-1"
          maxLength={120}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button type="submit" disabled={!name.trim()}>
          {t("web.setup.rooms.add")}
        </Button>
      </form>
    </Card>
  );
}
