import { useQuery } from "@tanstack/react-query";
import type { Board, BoardBuild, DeviceFamily } from "../api/client";
import { familiesQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { withBoard } from "../job/jobModel";
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
            label="Main switch breaks"
            value={main.switched_poles ?? ""}
            options={[
              { value: "", label: "what the standard asks" },
              { value: "all", label: "lines and neutral" },
              { value: "lines", label: "the lines alone" },
            ]}
            onCommit={(breaks) =>
              put({
                main_switch: { ...main, switched_poles: (breaks || null) as typeof main.switched_poles },
              })
            }
          />
          <FamilyChoice
            label="Its family"
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
        label="Comb at hand, made for"
        unit="A"
        value={busbar?.rating_a}
        empty="one is chosen"
        onCommit={(rating_a) => (rating_a ? set({ rating_a }) : onChange({ busbar_stock: null }))}
      />
      {busbar && (
        <>
          <FigureField
            label="Its teeth"
            unit=""
            required
            value={busbar.pins}
            onCommit={(pins) => pins && set({ pins: Math.round(pins) })}
          />
          <Choice
            label="Teeth in turn on"
            value={String(busbar.lines)}
            options={[
              { value: "1", label: "one line" },
              { value: "2", label: "two lines" },
              { value: "3", label: "three lines" },
            ]}
            onCommit={(lines) => set({ lines: Number(lines) as Busbar["lines"] })}
          />
          <FigureField
            label="They meet a clamp at"
            unit="mm"
            value={busbar.terminal_height_mm}
            onCommit={(terminal_height_mm) => set({ terminal_height_mm })}
          />
          <Check checked={busbar.end_caps} onChange={(end_caps) => set({ end_caps })}>
            Ends insulated
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
        { value: "", label: "not stated" },
        ...families
          .filter((family) => kinds.includes(family.kind))
          .map((family) => ({ value: family.id, label: family.title })),
      ]}
      onCommit={(family) => onCommit(family || null)}
    />
  );
}
