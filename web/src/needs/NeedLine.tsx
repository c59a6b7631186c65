import { useId, useState } from "react";
import { Link } from "react-router";
import { withValue } from "../assumptions/assumedValue";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { CutOutFields } from "../setup/CutOutFields";
import { Button } from "../ui/Button";
import { readFigure, TextBox } from "../ui/Field";
import { neededNumber, neededYesNo, type Of, viewOfNeed } from "./neededModel";

/** What is missing, and where it is typed: a box where it is a number, else the view that has its field. */
export function NeedLine({ path, text, of }: { path: string; text: string; of?: Of }) {
  const { document, edit } = useJob();
  const number = neededNumber(document, path, of);
  const yesNo = neededYesNo(document, path, of);
  const view = viewOfNeed(path);
  return (
    <div className="flex flex-col gap-1.5">
      <p className="text-[13px]">{text}</p>
      {number && <NumberBox field={number.field} unit={number.unit} text={text} />}
      {path === "supply.cutout" && (
        <CutOutFields
          supply={document.supply}
          set={(part) => edit({ ...document, supply: { ...document.supply, ...part } })}
        />
      )}
      {yesNo && (
        <span className="flex gap-2">
          {([true, false] as const).map((answer) => (
            <Button key={String(answer)} onClick={() => edit(withValue(document, yesNo, answer))}>
              {t(answer ? "web.needs.yes" : "web.needs.no")}
            </Button>
          ))}
        </span>
      )}
      {!number && !yesNo && path !== "supply.cutout" && view && (
        <Link
          to={`../${view}`}
          state={view === "circuits" && of?.kind === "circuit" ? { open: of.id } : undefined}
          className="self-start text-[12.5px] text-accent underline"
        >
          {t("web.needs.enter")}
        </Link>
      )}
    </div>
  );
}

function NumberBox({ field, unit, text }: { field: string; unit: string; text: string }) {
  const { document, edit } = useJob();
  const [wrong, setWrong] = useState("");
  const id = useId();
  return (
    <span className="flex flex-wrap items-center gap-2">
      <TextBox
        id={id}
        aria-label={t("web.needs.box", { text, unit })}
        className="figure w-24!"
        inputMode="decimal"
        value=""
        data-need={field}
        onCommit={(typed) => {
          if (!typed.trim()) return;
          const value = readFigure(typed);
          if (value === null || value === undefined)
            return setWrong(t("web.common.not_a_number", { text: typed }));
          setWrong("");
          edit(withValue(document, field, value));
        }}
      />
      <span className="figure text-[12.5px] text-soft">{unit}</span>
      {wrong && (
        <span role="alert" className="text-[12.5px] text-fail">
          {wrong}
        </span>
      )}
    </span>
  );
}
