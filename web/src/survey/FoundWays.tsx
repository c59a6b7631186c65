import { Trash2 } from "lucide-react";
import { type KeyboardEvent, useRef, useState } from "react";
import { answered, client, type FoundBoard, type FoundWay } from "../api/client";
import { useJob } from "../job/JobProvider";
import { Button } from "../ui/Button";
import { cx } from "../ui/cx";
import { TextBox } from "../ui/Field";
import { BoardFacts } from "./BoardFacts";
import { Photos } from "./Photos";

type Props = {
  board: FoundBoard;
  words: { way: number; words: string }[];
  onChange: (board: FoundBoard) => void;
};

/** The old board way by way: a line typed is a way; each label is proven by switching off and testing. */
export function FoundWays({ board, words, onChange }: Props) {
  const said = new Map(words.map((one) => [one.way, one.words]));
  const ways = [...board.ways].sort((a, b) => a.number - b.number);
  const [photosOf, setPhotosOf] = useState<number | null>(null);
  const put = (changed: FoundWay) =>
    onChange({ ...board, ways: board.ways.map((way) => (way.number === changed.number ? changed : way)) });
  const proven = ways.filter((way) => way.proven).length;
  const devices = ways.filter((way) => !["blank", "open", "unknown"].includes(way.kind)).length;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[minmax(0,1fr)_320px]">
      <section aria-label="Ways as they were found" className="min-w-0">
        <WayEntry board={board} onChange={onChange} />
        <div className="overflow-x-auto">
          <table
            className="mt-2 w-full rounded-xl border border-line bg-sheet text-[13px]"
            data-testid="found-ways"
          >
            <thead>
              <tr className="text-left text-[12px] text-soft">
                <th className="px-2 py-1 font-medium">Way</th>
                <th className="font-medium">Device</th>
                <th className="font-medium">Conductor</th>
                <th className="font-medium">Its label says</th>
                <th className="font-medium">
                  Proven <span className="figure font-normal">{`${proven}/${devices}`}</span>
                </th>
                <th className="font-medium">It turned out to be</th>
                <th>
                  <span className="sr-only">Photos and removing</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {ways.map((way) => {
                const empty = ["blank", "open", "unknown"].includes(way.kind);
                return (
                  <tr key={way.number} className="border-t border-line" data-way={way.number}>
                    <td className="figure px-2 py-1">{way.number}</td>
                    <td className={cx(way.kind === "open" && "text-fail")}>
                      {said.get(way.number) ?? way.kind}
                      {way.rcd && <span className="figure text-soft"> {way.rcd.idn_ma} mA</span>}
                    </td>
                    <td className="figure">
                      {empty
                        ? ""
                        : way.conductor_mm2
                          ? `${way.cables > 1 ? `${way.cables} × ` : ""}${way.conductor_mm2} mm²`
                          : "?"}
                    </td>
                    <td>
                      {!empty && (
                        <TextBox
                          aria-label={`Label of way ${way.number}`}
                          value={way.label}
                          maxLength={120}
                          onCommit={(label) => put({ ...way, label })}
                        />
                      )}
                    </td>
                    <td className="text-center">
                      {!empty && (
                        <input
                          type="checkbox"
                          aria-label={`Way ${way.number}: switched off, tested`}
                          checked={way.proven}
                          onChange={(event) => put({ ...way, proven: event.target.checked })}
                        />
                      )}
                    </td>
                    <td>
                      {!empty && (
                        <TextBox
                          aria-label={`What way ${way.number} turned out to be`}
                          value={way.turned_out}
                          placeholder={way.proven ? "as its label says" : ""}
                          maxLength={120}
                          onCommit={(turned_out) =>
                            put({ ...way, turned_out, proven: way.proven || turned_out !== "" })
                          }
                        />
                      )}
                    </td>
                    <td className="whitespace-nowrap text-right">
                      <Button look="quiet" onClick={() => setPhotosOf(way.number)}>
                        Photos
                      </Button>
                      <Button
                        look="quiet"
                        aria-label={`Take way ${way.number} out`}
                        onClick={() =>
                          onChange({ ...board, ways: board.ways.filter((one) => one.number !== way.number) })
                        }
                      >
                        <Trash2 size={14} aria-hidden />
                      </Button>
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
        {!ways.length && <p className="mt-2 text-[13px] text-soft">Nothing written down yet.</p>}
      </section>
      <aside className="flex min-w-0 flex-col gap-3">
        <BoardFacts board={board} onChange={onChange} />
        <Photos board={board.id} way={photosOf} onWhole={() => setPhotosOf(null)} />
      </aside>
    </div>
  );
}

function WayEntry({ board, onChange }: { board: FoundBoard; onChange: (board: FoundBoard) => void }) {
  const { document } = useJob();
  const [text, setText] = useState("");
  const [error, setError] = useState("");
  const box = useRef<HTMLInputElement>(null);
  const enter = async () => {
    if (!text.trim()) return;
    try {
      const way = await answered(
        client.POST("/api/survey/way", { body: { rules: document.job.rules, board, text } }),
      );
      const rest = board.ways.filter((one) => one.number !== way.number);
      onChange({ ...board, ways: [...rest, way] });
      setText("");
      setError("");
    } catch (reason) {
      setError(reason instanceof Error ? reason.message : String(reason));
    }
    box.current?.focus();
  };
  return (
    <div>
      <label className="sr-only" htmlFor="way-entry">
        A way in one line
      </label>
      <input
        id="way-entry"
        ref={box}
        data-testid="way-entry"
        className="figure w-full rounded-lg border border-line bg-sheet px-3 py-2 text-[14px] focus:border-accent"
        placeholder="3 fuse 30 6mm cooker · B32 2x2.5mm sockets · rcbo B16 30mA 2.5mm immersion proven · blank · open"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event: KeyboardEvent) => {
          if (event.key === "Enter") void enter();
          if (event.key === "Escape") setText("");
        }}
      />
      {error && (
        <p role="alert" className="mt-1 text-[12.5px] text-fail">
          {error}
        </p>
      )}
    </div>
  );
}
