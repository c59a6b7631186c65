import { useState } from "react";
import { answered, client, type Job } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { FileButton } from "../ui/FileButton";
import { Select } from "../ui/Select";

const read = async (document: Job, dxf: string, layer: string, level: number) =>
  answered(client.POST("/api/plan/drawing", { body: { document, dxf, layer, level } }));

/** A floor plan from a DXF drawing: the rooms of a layer are shown before they are added. */
export function DrawingImport() {
  const { document, edit, notify } = useJob();
  const [dxf, setDxf] = useState("");
  const [level, setLevel] = useState(0);
  const [taken, setTaken] = useState<Awaited<ReturnType<typeof read>>>();
  const take = async (text: string, layer: string, floor: number) => {
    try {
      setTaken(await read(document, text, layer, floor));
      setDxf(text);
      setLevel(floor);
    } catch (reason) {
      setTaken(undefined);
      notify((reason as Error).message);
    }
  };
  return (
    <div className="-mt-1 mb-2 text-[13px]" data-testid="drawing-import">
      <FileButton
        variant="quiet"
        text={t("web.routes.drawing_choose")}
        label={t("web.routes.drawing_file")}
        accept=".dxf"
        onFiles={async ([file]) => file && (await take(await file.text(), "", level))}
      />
      {taken && (
        <section
          aria-label={t("web.routes.drawing_found")}
          className="mt-1 flex flex-wrap items-center gap-2 rounded-md border border-line bg-sheet p-2"
        >
          <span>
            {t("web.routes.drawing_rooms", { n: taken.rooms.length, rooms: taken.rooms.join(", ") })}
          </span>
          <Select
            aria-label={t("web.routes.drawing_layer")}
            value={taken.layer}
            options={taken.layers.map(({ name, rooms }) => ({ value: name, label: `${name} (${rooms})` }))}
            onCommit={(layer) => void take(dxf, layer, level)}
          />
          <Select
            aria-label={t("web.routes.level")}
            value={String(level)}
            options={[-1, 0, 1, 2, 3].map((each) => ({ value: String(each), label: String(each) }))}
            onCommit={(floor) => void take(dxf, taken.layer, Number(floor))}
          />
          <Button
            variant="strong"
            onClick={() => {
              if (edit(taken.document, document)) setTaken(undefined);
            }}
          >
            {t("web.routes.drawing_add")}
          </Button>
          <Button onClick={() => setTaken(undefined)}>{t("web.routes.cancel")}</Button>
          {taken.inexact.length > 0 && (
            <p className="w-full text-advice">
              {t("web.routes.drawing_inexact", { rooms: taken.inexact.join(", ") })}
            </p>
          )}
        </section>
      )}
    </div>
  );
}
