import type { EquipmentPosition } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { Check, fromYesNo, YES_NO, yesNo } from "../../ui/Check";
import { Choice, Field, FigureField, TextBox } from "../../ui/Field";

/** What the distances are taken from, by the kind of room. */
const FROM: Record<string, string> = {
  bath: "Across from the edge of bath or tray",
  shower: "Across from the water outlet",
  pool: "Across from the rim",
  sauna: "Across from the heater",
};

/** How an item stands in a room with rules of its own; nothing is asked of one in an ordinary room. */
export function PositionPart({
  item,
  set,
}: {
  item: { room?: string | null; position?: EquipmentPosition | null };
  set: (part: { position: EquipmentPosition }) => void;
}) {
  const { document, rules } = useJob();
  const room = (document.rooms ?? []).find((known) => known.id === item.room);
  if (!room || !rules.special_rooms.includes(room.kind)) return null;
  const position: EquipmentPosition = item.position ?? { fixed: true };
  const put = (part: Partial<EquipmentPosition>) => set({ position: { ...position, ...part } });
  const zones = rules.zoned_rooms.includes(room.kind);
  return (
    <fieldset className="mt-1 rounded-lg border border-line px-2 pb-2">
      <legend className="px-1 text-[12px] font-medium text-soft">In {room.name}</legend>
      <div className="grid items-start gap-2 sm:grid-cols-4">
        {zones && (
          <>
            <FigureField
              label={FROM[room.kind] ?? "Across"}
              unit="m"
              signed
              hint="0 or less: over or in it"
              value={position.distance_m}
              onCommit={(distance_m) => put({ distance_m })}
            />
            <FigureField
              label="Above the floor"
              unit="m"
              signed
              value={position.height_m}
              onCommit={(height_m) => put({ height_m })}
            />
          </>
        )}
        <Field label="Degree of protection">
          {(id) => (
            <TextBox
              id={id}
              className="figure uppercase"
              placeholder="IPX4"
              maxLength={4}
              value={position.ip ?? ""}
              onCommit={(text) => put({ ip: text.trim().toUpperCase() || null })}
            />
          )}
        </Field>
        {room.kind === "sauna" ? (
          <>
            <FigureField
              label="Made for"
              unit="°C"
              value={position.rated_ambient_c}
              onCommit={(rated_ambient_c) => put({ rated_ambient_c })}
            />
            <FigureField
              label="Its cable stands"
              unit="°C"
              value={position.cable_rated_c}
              onCommit={(cable_rated_c) => put({ cable_rated_c })}
            />
          </>
        ) : (
          zones && (
            <>
              <FigureField
                label="Extra-low voltage"
                unit="V"
                empty="mains"
                value={position.selv_v}
                onCommit={(selv_v) => put({ selv_v })}
              />
              <Choice
                label="Its maker allows zone 1"
                value={yesNo(position.zone_permitted)}
                options={YES_NO}
                onCommit={(value) => put({ zone_permitted: fromYesNo(value) })}
              />
            </>
          )
        )}
        <Check checked={position.fixed} onChange={(fixed) => put({ fixed })}>
          permanently connected
        </Check>
      </div>
    </fieldset>
  );
}
