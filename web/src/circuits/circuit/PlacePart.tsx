import type { Circuit } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { behindRcd, freePlaces, movedTo, placeOf } from "../../job/jobModel";
import { t } from "../../messages/text";
import { Choice } from "../../ui/Field";

/** The way it sits in; moving it takes along the board it feeds. */
export function PlacePart({ circuit }: { circuit: Circuit }) {
  const { document, edit } = useJob();
  const here = placeOf(document, circuit.id);
  const names = new Map((document.boards ?? []).map((board) => [board.id, board.name]));
  const places = [...(here ? [here] : []), ...freePlaces(document, circuit.id)];
  const board = document.boards?.find((known) => known.id === here?.board);
  const behind = board?.ways?.find((way) => way.circuit === circuit.id)?.rcd;
  return (
    <>
      <Choice
        label={t("web.circuit.place.way")}
        value={here ? `${here.board} ${here.way}` : ""}
        options={places.map((place) => ({
          value: `${place.board} ${place.way}`,
          label: t("web.circuit.place.at", { board: names.get(place.board) ?? "", n: place.way }),
        }))}
        onCommit={(chosen) => {
          const place = places.find((known) => `${known.board} ${known.way}` === chosen);
          if (place) edit(movedTo(document, circuit.id, place));
        }}
      />
      {board && (board.shared_rcds ?? []).length > 0 && (
        <Choice
          label={t("web.circuit.place.rcd")}
          value={behind ?? ""}
          options={[
            { value: "", label: "none" },
            ...(board.shared_rcds ?? []).map((group) => ({
              value: group.id,
              label: `${group.name}, ${group.rcd.idn_ma} mA`,
            })),
          ]}
          onCommit={(rcd) => edit(behindRcd(document, circuit.id, rcd || null))}
        />
      )}
    </>
  );
}
