import { Trash2 } from "lucide-react";
import { useState } from "react";
import { answered, client, type ExistingBoard, type ExistingWay } from "../api/client";
import { useJob } from "../job/JobContext";
import { say, type Text } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { CheckBox } from "../ui/CheckBox";
import { cx } from "../ui/cx";
import { EntryLine } from "../ui/EntryLine";
import { TextBox } from "../ui/Field";
import { useMedia } from "../ui/useMedia";
import { BoardFacts } from "./BoardFacts";
import { Photos } from "./Photos";

type Props = {
  board: ExistingBoard;
  words: { way: number; text: Text }[];
  onChange: (board: ExistingBoard) => void;
};

/** The old board way by way: a line typed is a way; each label is proven by switching off and testing. */
export function ExistingWays({ board, words, onChange }: Props) {
  const texts = new Map(words.map((word) => [word.way, say(word.text)]));
  const ways = [...board.ways].sort((a, b) => a.number - b.number);
  const [photosOf, setPhotosOf] = useState<number | null>(null);
  const narrow = useMedia("(max-width: 640px)");
  const put = (changed: ExistingWay) =>
    onChange({ ...board, ways: board.ways.map((way) => (way.number === changed.number ? changed : way)) });
  const proven = ways.filter((way) => way.tested).length;
  const devices = ways.filter((way) => !isEmpty(way)).length;
  const of = (way: ExistingWay): Row => ({
    words: texts.get(way.number) ?? way.kind,
    onChange: put,
    onPhotos: () => setPhotosOf(way.number),
    onDrop: () => onChange({ ...board, ways: board.ways.filter((other) => other.number !== way.number) }),
  });
  return (
    <div className="grid shrink-0 grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[minmax(0,1fr)_320px]">
      <section aria-label={t("web.survey.ways.section")} className="min-w-0">
        <WayEntry board={board} onChange={onChange} />
        {narrow ? (
          <ul className="mt-2 flex flex-col gap-2" data-testid="found-ways">
            {ways.map((way) => (
              <WayCard key={way.number} way={way} {...of(way)} />
            ))}
          </ul>
        ) : (
          <WayTable ways={ways} proven={`${proven}/${devices}`} of={of} />
        )}
        {!ways.length && <p className="mt-2 text-[13px] text-soft">{t("web.survey.ways.empty")}</p>}
      </section>
      <aside className="flex min-w-0 flex-col gap-3">
        <BoardFacts board={board} onChange={onChange} />
        <Photos board={board.id} way={photosOf} onWhole={() => setPhotosOf(null)} />
      </aside>
    </div>
  );
}

type Row = { words: string; onChange: (way: ExistingWay) => void; onPhotos: () => void; onDrop: () => void };

function isEmpty(way: ExistingWay): boolean {
  return ["blank", "open", "unknown"].includes(way.kind);
}

function conductor(way: ExistingWay): string {
  if (isEmpty(way)) return "";
  return way.conductor_mm2
    ? `${way.cable_count > 1 ? `${way.cable_count} × ` : ""}${way.conductor_mm2} mm²`
    : "?";
}

function WayTable({
  ways,
  proven,
  of,
}: {
  ways: ExistingWay[];
  proven: string;
  of: (way: ExistingWay) => Row;
}) {
  return (
    <table
      className="mt-2 w-full rounded-xl border border-line bg-sheet text-[13px]"
      data-testid="found-ways"
    >
      <thead>
        <tr className="text-left text-[12px] text-soft">
          <th className="px-2 py-1 font-medium">{t("web.survey.ways.head.way")}</th>
          <th className="font-medium">{t("web.survey.ways.head.device")}</th>
          <th className="font-medium">{t("web.survey.ways.head.conductor")}</th>
          <th className="font-medium">{t("web.survey.ways.head.label")}</th>
          <th className="font-medium">
            {t("web.survey.ways.head.tested")} <span className="figure font-normal">{proven}</span>
          </th>
          <th className="font-medium">{t("web.survey.ways.head.feeds")}</th>
          <th>
            <span className="sr-only">{t("web.survey.ways.head.actions")}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {ways.map((way) => {
          const row = of(way);
          return (
            <tr key={way.number} className="border-t border-line" data-way={way.number}>
              <td className="figure px-2 py-1">{way.number}</td>
              <td className={cx(way.kind === "open" && "text-fail")}>
                <Device way={way} words={row.words} />
              </td>
              <td className="figure">{conductor(way)}</td>
              <td>{!isEmpty(way) && <Label way={way} onChange={row.onChange} />}</td>
              <td className="text-center">{!isEmpty(way) && <Proven way={way} onChange={row.onChange} />}</td>
              <td>{!isEmpty(way) && <TurnedOut way={way} onChange={row.onChange} />}</td>
              <td className="whitespace-nowrap text-right">
                <RowButtons way={way} row={row} />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** A way on a phone in the cupboard: everything within reach of a thumb. */
function WayCard({ way, ...row }: { way: ExistingWay } & Row) {
  return (
    <li className="rounded-xl border border-line bg-sheet p-3 text-[13px]" data-way={way.number}>
      <div className="flex items-center justify-between gap-2">
        <span className={cx("font-semibold", way.kind === "open" && "text-fail")}>
          <span className="figure mr-2 text-soft">{way.number}</span>
          <Device way={way} words={row.words} />
        </span>
        <span className="figure">{conductor(way)}</span>
      </div>
      {!isEmpty(way) && (
        <div className="mt-1 flex flex-col gap-1">
          <Label way={way} onChange={row.onChange} />
          <TurnedOut way={way} onChange={row.onChange} />
          <div className="flex items-center gap-2 py-1">
            <Proven way={way} onChange={row.onChange} /> {t("web.survey.ways.tested")}
          </div>
        </div>
      )}
      <RowButtons way={way} row={row} />
    </li>
  );
}

type Part = { way: ExistingWay; onChange: (way: ExistingWay) => void };

function Device({ way, words }: { way: ExistingWay; words: string }) {
  return (
    <>
      {words}
      {way.rcd && <span className="figure text-soft"> {way.rcd.idn_ma} mA</span>}
    </>
  );
}

function Label({ way, onChange }: Part) {
  return (
    <TextBox
      aria-label={t("web.survey.ways.label_of", { n: way.number })}
      placeholder={t("web.survey.ways.label_empty")}
      value={way.label}
      maxLength={120}
      onCommit={(label) => onChange({ ...way, label })}
    />
  );
}

function Proven({ way, onChange }: Part) {
  return (
    <CheckBox
      aria-label={t("web.survey.ways.verified_of", { n: way.number })}
      checked={way.tested}
      onChange={(checked) => onChange({ ...way, tested: checked })}
    />
  );
}

function TurnedOut({ way, onChange }: Part) {
  return (
    <TextBox
      aria-label={t("web.survey.ways.feeds_of", { n: way.number })}
      value={way.actually_feeds}
      placeholder={way.tested ? t("web.survey.ways.feeds_as_label") : t("web.survey.ways.feeds_untested")}
      maxLength={120}
      onCommit={(actually_feeds) =>
        onChange({ ...way, actually_feeds, tested: way.tested || actually_feeds !== "" })
      }
    />
  );
}

function RowButtons({ way, row }: { way: ExistingWay; row: Row }) {
  return (
    <>
      <Button variant="quiet" onClick={row.onPhotos}>
        {t("web.survey.ways.photos")}
      </Button>
      <Button
        variant="quiet"
        aria-label={t("web.survey.ways.remove", { n: way.number })}
        onClick={row.onDrop}
      >
        <Trash2 size={14} aria-hidden />
      </Button>
    </>
  );
}

function WayEntry({ board, onChange }: { board: ExistingBoard; onChange: (board: ExistingBoard) => void }) {
  const { document } = useJob();
  const enter = async (text: string) => {
    const way = await answered(
      client.POST("/api/parse/way", { body: { rules: document.job.rules, board, text } }),
    );
    onChange({ ...board, ways: [...board.ways.filter((other) => other.number !== way.number), way] });
    return true;
  };
  return (
    <EntryLine
      id="way-entry"
      label={t("web.survey.ways.entry")}
      placeholder={t("web.survey.ways.entry_placeholder")}
      onEnter={enter}
    />
  );
}
