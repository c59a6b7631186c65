import { type KeyboardEvent, useId, useState } from "react";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { Dialog } from "../ui/Dialog";
import { type Command, matching } from "./commands";

const SHOWN = 12;

/** Everything of a job by typing: arrow keys choose, Enter does it. */
export function Palette({
  open,
  onOpenChange,
  commands,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  commands: () => Command[];
}) {
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title={t("web.palette.title")}>
      <Search commands={commands} onDone={() => onOpenChange(false)} />
    </Dialog>
  );
}

function Search({ commands, onDone }: { commands: () => Command[]; onDone: () => void }) {
  const [all] = useState(commands);
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const list = useId();
  const found = matching(all, text).slice(0, SHOWN);
  const here = Math.min(at, found.length - 1);
  const run = (command: Command | undefined) => {
    if (!command) return;
    onDone();
    command.run();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step && found.length) setAt((here + step + found.length) % found.length);
    else if (event.key === "Enter") run(found[here]);
    else return;
    event.preventDefault();
  };
  return (
    <>
      <input
        // biome-ignore lint/a11y/noAutofocus: the palette is there to be typed into
        autoFocus
        role="combobox"
        aria-expanded
        aria-controls={list}
        aria-activedescendant={found[here] ? `${list}-${here}` : undefined}
        aria-label={t("web.palette.label")}
        placeholder={t("web.palette.placeholder")}
        className="w-full rounded-md border border-line bg-ground px-3 py-2"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={onKeyDown}
      />
      <div
        id={list}
        role="listbox"
        aria-label={t("web.palette.title")}
        className="mt-2 flex min-h-72 flex-col"
      >
        {found.map((command, index) => (
          <div
            key={command.id}
            id={`${list}-${index}`}
            role="option"
            tabIndex={-1}
            aria-selected={index === here}
            className={cx(
              "flex cursor-pointer items-baseline justify-between gap-3 rounded-md px-3 py-1",
              index === here && "bg-wash",
            )}
            onPointerMove={() => setAt(index)}
            onClick={() => run(command)}
            onKeyDown={() => undefined}
          >
            <span className="truncate">{command.title}</span>
            <span className="text-[12px] text-soft">{t(command.kind)}</span>
          </div>
        ))}
        {!found.length && <div className="px-3 py-1 text-soft">{t("web.palette.none", { text })}</div>}
      </div>
    </>
  );
}
