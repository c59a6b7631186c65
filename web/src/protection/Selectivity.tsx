import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import type { Matrix, PairResult } from "../api/client";
import { matrixQuery } from "../api/queries";
import { Answer, FirstCircuit } from "../circuits";
import { BandPlot } from "../curves";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Lacking } from "../needs/Lacking";
import { NeedLine } from "../needs/NeedLine";
import { cx } from "../ui/cx";
import { pairKey, STATUSES, sides, worstPair } from "./selectivityModel";

/** Every pair in series, from the cut-out to the fuse in the plug: how each keeps its order, drawn and told. */
export function Selectivity() {
  const { document, version, settled } = useJob();
  const answer = useQuery({
    ...matrixQuery(document, version, settled),
    placeholderData: (before: Matrix | undefined) => before,
  });
  const [chosen, setChosen] = useState<string>();
  const matrix = answer.data;
  const pairs = useMemo(
    () => new Map(matrix?.pairs.map((pair) => [pairKey(pair.up, pair.down), pair])),
    [matrix],
  );
  if (answer.error) return <Lacking error={answer.error} />;
  if (!matrix) return <p className="text-soft">{t("web.selectivity.loading")}</p>;
  if (!document.circuits?.length) return <FirstCircuit />;
  if (!matrix.pairs.length) return <p className="max-w-prose text-soft">{t("web.selectivity.empty")}</p>;
  const pair = pairs.get(chosen ?? "") ?? worstPair(matrix) ?? matrix.pairs[0];
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[minmax(26rem,max-content)_minmax(24rem,1fr)]">
      <Table matrix={matrix} pairs={pairs} chosen={pair} onChoose={setChosen} />
      {pair && <PairSheet pair={pair} matrix={matrix} />}
    </div>
  );
}

function Table({
  matrix,
  pairs,
  chosen,
  onChoose,
}: {
  matrix: Matrix;
  pairs: ReadonlyMap<string, PairResult>;
  chosen: PairResult | undefined;
  onChoose: (key: string) => void;
}) {
  const { ups, downs } = sides(matrix);
  const columns = ups.filter((up) =>
    downs.some((down) => pairs.has(pairKey(up.id, down.id)) && !down.outlet),
  );
  const rows = downs.filter((down) => columns.some((up) => pairs.has(pairKey(up.id, down.id))));
  return (
    <section
      aria-label={t("web.selectivity.table")}
      className="overflow-auto rounded-xl border border-line bg-sheet px-3 py-2"
    >
      <p id="matrix-asks" className="pb-1 text-[12.5px] text-soft">
        {t("web.selectivity.question")}
      </p>
      {!columns.length && <NeedLine path="supply.cutout" text={t("web.selectivity.no_cutout")} />}
      <table className="text-[12.5px]" data-testid="matrix" aria-describedby="matrix-asks">
        <thead>
          <tr>
            <th scope="col" className="pr-4 text-left font-medium text-soft">
              {t("web.selectivity.corner")}
            </th>
            {columns.map((up) => (
              <th key={up.id} scope="col" className="px-2 pb-1 text-left align-bottom font-semibold">
                {say(up.name)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((down) => (
            <tr key={down.id} className="border-t border-line">
              <th scope="row" className="whitespace-nowrap pr-4 text-left font-medium">
                {say(down.name)}
              </th>
              {columns.map((up) => {
                const pair = pairs.get(pairKey(up.id, down.id));
                if (!pair) return <td key={up.id} />;
                const status = STATUSES[pair.status];
                const here = pair === chosen;
                return (
                  <td key={up.id} className="p-0.5">
                    <button
                      type="button"
                      aria-pressed={here}
                      aria-label={t("web.selectivity.pair", {
                        down: say(down.name),
                        up: say(up.name),
                        status: status.word,
                        value: pair.shown,
                      })}
                      data-pair={pairKey(up.id, down.id)}
                      data-status={pair.status}
                      className={cx(
                        "flex w-full items-baseline gap-1.5 rounded px-1.5 py-0.5 hover:bg-wash",
                        here && "bg-wash outline-2 outline-accent",
                      )}
                      onClick={() => onChoose(pairKey(up.id, down.id))}
                    >
                      <span aria-hidden className={cx("text-[14px]", status.look)}>
                        {status.mark}
                      </span>
                      <span className="figure text-soft">{pair.shown}</span>
                    </button>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <ul className="mt-2 flex w-0 min-w-full flex-wrap gap-x-4 text-[12px] text-soft">
        {Object.entries(STATUSES).map(([name, one]) => (
          <li key={name}>
            <span className={one.look}>{one.mark}</span> {one.word}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A pair in full: both bands with the current that may flow, the finding with its sum, and what would mend it. */
function PairSheet({ pair, matrix }: { pair: PairResult; matrix: Matrix }) {
  const { assessment, focus } = useJob();
  const outlet = matrix.devices.find((device) => device.id === pair.down)?.outlet;
  const circuit = outlet ? pair.up : pair.down;
  const check = pair.status === "partial" ? "selectivity-short-circuit" : "selectivity-overload";
  useEffect(() => {
    focus({ check, circuit });
    return () => focus(undefined);
  }, [focus, check, circuit]);
  const finding = assessment?.findings.find(
    (finding) => finding.check === check && finding.subject.id === circuit,
  );
  const bands = [pair.up, pair.down].flatMap((id) => matrix.bands.filter((band) => band.device === id));
  return (
    <section
      aria-label={t("web.selectivity.pair_details")}
      className="flex flex-col gap-3 rounded-xl border border-line bg-sheet px-4 py-3"
      data-testid="pair"
    >
      <BandPlot
        bands={bands}
        height={280}
        flow={
          pair.fault_a
            ? {
                least: pair.fault_a,
                most: pair.fault_a,
                label: t("web.selectivity.flow", { amps: Math.round(pair.fault_a) }),
              }
            : undefined
        }
      />
      <p className="text-[13px]">{say(pair.sentence)}</p>
      {finding && (
        <div className="border-t border-line pt-2">
          <Answer finding={finding} />
        </div>
      )}
    </section>
  );
}
