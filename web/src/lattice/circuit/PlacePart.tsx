import type { Circuit } from "../../api/client";
import { useJob } from "../../job/JobProvider";
import { freePlaces, movedTo, placeOf } from "../../job/jobModel";
import { Choice } from "../../ui/Field";

/** The way it sits in; moving it takes along the board it feeds. */
export function PlacePart({ circuit }: { circuit: Circuit }) {
  const { document, edit } = useJob();
  const here = placeOf(document, circuit.id);
  const names = new Map((document.boards ?? []).map((board) => [board.id, board.name]));
  const places = [...(here ? [here] : []), ...freePlaces(document, circuit.id)];
  return (
    <Choice
      label="Sits in"
      value={here ? `${here.board} ${here.way}` : ""}
      options={places.map((place) => ({
        value: `${place.board} ${place.way}`,
        label: `${names.get(place.board)}, way ${place.way}`,
      }))}
      onCommit={(chosen) => {
        const place = places.find((known) => `${known.board} ${known.way}` === chosen);
        if (place) edit(movedTo(document, circuit.id, place));
      }}
    />
  );
}
