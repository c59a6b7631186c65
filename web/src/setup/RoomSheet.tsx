import type { Room } from "../api/client";
import { t } from "../messages/text";
import { Check } from "../ui/Check";
import { Field, FigureField, TextBox } from "../ui/Field";

const WET = new Set<Room["kind"]>(["bath", "shower", "pool"]);

/** What else counts of a room: its floor, its water, and whether it burns easily. */
export function RoomSheet({ room, set }: { room: Room; set: (part: Partial<Room>) => void }) {
  return (
    <fieldset className="mb-3 rounded-lg border border-line px-3 pb-3">
      <legend className="px-1 text-[12px] font-medium text-soft">{room.name}</legend>
      <div className="grid items-start gap-3 sm:grid-cols-3">
        <Field label={t("web.setup.rooms.details.floor")}>
          {(id) => (
            <TextBox
              id={id}
              maxLength={60}
              placeholder={t("web.setup.rooms.details.floor_placeholder")}
              value={room.floor ?? ""}
              onCommit={(floor) => set({ floor: floor.trim() })}
            />
          )}
        </Field>
        {(room.kind === "bath" || room.kind === "shower") && (
          <FigureField
            label={t("web.setup.rooms.details.outlet")}
            unit="m"
            empty={t("web.setup.rooms.details.outlet_empty")}
            value={room.water_outlet_height_m}
            onCommit={(water_outlet_height_m) => set({ water_outlet_height_m })}
          />
        )}
        {room.kind === "bath" && (
          <FigureField
            label={t("web.setup.rooms.details.rim")}
            unit="m"
            value={room.rim_height_m}
            onCommit={(rim_height_m) => set({ rim_height_m })}
          />
        )}
        {WET.has(room.kind) && (
          <Check checked={room.water_jets ?? false} onChange={(jets) => set({ water_jets: jets })}>
            {t("web.setup.rooms.details.jets")}
          </Check>
        )}
        <Check checked={room.fire_risk ?? false} onChange={(fire_risk) => set({ fire_risk })}>
          {t("web.setup.rooms.details.fire_risk")}
        </Check>
      </div>
    </fieldset>
  );
}
