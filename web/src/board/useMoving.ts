import { useRef, useState } from "react";
import { answered, type BoardView, client, type Finding, type Job } from "../api/client";
import type { Place } from "./boardModel";

type Held = { document: Job; view: BoardView; findings: Finding[]; place: Place; unit: string };

/** A device on its way: asked of the server at each new place, so that the checks answer while it is held. */
export function useMoving(
  document: Job,
  board: string,
  take: (document: Job) => void,
  notify: (message: string) => void,
) {
  const [held, setHeld] = useState<Held>();
  const asked = useRef("");
  const latest = useRef(0);

  const move = async (unit: string, place: Place, dropped: boolean) => {
    const key = `${unit} ${place.row} ${place.at}`;
    if (!dropped && key === asked.current) return;
    asked.current = key;
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
        setHeld(undefined);
        asked.current = "";
      } else setHeld({ ...answer, place, unit });
    } catch (reason) {
      if (mine !== latest.current) return;
      setHeld(undefined);
      asked.current = "";
      if (dropped) notify(reason instanceof Error ? reason.message : String(reason));
    }
  };
  return { held, move };
}
