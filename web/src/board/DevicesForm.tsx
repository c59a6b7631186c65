import { useQuery } from "@tanstack/react-query";
import type { Board, BoardBuild, DeviceFamily } from "../api/client";
import { familiesQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { withBoard } from "../job/jobModel";
import { t } from "../messages/text";
import { Check } from "../ui/Check";
import { Choice, FigureField } from "../ui/Field";

type Busbar = NonNullable<BoardBuild["busbar_stock"]>;

/** What the main switch breaks, the families of main switch and shared RCDs, and the comb that is at hand. */
export function DevicesForm({
  board,
  onChange,
}: {
  board: Board;
  onChange: (changed: Partial<BoardBuild>) => void;
}) {
  const { document, edit } = useJob();
  const { data = [] } = useQuery(familiesQuery);
  const families = [...data, ...(document.families ?? [])];
  const main = board.main_switch;
  const put = (changed: Partial<Board>) => edit(withBoard(document, { ...board, ...changed }));
  const busbar = board.build.busbar_stock;
  const set = (changed: Partial<Busbar>) =>
    onChange({ busbar_stock: { rating_a: 63, pins: 12, lines: 1, end_caps: true, ...busbar, ...changed } });
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1">
      {main && (
        <>
          <Choice
            label={t("web.board.build.devices.main_poles")}
            value={main.switched_poles ?? ""}
            options={[
              { value: "", label: "what the standard asks" },
              { value: "all", label: t("web.board.build.devices.main_all") },
              { value: "lines", label: t("web.board.build.devices.main_lines") },
            ]}
            onCommit={(breaks) =>
              put({
                main_switch: { ...main, switched_poles: (breaks || null) as typeof main.switched_poles },
              })
            }
          />
          <FamilyChoice
            label={t("web.board.build.devices.main_family")}
            kinds={main.rcd ? ["rcd"] : ["switch", "breaker"]}
            families={families}
            value={main.family}
            onCommit={(family) => put({ main_switch: { ...main, family } })}
          />
        </>
      )}
      {(board.shared_rcds ?? []).map((group) => (
        <FamilyChoice
          key={group.id}
          label={`DeviceFamily of ${group.name}`}
          kinds={["rcd"]}
          families={families}
          value={group.family}
          onCommit={(family) =>
            put({
              shared_rcds: (board.shared_rcds ?? []).map((rcd) =>
                rcd.id === group.id ? { ...rcd, family } : rcd,
              ),
            })
          }
        />
      ))}
      <FigureField
        label={t("web.board.build.devices.busbar")}
        unit="A"
        value={busbar?.rating_a}
        empty={t("web.board.build.devices.busbar_auto")}
        onCommit={(rating_a) => (rating_a ? set({ rating_a }) : onChange({ busbar_stock: null }))}
      />
      {busbar && (
        <>
          <FigureField
            label={t("web.board.build.devices.pins")}
            unit=""
            required
            value={busbar.pins}
            onCommit={(pins) => pins && set({ pins: Math.round(pins) })}
          />
          <Choice
            label={t("web.board.build.devices.pin_order")}
            value={String(busbar.lines)}
            options={[
              { value: "1", label: t("web.board.build.devices.pins_one") },
              { value: "2", label: t("web.board.build.devices.pins_two") },
              { value: "3", label: t("web.board.build.devices.pins_three") },
            ]}
            onCommit={(lines) => set({ lines: Number(lines) as Busbar["lines"] })}
          />
          <FigureField
            label={t("web.board.build.devices.pin_height")}
            unit="mm"
            value={busbar.terminal_height_mm}
            onCommit={(terminal_height_mm) => set({ terminal_height_mm })}
          />
          <Check checked={busbar.end_caps} onChange={(end_caps) => set({ end_caps })}>
            {t("web.board.build.devices.end_caps")}
          </Check>
        </>
      )}
    </div>
  );
}

function FamilyChoice({
  label,
  kinds,
  families,
  value,
  onCommit,
}: {
  label: string;
  kinds: DeviceFamily["kind"][];
  families: DeviceFamily[];
  value: string | null | undefined;
  onCommit: (family: string | null) => void;
}) {
  return (
    <Choice
      label={label}
      value={value ?? ""}
      options={[
        { value: "", label: t("web.board.build.room_unknown") },
        ...families
          .filter((family) => kinds.includes(family.kind))
          .map((family) => ({ value: family.id, label: family.title })),
      ]}
      onCommit={(family) => onCommit(family || null)}
    />
  );
}
