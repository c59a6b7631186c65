import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answered, type Chip, client, type Job } from "../api/client";
import { say } from "../messages/say";
import { type Key, t } from "../messages/text";
import { cx } from "../ui/cx";
import { FIGURE } from "./CheckCell";
import { VERDICT_MARKS, verdictWord } from "./gridModel";

const WAIT_MS = 120;

const LOOK: Record<Chip["state"], string> = {
  read: "border-line bg-sheet text-ink",
  chosen: "border-line bg-wash text-ink",
  assumed: "border-dashed border-soft bg-sheet text-soft",
  unused: "border-fail bg-sheet text-fail line-through",
};
const STATE: Record<Chip["state"], Key> = {
  read: "web.circuits.chip.read",
  chosen: "web.circuits.chip.chosen",
  assumed: "web.circuits.chip.assumed",
  unused: "web.circuits.chip.unused",
};

/** What a line would become, asked a moment after the last key: chips, and the verdict it would get. */
export function usePreview(document: Job, version: number, board: string, text: string) {
  const [asked, setAsked] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(text), WAIT_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return useQuery({
    queryKey: ["preview", version, board, asked],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/parse/preview", { body: { document, board, text: asked }, signal })),
    enabled: asked.trim().length > 2 && asked === text,
    placeholderData: text.trim() ? keepPreviousData : undefined,
    retry: false,
    gcTime: 0,
  });
}

/** The chips of a line while it is typed; the reason where it is no circuit yet. */
export function LinePreview({ preview }: { preview: ReturnType<typeof usePreview> }) {
  const { data, error } = preview;
  if (error) {
    return (
      <p role="status" className="line-clamp-2 min-w-0 flex-1 basis-72 text-[12px] text-soft">
        {error.message}
      </p>
    );
  }
  if (!data) return null;
  const sentence = say(data.sentence);
  return (
    <div
      role="status"
      aria-label={t("web.circuits.chip.label")}
      data-testid="line-preview"
      className="flex min-w-0 flex-1 basis-72 items-center gap-1 overflow-hidden whitespace-nowrap text-[12px] max-md:flex-wrap"
    >
      <span className={cx("px-1", FIGURE[data.verdict])} title={sentence} data-preview-verdict={data.verdict}>
        <span aria-hidden="true">{VERDICT_MARKS[data.verdict] ?? ""} </span>
        {verdictWord(data.verdict)}
        {sentence && <span className="sr-only">: {sentence}</span>}
      </span>
      {data.chips.map((chip) => (
        <span
          key={`${chip.state} ${say(chip.text)}`}
          data-chip={chip.state}
          title={chip.reason ? say(chip.reason) : t(STATE[chip.state])}
          className={cx("figure rounded-full border px-1.5 leading-5", LOOK[chip.state])}
        >
          {say(chip.text)}
          <span className="sr-only"> ({t(STATE[chip.state])})</span>
        </span>
      ))}
    </div>
  );
}
