import type { FaultResult } from "../api/client";
import { cx } from "../ui/cx";

type RoomLost = FaultResult["rooms"][number];
const LOOK: Record<string, { word: string; look: string }> = {
  lit: { word: "", look: "border-line bg-sheet" },
  perhaps: {
    word: "perhaps dark",
    look: "border-tight bg-[repeating-linear-gradient(45deg,transparent_0_6px,var(--line)_6px_9px)]",
  },
  dark: { word: "dark", look: "border-ink bg-ink text-sheet" },
};

/** The house floor by floor: rooms whose lights go out, and what each loses besides. */
export function AffectedRooms({ rooms }: { rooms: readonly RoomLost[] }) {
  if (!rooms.length)
    return (
      <p className="text-[13px] text-soft">
        Enter the rooms in the intake, and loads in them: then the house is drawn here.
      </p>
    );
  const floors = [...new Set(rooms.map((room) => room.floor))].reverse();
  return (
    <section
      aria-label="The house"
      className="rounded-xl border border-line bg-sheet px-3 py-2"
      data-testid="house"
    >
      {floors.map((floor) => (
        <div key={floor} className="mb-2">
          <h2 className="text-[12px] font-medium text-soft">{floor || "Rooms"}</h2>
          <ul className="grid grid-cols-2 gap-1.5 sm:grid-cols-3">
            {rooms
              .filter((room) => room.floor === floor)
              .map((room) => {
                const look = LOOK[room.lights_out] ?? LOOK.lit;
                return (
                  <li
                    key={room.room}
                    data-room={room.room}
                    data-dark={room.lights_out}
                    className={cx("min-h-14 rounded-md border-2 px-2 py-1", look?.look)}
                  >
                    <span className="flex items-baseline justify-between gap-2 text-[13px] font-semibold">
                      {room.name}
                      {look?.word && <span className="text-[11.5px] font-normal">{look.word}</span>}
                    </span>
                    {room.certainly.length > 0 && (
                      <span className="block text-[12px]">loses {room.certainly.join(", ")}</span>
                    )}
                    {room.perhaps.length > 0 && (
                      <span className="block text-[12px] opacity-80">perhaps {room.perhaps.join(", ")}</span>
                    )}
                  </li>
                );
              })}
          </ul>
        </div>
      ))}
    </section>
  );
}
