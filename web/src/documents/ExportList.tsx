import type { Board, ExportKind } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { cx } from "../ui/cx";
import type { Wanted } from "./useExport";

const GROUPS: { id: ExportKind["group"]; title: string }[] = [
  {
    id: "sheets",
    get title() {
      return t("web.documents.group.sheets");
    },
  },
  {
    id: "tables",
    get title() {
      return t("web.documents.group.tables");
    },
  },
  {
    id: "drawings",
    get title() {
      return t("web.documents.group.drawings");
    },
  },
  {
    id: "whole",
    get title() {
      return t("web.documents.group.whole");
    },
  },
];
/** Sheets that can be of one board. */
const OF_A_BOARD = new Set(["chart", "labels", "wiring"]);

type Props = {
  kinds: ExportKind[];
  boards: Board[];
  board: string;
  against: Wanted["against"];
  surveyed: boolean;
  planned: boolean;
  quoted: boolean;
  busy: Wanted | undefined;
  made: Wanted | undefined;
  onLook: (wanted: Wanted) => void;
  onSave: (wanted: Wanted) => void;
};

/** Every export by its group: looked at where it has pages, saved in any case; what the job lacks for it is said. */
export function ExportList({
  kinds,
  boards,
  board,
  against,
  surveyed,
  planned,
  quoted,
  busy,
  made,
  onLook,
  onSave,
}: Props) {
  const wantedOf = (kind: ExportKind): Wanted => ({
    kind: kind.id,
    title: say(kind.title),
    board: OF_A_BOARD.has(kind.id) ? board || null : null,
    against: kind.needs === "other" ? against : undefined,
  });
  const lack = (kind: ExportKind): string | undefined => {
    if (kind.needs === "survey" && !surveyed) return t("web.documents.needs_survey");
    if (kind.needs === "plan" && !planned) return t("web.documents.needs_plan");
    if (kind.needs === "quote" && !quoted) return t("web.documents.needs_quote");
    if (kind.needs === "other" && !against) return t("web.documents.against_none");
    return undefined;
  };
  return GROUPS.map((group) => (
    <section key={group.id} aria-label={group.title} className="mt-3">
      <h3 className="mb-1 text-[12px] font-semibold text-soft">{group.title}</h3>
      <ul className="flex flex-col">
        {kinds
          .filter((kind) => kind.group === group.id)
          .map((kind) => (
            <li
              key={kind.id}
              data-export={kind.id}
              className={cx(
                "flex items-center gap-2 border-t border-line py-0.5",
                made?.kind === kind.id && group.id === "sheets" && "bg-wash",
              )}
            >
              <span
                className="min-w-0 flex-1 truncate max-sm:whitespace-normal"
                title={lack(kind) ?? say(kind.text)}
              >
                <b className="text-[13px] font-medium">{say(kind.title)}</b>{" "}
                <span className="text-[12px] text-soft">{lack(kind) ?? say(kind.text)}</span>
              </span>
              {kind.needs === "board" ? (
                boards.map(({ id, name }) => (
                  <Button
                    key={id}
                    disabled={Boolean(busy)}
                    aria-label={t("web.documents.save_board", { title: say(kind.title), name })}
                    onClick={() => onSave({ kind: kind.id, title: say(kind.title), board: id })}
                  >
                    {name}
                  </Button>
                ))
              ) : (
                <>
                  {group.id === "sheets" && (
                    <Button
                      disabled={Boolean(busy) || lack(kind) !== undefined}
                      aria-label={t("web.documents.preview_label", { document: say(kind.title) })}
                      onClick={() => onLook(wantedOf(kind))}
                    >
                      {t("web.documents.preview")}
                    </Button>
                  )}
                  <Button
                    disabled={Boolean(busy) || lack(kind) !== undefined}
                    aria-label={t("web.documents.save_label", {
                      suffix: kind.suffix,
                      title: say(kind.title),
                    })}
                    onClick={() => onSave(wantedOf(kind))}
                  >
                    {t("web.documents.preview.save")}{" "}
                    <span className="figure text-[11px] text-soft">{kind.suffix}</span>
                  </Button>
                </>
              )}
            </li>
          ))}
      </ul>
    </section>
  ));
}
