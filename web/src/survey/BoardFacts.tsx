import type { ExistingBoard } from "../api/client";
import { Choice, Field, FigureField, TextBox } from "../ui/Field";

/** What the old board is as a whole: its main switch, what it is made of, its name. */
export function BoardFacts({
  board,
  onChange,
}: {
  board: ExistingBoard;
  onChange: (board: ExistingBoard) => void;
}) {
  const set = (changed: Partial<ExistingBoard>) => onChange({ ...board, ...changed });
  return (
    <section
      aria-label="The old board"
      className="grid grid-cols-2 gap-2 rounded-xl border border-line bg-sheet p-3"
    >
      <div className="col-span-2">
        <Field label="Name">
          {(id) => (
            <TextBox
              id={id}
              value={board.name}
              maxLength={120}
              onCommit={(name) => name.trim() && set({ name })}
            />
          )}
        </Field>
      </div>
      <Choice
        label="Switched off by"
        value={board.main_device}
        options={[
          { value: "unknown", label: "not looked at" },
          { value: "switch", label: "a main switch" },
          { value: "rcd", label: "an RCD" },
          { value: "none", label: "nothing" },
        ]}
        onCommit={(main) =>
          set({
            main_device: main as ExistingBoard["main_device"],
            main_rcd:
              main === "rcd" ? (board.main_rcd ?? { idn_ma: 100, type: "AC", time_delayed: false }) : null,
          })
        }
      />
      <FigureField
        label="Its rating"
        unit="A"
        value={board.main_rating_a}
        onCommit={(main_rating_a) => set({ main_rating_a })}
      />
      {board.main_rcd && (
        <FigureField
          label="Its residual current"
          unit="mA"
          required
          value={board.main_rcd.idn_ma}
          onCommit={(idn_ma) => idn_ma && board.main_rcd && set({ main_rcd: { ...board.main_rcd, idn_ma } })}
        />
      )}
      <Choice
        label="Made of"
        value={board.material}
        options={[
          { value: "unknown", label: "not looked at" },
          { value: "metal", label: "metal" },
          { value: "moulded", label: "moulded material" },
          { value: "wood", label: "wood" },
        ]}
        onCommit={(material) => set({ material: material as ExistingBoard["material"] })}
      />
    </section>
  );
}
