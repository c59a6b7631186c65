import { useState } from "react";
import { answered, type BoardView, client, type Device, type Verdict } from "../api/client";
import type { components } from "../api/schema";
import { FIGURE, VERDICT_MARKS } from "../circuits";
import { blankRcd } from "../job/blank";
import { useJob } from "../job/JobContext";
import { circuitById } from "../job/jobModel";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { Choice, FigureField } from "../ui/Field";

type Swap = components["schemas"]["Swap"];

/** One device changed for another in its place: width, neutral, comb, clamps, and what stays live meanwhile. */
export function SwapDevice({ view, chosen }: { view: BoardView; chosen: string | undefined }) {
  const { document, rules, edit } = useJob();
  const unit = view.units.find((unit) => unit.id === chosen && unit.kind === "way");
  const circuit = unit && circuitById(document, unit.circuit);
  const device = circuit && typeof circuit.device !== "string" ? circuit.device : undefined;
  const [kind, setKind] = useState("");
  const [rating, setRating] = useState<number>();
  const [arc, setArc] = useState<boolean>();
  const [answer, setAnswer] = useState<{ unit: string; swap: Swap }>();
  const [error, setError] = useState("");
  if (!unit || !device)
    return (
      <p className="rounded-xl border border-dashed border-line p-4 text-[13px] text-soft">
        {t("web.board.swap.empty")}
      </p>
    );
  const kinds = rules.devices.filter((device) => device.current);
  const next =
    kinds.find((offered) => offered.id === kind) ?? kinds.find((offered) => offered.has_rcd) ?? kinds[0];
  const ask = async () => {
    if (!next) return;
    const changed: Device = {
      ...device,
      kind: next.id,
      curve: next.curves.length ? (device.curve ?? (next.curves[0] as Device["curve"])) : null,
      rating_a: rating ?? device.rating_a,
      rcd: next.has_rcd ? (device.rcd ?? blankRcd(30)) : null,
      arc_fault: arc ?? device.arc_fault,
      family: null,
    };
    try {
      const body = { document, circuit: unit.circuit, device: changed };
      setAnswer({ unit: unit.id, swap: await answered(client.POST("/api/boards/swap-device", { body })) });
      setError("");
    } catch (reason) {
      setError((reason as Error).message);
    }
  };
  const swap = answer?.unit === unit.id ? answer.swap : undefined;
  return (
    <section
      aria-label={t("web.board.tab.swap")}
      className="rounded-xl border border-line bg-sheet p-3 text-[13px]"
      data-testid="swap"
    >
      <h2 className="mb-2 font-semibold">
        {t("web.board.selected.way", { n: unit.way ?? "" })} {say(unit.name)}{" "}
        <span className="figure font-normal text-soft">{unit.mark}</span>
      </h2>
      <div className="grid grid-cols-2 gap-2">
        <Choice
          label={t("web.board.swap.replacement")}
          value={next?.id ?? ""}
          options={kinds.map((kind) => ({ value: kind.id, label: kind.title }))}
          onCommit={setKind}
        />
        <FigureField
          label={t("web.board.build.gear.rating")}
          unit="A"
          required
          value={rating ?? device.rating_a}
          onCommit={(value) => value && setRating(value)}
        />
        <Check checked={arc ?? device.arc_fault ?? false} onChange={setArc}>
          {t("web.board.swap.arc_fault")}
        </Check>
      </div>
      <div className="mt-2 flex gap-2">
        <Button variant="strong" onClick={() => void ask()}>
          {t("web.board.swap.check")}
        </Button>
        {swap && <Button onClick={() => edit(swap.job)}>{t("web.board.add_circuit.apply")}</Button>}
      </div>
      {error && (
        <p role="alert" className="mt-1 text-fail">
          {error}
        </p>
      )}
      {swap && (
        <>
          <ul className="mt-2">
            {swap.facts.map((fact) => (
              <li
                key={say(fact.topic)}
                className="grid grid-cols-[16px_92px_1fr] gap-1 border-t border-line py-1 text-[12.5px]"
              >
                <span className={FIGURE[fact.verdict as Verdict]}>
                  {VERDICT_MARKS[fact.verdict as Verdict] ?? "✓"}
                </span>
                <span className="font-medium">{say(fact.topic)}</span>
                <span>{say(fact.text)}</span>
              </li>
            ))}
          </ul>
          {swap.changes.length > 0 && (
            <>
              <h3 className="mt-2 font-medium">{t("web.board.swap.changes")}</h3>
              <ul className="list-disc pl-5 text-[12.5px]">
                {swap.changes.map((change) => (
                  <li key={say(change)}>{say(change)}</li>
                ))}
              </ul>
            </>
          )}
          <h3 className="mt-2 font-medium">{t("web.board.swap.steps")}</h3>
          <ol className="list-decimal pl-5 text-[12.5px]">
            {swap.steps.map((step, at) => (
              <li key={at}>{say(step)}</li>
            ))}
          </ol>
          <p className="mt-1 text-[12.5px] text-fail">
            {t("web.board.swap.stays_live", {
              list: swap.stays_live.map(say).join("; ") || t("web.board.swap.live_none"),
            })}
          </p>
        </>
      )}
    </section>
  );
}
