import type { Conductor } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { cut } from "./boardModel";

/** The conductor under the pointer as the wiring list has it; how to see one, while none is. */
export function WireCaption({ conductor }: { conductor: Conductor | undefined }) {
  return (
    <p className="no-print min-h-5 truncate text-[12.5px]" data-testid="wire-caption">
      {conductor ? (
        <>
          <b className="font-semibold">
            {say(conductor.start.text)} → {say(conductor.end.text)}
          </b>{" "}
          <span className="figure text-soft">
            {[conductor.colour, say(conductor.size), cut(conductor.length_mm)].filter(Boolean).join(" · ")}
          </span>
        </>
      ) : (
        <span className="text-soft">{t("web.board.hint_wire")}</span>
      )}
    </p>
  );
}
