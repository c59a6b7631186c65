import type { FaultResult } from "../api/client";
import { t } from "../messages/text";
import { cx } from "../ui/cx";

type RoomLost = FaultResult["rooms"][number];
const LOOK: Record<string, { word: string; look: string }> = {
  lit: { word: "", look: "border-line bg-sheet" },
  perhaps: {
    get word() {
      return t("web.faults.rooms.maybe");
    },
    look: "border-tight bg-[repeating-linear-gradient(45deg,transparent_0_6px,var(--line)_6px_9px)]",
  },
  dark: {
    get word() {
      return t("web.faults.rooms.lost");
    },
    look: "border-ink bg-ink text-sheet",
  },
};

/** The house floor by floor: rooms whose lights go out, and what each loses besides. */
export function AffectedRooms({ rooms }: { rooms: readonly RoomLost[] }) {
  if (!rooms.length) return <p className="text-[13px] text-soft">{t("web.faults.rooms.empty")}</p>;
  const floors = [...new Set(rooms.map((room) => room.floor))].reverse();
  return (
    <section
      aria-label={t("web.faults.rooms.section")}
      className="rounded-xl border border-line bg-sheet px-3 py-2"
      data-testid="house"
    >
      {floors.map((floor) => (
        <div key={floor} className="mb-2">
          <h2 className="text-[12px] font-medium text-soft">{floor || t("web.faults.rooms.rooms")}</h2>
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
                      <span className="block text-[12px]">
                        {t("web.faults.rooms.loses", { list: room.certainly.join(", ") })}
                      </span>
                    )}
                    {room.perhaps.length > 0 && (
                      <span className="block text-[12px] opacity-80">
                        {t("web.faults.rooms.may_lose", { list: room.perhaps.join(", ") })}
                      </span>
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
