import type { Board, BoardView } from "../api/client";
import { useJob } from "../job/JobContext";
import { withBoard } from "../job/jobModel";
import { t } from "../messages/text";
import { Field, TextBox } from "../ui/Field";

/** The chart of the board in the user's words, where the main earth is, and the notices that have to stand at it. */
export function LabelsPanel({ board, view }: { board: Board; view: BoardView }) {
  const { document, edit } = useJob();
  const { labels } = board.build;
  const change = (changed: Partial<typeof labels>) =>
    edit(withBoard(document, { ...board, build: { ...board.build, labels: { ...labels, ...changed } } }));
  const name = (circuit: string, text: string) => {
    const rest = labels.texts.filter((text) => text.circuit !== circuit);
    change({ texts: text.trim() ? [...rest, { circuit, text: text.trim() }] : rest });
  };
  return (
    <section
      aria-label={t("web.board.labels.section")}
      className="rounded-xl border border-line bg-sheet p-3"
      data-testid="labels"
    >
      <h2 className="text-[13px] font-semibold">{t("web.board.labels.chart")}</h2>
      <ol>
        {view.chart.map((line) => (
          <li
            key={line.circuit}
            className="grid grid-cols-[22px_1fr] gap-2 border-t border-line py-1 first:border-t-0"
          >
            <span className="figure pt-1 text-right text-[13px] text-soft">{line.way}</span>
            <span>
              <TextBox
                aria-label={t("web.board.labels.text", { n: line.way })}
                className="text-[13px]"
                value={line.text}
                maxLength={120}
                onCommit={(text) => name(line.circuit, text)}
              />
              <span className="block text-[12px] text-soft">
                {[
                  line.device,
                  line.rooms.join(", "),
                  line.feeds.join(", "),
                  line.trips_with && t("web.board.labels.trips_with", { device: line.trips_with }),
                ]
                  .filter(Boolean)
                  .join(" · ")}
              </span>
            </span>
          </li>
        ))}
      </ol>
      <ByRoom view={view} />
      {typeof board.fed_by === "string" && (
        <div className="mt-2">
          <Field label={t("web.board.labels.earth_at")}>
            {(id) => (
              <TextBox
                id={id}
                value={labels.main_earth_location}
                maxLength={200}
                onCommit={(main_earth_location) => change({ main_earth_location })}
              />
            )}
          </Field>
        </div>
      )}
      <h2 className="mt-3 text-[13px] font-semibold">{t("web.board.labels.notices")}</h2>
      <ul className="flex flex-col gap-1.5">
        {view.notices.map((notice) => (
          <li key={notice.text} className="rounded-md border-2 border-ink px-2 py-1 text-[12.5px]">
            {notice.text}
            <span className="block text-[11.5px] text-soft">
              {notice.source.publication} ({notice.source.provenance})
            </span>
          </li>
        ))}
      </ul>
      {view.notices.length === 0 && (
        <p className="text-[12.5px] text-soft">{t("web.board.labels.notices_none")}</p>
      )}
    </section>
  );
}

/** The same by room: which ways to switch off before anything is done in it. */
function ByRoom({ view }: { view: BoardView }) {
  const rooms = new Map<string, number[]>();
  for (const line of view.chart)
    for (const room of line.rooms) rooms.set(room, [...(rooms.get(room) ?? []), line.way]);
  if (!rooms.size) return null;
  return (
    <>
      <h2 className="mt-3 text-[13px] font-semibold">{t("web.board.labels.by_room")}</h2>
      <dl className="grid grid-cols-[1fr_auto] gap-x-3 text-[12.5px]" data-testid="by-room">
        {[...rooms].map(([room, ways]) => (
          <div key={room} className="contents">
            <dt>{room}</dt>
            <dd className="figure text-right">
              {ways.length === 1 ? "way" : "ways"} {ways.join(", ")}
            </dd>
          </div>
        ))}
      </dl>
    </>
  );
}
