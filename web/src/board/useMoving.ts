import { useRef, useState } from "react";
import { answered, type BoardView, client, type Finding, type Job } from "../api/client";
import type { Place } from "./boardModel";

type Dragged = { document: Job; view: BoardView; findings: Finding[]; place: Place; unit: string };

/** A device on its way: sent to the server at each new place, so that its checks are seen while it is dragged. */
export function useMoving(
  document: Job,
  board: string,
  take: (document: Job) => void,
  notify: (message: string) => void,
) {
  const [dragged, setDragged] = useState<Dragged>();
  const requested = useRef("");
  const latest = useRef(0);

  const move = async (unit: string, place: Place, dropped: boolean) => {
    const key = `${unit} ${place.row} ${place.at}`;
    if (!dropped && key === requested.current) return;
    requested.current = key;
    latest.current += 1;
    const mine = latest.current;
    try {
      const body = {
        document,
        board,
        device: unit,
        row: place.row,
        offset_modules: place.at,
        dragging: !dropped,
      };
      const answer = await answered(client.POST("/api/boards/move-device", { body }));
      if (mine !== latest.current) return;
      if (dropped) {
        take(answer.document);
        setDragged(undefined);
        requested.current = "";
      } else setDragged({ ...answer, place, unit });
    } catch (reason) {
      if (mine !== latest.current) return;
      setDragged(undefined);
      requested.current = "";
      if (dropped) notify(reason instanceof Error ? reason.message : String(reason));
    }
  };
  return { dragged, move };
}
