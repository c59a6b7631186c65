import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answered, type Candidate, client, type ExtensionDecision, type FoundRow } from "../api/client";
import { useJob } from "../job/JobContext";
import { type Key, t } from "../messages/text";
import { CheckBox } from "../ui/CheckBox";
import { Choice, FigureField } from "../ui/Field";
import { Decided } from "./Decided";

type Found = FoundRow["found"];
const FOUND: Record<Found, Key> = {
  ring: "web.extension.found.ring",
  "ring-with-spur": "web.extension.found.ring_with_spur",
  "spur-end": "web.extension.found.spur_end",
  "spur-middle": "web.extension.found.spur_middle",
  "radial-end": "web.extension.found.radial_end",
  "radial-middle": "web.extension.found.radial_middle",
  "fused-load": "web.extension.found.fused_load",
  "not-proven": "web.extension.found.not_proven",
};
const KINDS = [
  ["socket", "web.extension.kind.socket"],
  ["double-socket", "web.extension.kind.double"],
  ["light", "web.extension.kind.light"],
  ["fixed", "web.extension.kind.fixed"],
] as const;
const CONCEALED = [
  ["", "web.extension.concealed.unknown"],
  ["no", "web.extension.concealed.no"],
  ["wall", "web.extension.concealed.wall"],
  ["metal-partition", "web.extension.concealed.metal"],
  ["floor-or-ceiling", "web.extension.concealed.floor"],
] as const;

/** One more point on a circuit that is there: opened when it is wanted. */
export function OnePoint() {
  const [open, setOpen] = useState(false);
  return (
    <details
      className="mt-3 text-[13px]"
      data-testid="one-point"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer font-semibold">{t("web.extension.title")}</summary>
      {open && <Asked />}
    </details>
  );
}

type Kind = (typeof KINDS)[number][0];
type Concealed = (typeof CONCEALED)[number][0];

function Asked() {
  const { document, version } = useJob();
  const [kind, setKind] = useState<Kind>("double-socket");
  const [room, setRoom] = useState("");
  const [wall, setWall] = useState("front");
  const [along, setAlong] = useState<number | null>(null);
  const [chosen, setChosen] = useState("");
  const [found, setFound] = useState<Found>("not-proven");
  const [length, setLength] = useState<number | null>(null);
  const [power, setPower] = useState<number | null>(null);
  const [concealed, setConcealed] = useState<Concealed>("");
  const [outlets, setOutlets] = useState<number | null>(null);
  const [spurs, setSpurs] = useState<number | null>(null);
  const [fused, setFused] = useState(false);
  const rooms = document.plan?.rooms ?? [];
  const place =
    room && along !== null ? { room, wall: wall as "front" | "right" | "back" | "left", along_m: along } : {};
  const boxes = useQuery({
    queryKey: ["candidates", version, kind, room, wall, along],
    queryFn: async () =>
      answered(client.POST("/api/extension/candidates", { body: { document, kind, ...place } })),
  });
  const rows = useQuery({
    queryKey: ["found", document.job.rules],
    queryFn: async () => answered(client.POST("/api/extension/found", { body: { document } })),
  });
  const box = boxes.data?.find((each) => nameOf(each) === chosen) ?? boxes.data?.[0];
  const long = length ?? box?.length_m ?? null;
  const decision = useQuery({
    queryKey: ["decision", version, box?.circuit, found, kind, long, power, concealed, outlets, spurs, fused],
    enabled: Boolean(box && long),
    queryFn: async (): Promise<ExtensionDecision> =>
      answered(
        client.POST("/api/extension/decision", {
          body: {
            document,
            circuit: box?.circuit ?? "",
            found,
            kind,
            name: t(KINDS.find(([id]) => id === kind)?.[1] ?? "web.extension.kind.socket"),
            length_m: long ?? 1,
            power_w: power,
            concealed_in: concealed || null,
            outlets_on_ring: outlets,
            spurs,
            fused,
            outlets: 1,
          },
        }),
      ),
  });
  const onRing = found === "ring";
  return (
    <div>
      <p className="text-[12px] text-soft">{t("web.extension.text")}</p>
      <div className="grid grid-cols-4 gap-2 max-lg:grid-cols-2">
        <Choice
          label={t("web.extension.kind")}
          value={kind}
          options={KINDS.map(([value, label]) => ({ value, label: t(label) }))}
          onCommit={(value) => setKind(value as Kind)}
        />
        {rooms.length > 0 && (
          <>
            <Choice
              label={t("web.extension.room")}
              value={room}
              options={[
                { value: "", label: t("web.extension.no_room") },
                ...rooms.map((each) => ({
                  value: each.room,
                  label: document.rooms?.find(({ id }) => id === each.room)?.name ?? each.room,
                })),
              ]}
              onCommit={setRoom}
            />
            <Choice
              label={t("web.extension.wall")}
              value={wall}
              options={(["front", "right", "back", "left"] as const).map((value) => ({
                value,
                label: t(WALL[value]),
              }))}
              onCommit={setWall}
            />
            <FigureField label={t("web.extension.along")} unit="m" value={along} onCommit={setAlong} />
          </>
        )}
        <Choice
          label={t("web.extension.from")}
          value={box ? nameOf(box) : ""}
          options={(boxes.data ?? []).map((each) => ({
            value: nameOf(each),
            label: each.length_m ? `${titleOf(each)}, ${each.length_m.toFixed(1)} m` : titleOf(each),
          }))}
          onCommit={setChosen}
        />
        <Choice
          label={t("web.extension.found")}
          value={found}
          options={(rows.data ?? []).map((row) => ({ value: row.found, label: t(FOUND[row.found]) }))}
          onCommit={(value) => setFound(value as Found)}
        />
        <FigureField
          label={t("web.extension.length")}
          unit="m"
          value={long}
          required
          onCommit={(value) => setLength(value)}
        />
        <Choice
          label={t("web.extension.concealed")}
          value={concealed}
          options={CONCEALED.map(([value, label]) => ({ value, label: t(label) }))}
          onCommit={(value) => setConcealed(value as Concealed)}
        />
        {(kind === "fixed" || kind === "light") && (
          <FigureField label={t("web.extension.power")} unit="W" value={power} onCommit={setPower} />
        )}
        {onRing && (
          <>
            <FigureField label={t("web.extension.outlets")} unit="" value={outlets} onCommit={setOutlets} />
            <FigureField label={t("web.extension.spurs")} unit="" value={spurs} onCommit={setSpurs} />
          </>
        )}
        {(onRing || found === "spur-end") && (
          <label htmlFor="extension-fused" className="flex items-end gap-2 pb-1">
            <CheckBox id="extension-fused" checked={fused} onChange={setFused} />
            {t("web.extension.fused")}
          </label>
        )}
      </div>
      {boxes.data?.length === 0 && <p className="text-missing">? {t("web.extension.none")}</p>}
      {box && !long && <p className="text-missing">? {t("web.extension.length_needed")}</p>}
      {decision.error && <p role="alert">{decision.error.message}</p>}
      {decision.data && <Decided decision={decision.data} />}
    </div>
  );
}

const WALL = {
  front: "web.routes.wall.front",
  right: "web.routes.wall.right",
  back: "web.routes.wall.back",
  left: "web.routes.wall.left",
} as const;
const nameOf = (each: Candidate) => `${each.circuit} ${each.box}`;
const titleOf = (each: Candidate) => (each.box_name ? `${each.name}: ${each.box_name}` : each.name);
