import type { EquipmentPosition } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { t } from "../../messages/text";
import { Check, fromYesNo, YES_NO, yesNo } from "../../ui/Check";
import { Choice, Field, FigureField, TextBox } from "../../ui/Field";

/** What the distances are taken from, by the kind of room. */
const FROM: Record<string, string> = {
  get bath() {
    return t("web.circuit.zone.across_bath");
  },
  get shower() {
    return t("web.circuit.zone.across_shower");
  },
  get pool() {
    return t("web.circuit.zone.across_pool");
  },
  get sauna() {
    return t("web.circuit.zone.across_sauna");
  },
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
      <legend className="px-1 text-[12px] font-medium text-soft">
        {t("web.circuit.position.in", { room: room.name })}
      </legend>
      <div className="grid items-start gap-2 sm:grid-cols-4">
        {zones && (
          <>
            <FigureField
              label={FROM[room.kind] ?? t("web.circuit.zone.across")}
              unit="m"
              signed
              hint={t("web.circuit.zone.across_hint")}
              value={position.distance_m}
              onCommit={(distance_m) => put({ distance_m })}
            />
            <FigureField
              label={t("web.circuit.zone.height")}
              unit="m"
              signed
              value={position.height_m}
              onCommit={(height_m) => put({ height_m })}
            />
          </>
        )}
        <Field label={t("web.circuit.zone.ip")}>
          {(id) => (
            <TextBox
              id={id}
              className="figure uppercase"
              placeholder={t("web.circuit.zone.ip_placeholder")}
              maxLength={4}
              value={position.ip ?? ""}
              onCommit={(text) => put({ ip: text.trim().toUpperCase() || null })}
            />
          )}
        </Field>
        {room.kind === "sauna" ? (
          <>
            <FigureField
              label={t("web.circuit.zone.rated_ambient")}
              unit="°C"
              value={position.rated_ambient_c}
              onCommit={(rated_ambient_c) => put({ rated_ambient_c })}
            />
            <FigureField
              label={t("web.circuit.zone.cable_rated")}
              unit="°C"
              value={position.cable_rated_c}
              onCommit={(cable_rated_c) => put({ cable_rated_c })}
            />
          </>
        ) : (
          zones && (
            <>
              <FigureField
                label={t("web.circuit.zone.selv")}
                unit="V"
                empty={t("web.circuit.zone.selv_none")}
                value={position.selv_v}
                onCommit={(selv_v) => put({ selv_v })}
              />
              <Choice
                label={t("web.circuit.zone.zone_1")}
                value={yesNo(position.zone_permitted)}
                options={YES_NO}
                onCommit={(value) => put({ zone_permitted: fromYesNo(value) })}
              />
            </>
          )
        )}
        <Check checked={position.fixed} onChange={(fixed) => put({ fixed })}>
          {t("web.circuit.zone.fixed")}
        </Check>
      </div>
    </fieldset>
  );
}
