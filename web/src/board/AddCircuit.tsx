import { useState } from "react";
import { type AddCircuitOption, answered, type Board, type Circuit, client, type Job } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { cx } from "../ui/cx";
import { Field, TextBox } from "../ui/Field";

/** One more circuit in this board: every way it can be done, each designed, checked and told with its steps. */
export function AddCircuit({ board }: { board: Board }) {
  const { document, edit } = useJob();
  const [text, setText] = useState(() => t("web.board.add_circuit.example"));
  const [options, setOptions] = useState<AddCircuitOption[]>();
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState("");
  const ask = async () => {
    setBusy(true);
    setError("");
    try {
      const { circuit, rooms } = await typed(text);
      const body = { document: { ...document, rooms }, board: board.id, circuit };
      setOptions(await answered(client.POST("/api/boards/add-circuit", { body })));
    } catch (reason) {
      setError((reason as Error).message);
    }
    setBusy(false);
  };
  // The same line that makes a circuit in the lattice: read into a board of its own, and taken from there with the room it names.
  const typed = async (line: string): Promise<{ circuit: Circuit; rooms: Job["rooms"] }> => {
    const scratch = { ...board, way_count: Math.max(board.way_count, (board.ways?.length ?? 0) + 1) };
    const wide = {
      ...document,
      boards: (document.boards ?? []).map((other) =>
        other.id === board.id ? { ...scratch, way_count: 200 } : other,
      ),
    };
    const entered = await answered(
      client.POST("/api/parse/circuit", { body: { document: wide, text: line, board: board.id } }),
    );
    const circuit = entered.document.circuits?.find((circuit) => circuit.id === entered.circuit);
    if (!circuit) throw new Error(t("web.board.add_circuit.no_circuit"));
    return { circuit, rooms: entered.document.rooms };
  };
  return (
    <section
      aria-label={t("web.board.tab.add_circuit")}
      className="flex flex-col gap-2"
      data-testid="one-more"
    >
      <div className="rounded-xl border border-line bg-sheet p-3">
        <Field label={t("web.board.add_circuit.line")}>
          {(id) => <TextBox id={id} className="figure" value={text} onCommit={setText} />}
        </Field>
        <Button variant="strong" className="mt-2" disabled={busy || !text.trim()} onClick={() => void ask()}>
          {busy ? t("web.board.add_circuit.checking") : t("web.board.add_circuit.show")}
        </Button>
        {error && (
          <p role="alert" className="mt-1 text-[12.5px] text-fail">
            {error}
          </p>
        )}
      </div>
      {options?.map((option) => (
        <SolutionCard key={option.id} option={option} onTake={() => option.job && edit(option.job)} />
      ))}
    </section>
  );
}

function SolutionCard({ option, onTake }: { option: AddCircuitOption; onTake: () => void }) {
  const bad = option.new_problems.length > 0;
  return (
    <article className="rounded-xl border border-line bg-sheet p-3 text-[12.5px]" data-solution={option.id}>
      <header className="flex items-start justify-between gap-2">
        <h2 className="text-[13px] font-semibold">{say(option.title)}</h2>
        {option.job && <Button onClick={onTake}>{t("web.board.add_circuit.apply")}</Button>}
      </header>
      {option.not_possible ? (
        <p className="text-missing">{t("web.common.not_possible", { reason: say(option.not_possible) })}</p>
      ) : (
        <>
          <p className={cx(bad ? "text-fail" : "text-soft")}>
            {bad
              ? t("web.board.add_circuit.problems", { n: option.new_problems.length })
              : t("web.board.add_circuit.no_problems")}
            {option.modules_left !== null && option.modules_left !== undefined && (
              <span className="figure text-soft">
                {" "}
                · {t("web.board.add_circuit.modules_left", { n: option.modules_left })}
              </span>
            )}
          </p>
          {bad && (
            <ul className="list-disc pl-4 text-fail">
              {option.new_problems.map((trouble) => (
                <li key={say(trouble)}>{say(trouble)}</li>
              ))}
            </ul>
          )}
          <ol className="mt-1 list-decimal pl-4">
            {option.steps.map((step) => (
              <li key={say(step)}>{say(step)}</li>
            ))}
          </ol>
          <p className="mt-1">
            <b>{t("web.board.add_circuit.material")}</b>{" "}
            {option.materials.map(say).join("; ") || t("web.board.add_circuit.material_none")}
          </p>
          {option.calls.length > 0 && (
            <p>
              <b>{t("web.board.add_circuit.call")}</b> {option.calls.map(say).join(" ")}
            </p>
          )}
          <p>
            <b>{t("web.board.add_circuit.live")}</b>{" "}
            {option.stays_live.map(say).join("; ") || t("web.board.live.none")}
          </p>
        </>
      )}
    </article>
  );
}
