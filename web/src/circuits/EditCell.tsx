import { type ReactNode, useEffect, useRef, useState } from "react";
import type { Circuit } from "../api/client";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import type { Edit } from "./gridModel";
import { MethodWords } from "./MethodWords";

const LABEL: Record<Edit, string> = {
  get device() {
    return t("web.circuits.cell.device");
  },
  get lines() {
    return t("web.circuits.cell.lines");
  },
  get cable() {
    return t("web.circuits.cell.cable");
  },
  get length() {
    return t("web.circuits.cell.length");
  },
  get method() {
    return t("web.circuits.cell.method");
  },
};

type Props = {
  circuit: Circuit;
  edit: Edit;
  text: string;
  suffix?: string;
  chosen: boolean;
  crossed: boolean;
  editing: string | undefined;
  onChoose: () => void;
  onBegin: (text: string) => void;
  onCommit: (text: string, move: "down" | "right" | "none") => void;
  onCancel: () => void;
  row: number;
  column: number;
};

/** A figure of the circuit, typed over in place. `editing` holds what it is begun with. */
export function EditCell(props: Props) {
  const { circuit, edit, text, suffix, chosen, crossed, editing, row, column } = props;
  return (
    <div
      role="gridcell"
      tabIndex={chosen && editing === undefined ? 0 : -1}
      aria-selected={chosen}
      data-row={row}
      data-column={column}
      data-value={text}
      onClick={props.onChoose}
      onDoubleClick={() => props.onBegin(text)}
      onKeyDown={() => undefined}
      className={cx(
        "figure flex items-center border-l border-line px-1.5 text-[13px]",
        crossed && "bg-wash/60",
        chosen && "relative z-10 bg-sheet outline-2 outline-accent",
      )}
    >
      {editing === undefined ? (
        <Words circuit={circuit} edit={edit}>
          <span className="sr-only">{`${circuit.name}, ${LABEL[edit]}: `}</span>
          {text || (
            <span className="text-missing">
              ?<span className="sr-only"> {t("web.circuits.cell.not_known")}</span>
            </span>
          )}
          {suffix && <span className="text-soft">{suffix}</span>}
        </Words>
      ) : (
        <Box {...props} begun={editing} label={`${circuit.name}, ${LABEL[edit]}`} />
      )}
    </div>
  );
}

/** The text of a cell; a method is told in words on hover. */
function Words({ circuit, edit, children }: { circuit: Circuit; edit: Edit; children: ReactNode }) {
  const text = <span className="truncate">{children}</span>;
  return edit === "method" ? <MethodWords circuit={circuit}>{text}</MethodWords> : text;
}

function Box({ begun, label, onCommit, onCancel }: Props & { begun: string; label: string }) {
  const [draft, setDraft] = useState(begun);
  const box = useRef<HTMLInputElement>(null);
  const done = useRef(false);
  useEffect(() => {
    box.current?.focus();
  }, []);
  const commit = (move: "down" | "right" | "none") => {
    if (done.current) return;
    done.current = true;
    onCommit(draft, move);
  };
  return (
    <input
      ref={box}
      aria-label={label}
      className="-mx-1 w-[calc(100%+8px)] bg-sheet px-1 outline-none"
      value={draft}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() => commit("none")}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") commit("none");
        else if (event.key === "Tab") {
          event.preventDefault();
          commit("right");
        } else if (event.key === "Escape") {
          done.current = true;
          onCancel();
        }
      }}
    />
  );
}
