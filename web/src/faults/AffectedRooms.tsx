import { Lightbulb, LightbulbOff } from "lucide-react";
import type { FaultResult } from "../api/client";
import { useJob } from "../job/JobContext";
import { type Key, t } from "../messages/text";
import { cx } from "../ui/cx";
import { PlanOfRooms } from "./PlanOfRooms";

type RoomLost = FaultResult["rooms"][number];
const LOOK: Record<string, { word: Key; look: string }> = {
  lit: { word: "web.faults.rooms.lit", look: "bg-sheet" },
  perhaps: {
    word: "web.faults.rooms.maybe",
    look: "bg-[repeating-linear-gradient(45deg,transparent_0_6px,var(--line)_6px_9px)]",
  },
  dark: { word: "web.faults.rooms.lost", look: "bg-ink text-sheet" },
};

/** The house: which rooms are lit, on its plan where it has one, and what each loses below it. */
export function AffectedRooms({ rooms }: { rooms: readonly RoomLost[] }) {
  const { document } = useJob();
  if (!rooms.length) return <p className="text-[13px] text-soft">{t("web.faults.rooms.empty")}</p>;
  const onPlan = new Set((document.plan?.rooms ?? []).map(({ room }) => room));
  const others = rooms.filter(({ room }) => !onPlan.has(room));
  const floors = [...new Set(others.map((room) => room.floor))].reverse();
  const losing = rooms.filter((room) => room.certainly.length || room.perhaps.length);
  return (
    <section
      aria-label={t("web.faults.rooms.section")}
      className="rounded-xl border border-line bg-sheet px-4 py-3"
      data-testid="house"
    >
      {onPlan.size > 0 && <PlanOfRooms rooms={rooms} />}
      {others.length > 0 && <Section floors={floors} rooms={others} />}
      {losing.length > 0 && (
        <ul className="mt-2 flex flex-col gap-0.5 text-[12.5px]">
          {losing.map((room) => (
            <li key={room.room}>
              <b className="font-semibold">{room.name}</b>{" "}
              {room.certainly.length > 0 && t("web.faults.rooms.loses", { list: room.certainly.join(", ") })}{" "}
              {room.perhaps.length > 0 && t("web.faults.rooms.may_lose", { list: room.perhaps.join(", ") })}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** The house from the side, floor above floor: the rooms that are on no plan. */
function Section({ floors, rooms }: { floors: readonly string[]; rooms: readonly RoomLost[] }) {
  return (
    <>
      <svg
        viewBox="0 0 100 9"
        className="block w-full text-pass"
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        <path
          d="M1 8.6 L50 0.8 L99 8.6"
          className="fill-none stroke-current"
          strokeWidth="2"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <div className="border-x-2 border-b-2 border-pass">
        {floors.map((floor) => (
          <Storey key={floor} floor={floor} rooms={rooms.filter((room) => room.floor === floor)} />
        ))}
      </div>
    </>
  );
}

/** The rooms of a floor side by side, wall to wall. */
function Storey({ floor, rooms }: { floor: string; rooms: RoomLost[] }) {
  return (
    <div className="border-t border-pass">
      {floor && <h2 className="px-1.5 text-[11.5px] text-soft">{floor}</h2>}
      <ul className="flex flex-wrap">
        {rooms.map((room) => (
          <RoomTile key={room.room} room={room} />
        ))}
      </ul>
    </div>
  );
}

function RoomTile({ room }: { room: RoomLost }) {
  const look = LOOK[room.lights_out] ?? LOOK.lit;
  const Icon = room.lights_out === "dark" ? LightbulbOff : Lightbulb;
  return (
    <li
      data-room={room.room}
      data-dark={room.lights_out}
      className={cx("min-h-12 min-w-24 flex-1 border-l border-line px-1.5 py-1 first:border-l-0", look?.look)}
    >
      <span className="flex items-start justify-between gap-1 text-[12.5px] font-semibold leading-tight">
        {room.name}
        <Icon size={13} aria-hidden className="mt-0.5 shrink-0" />
      </span>
      <span className="text-[11.5px]">{look && t(look.word)}</span>
    </li>
  );
}
