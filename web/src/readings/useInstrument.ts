import { useCallback, useMemo, useRef, useState } from "react";
import { answered, client, type InstrumentIdentity } from "../api/client";
import { Unreachable } from "../api/errors";
import { outbox } from "../offline/outbox";
import { newReadingId, type ReadTest } from "./testModel";
import type { Enter } from "./useEntries";

const PORT = "vivid-lattice-instrument-port";
/** The ports an adapter may be at. */
const LEAST = 1024;
const MOST = 65535;

/** A tester that is connected to the machine of the server: which one it is, its leads nulled, readings taken. */
export function useInstrument(enter: Enter) {
  const [port, setPort] = useState(() => Number(localStorage.getItem(PORT)) || 0);
  const [identity, setIdentity] = useState<InstrumentIdentity>();
  const [said, setSaid] = useState<{ text: string; test?: string }>({ text: "" });

  /** What was read and the instrument may not have forgotten yet. */
  const taken = useRef<string[]>([]);

  const connect = useCallback(async (next: number | null) => {
    setIdentity(undefined);
    setSaid({ text: "" });
    const wanted = next && next >= LEAST && next <= MOST ? next : 0;
    setPort(wanted);
    localStorage.setItem(PORT, wanted ? String(wanted) : "");
    if (!wanted) return;
    try {
      setIdentity(await answered(client.POST("/api/instrument", { body: { port: wanted } })));
    } catch (reason) {
      setSaid({ text: (reason as Error).message });
    }
  }, []);

  const nullLeads = useCallback(async () => {
    try {
      const { ohm } = await answered(client.POST("/api/instrument/null", { body: { port } }));
      setSaid({ text: `${ohm} Ω → 0.00 Ω` });
    } catch (reason) {
      setSaid({ text: (reason as Error).message });
    }
  }, [port]);

  /** Reads a test. An answer that got lost is asked for again under the same id, so that nothing is measured twice. */
  const take = useCallback(
    async (test: ReadTest, no_trip: boolean) => {
      const id = newReadingId();
      const waiting = new Set(outbox.all().map((entry) => entry.id));
      const saved = taken.current.filter((each) => !waiting.has(each));
      const body = { port, id, test: test.test, subject: test.subject, no_trip, saved };
      for (let tries = 2; ; tries -= 1) {
        try {
          const reading = await answered(client.POST("/api/instrument/read", { body }));
          setSaid({ text: "" });
          taken.current = [...taken.current.filter((each) => !saved.includes(each)), id];
          return void enter([{ test, text: reading.text, id, ...(no_trip && { no_trip }) }]);
        } catch (reason) {
          if (reason instanceof Unreachable && tries > 0) continue;
          return setSaid({ text: (reason as Error).message, test: test.id });
        }
      }
    },
    [port, enter],
  );
  return useMemo(
    () => ({ port, identity, said, connect, nullLeads, take }),
    [port, identity, said, connect, nullLeads, take],
  );
}

export type ConnectedInstrument = ReturnType<typeof useInstrument>;
