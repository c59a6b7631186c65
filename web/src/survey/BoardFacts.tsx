import type { ExistingBoard } from "../api/client";
import { t } from "../messages/text";
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
      aria-label={t("web.survey.board.section")}
      className="grid grid-cols-2 gap-2 rounded-xl border border-line bg-sheet p-3"
    >
      <div className="col-span-2">
        <Field label={t("web.survey.board.name")}>
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
        label={t("web.survey.board.main")}
        value={board.main_device}
        options={[
          { value: "unknown", label: t("web.survey.board.unknown") },
          { value: "switch", label: t("web.survey.board.main_switch") },
          { value: "rcd", label: t("web.survey.board.main_rcd") },
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
        label={t("web.survey.board.rating")}
        unit="A"
        value={board.main_rating_a}
        onCommit={(main_rating_a) => set({ main_rating_a })}
      />
      {board.main_rcd && (
        <FigureField
          label={t("web.survey.board.idn")}
          unit="mA"
          required
          value={board.main_rcd.idn_ma}
          onCommit={(idn_ma) => idn_ma && board.main_rcd && set({ main_rcd: { ...board.main_rcd, idn_ma } })}
        />
      )}
      <Choice
        label={t("web.survey.board.material")}
        value={board.material}
        options={[
          { value: "unknown", label: t("web.survey.board.unknown") },
          { value: "metal", label: "metal" },
          { value: "moulded", label: t("web.survey.board.plastic") },
          { value: "wood", label: "wood" },
        ]}
        onCommit={(material) => set({ material: material as ExistingBoard["material"] })}
      />
    </section>
  );
}
