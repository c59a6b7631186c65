import { useQuery } from "@tanstack/react-query";
import type { Board, BoardBuild, BoardView, Job, Mounting } from "../api/client";
import { answered, client } from "../api/client";
import { enclosuresQuery } from "../api/queries";
import { useJob } from "../job/JobProvider";
import { withBoard } from "../job/jobModel";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { Choice, FigureField } from "../ui/Field";
import { DevicesSheet } from "./DevicesSheet";
import { EnclosureFields } from "./EnclosureFields";
import { GearList } from "./GearList";
import { TapFields } from "./TapFields";
import { useLayout } from "./useLayout";

/** Enclosure, wishes and habits of a board, and the button that lays it out by them. */
export function BuildSheet({
  board,
  view,
  onTake,
}: {
  board: Board;
  view: BoardView;
  onTake: (document: Job) => void;
}) {
  const { document, edit, say } = useJob();
  const layout = useLayout(onTake);
  const change = (changed: Partial<BoardBuild>) =>
    edit(withBoard(document, { ...board, housing: { ...board.housing, ...changed } }));
  const number = async () => {
    try {
      const found = await answered(
        client.POST("/api/boards/number", { body: { document, board: board.id } }),
      );
      onTake(found.document);
    } catch (reason) {
      say(reason instanceof Error ? reason.message : String(reason));
    }
  };
  return (
    <section aria-label="How it is built" className="no-print rounded-xl border border-line bg-sheet p-3">
      <EnclosureChoice board={board} view={view} onChange={change} />
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {layout.running ? (
          <Button onClick={layout.stop}>Stop</Button>
        ) : (
          <Button
            look="strong"
            disabled={!board.housing.enclosure}
            onClick={() => void layout.run(document, board.id)}
          >
            {board.housing.spots.length ? "Lay out anew" : "Lay it out"}
          </Button>
        )}
        <Button disabled={!view.units.length || view.loose.length > 0} onClick={() => void number()}>
          Number ways as they stand
        </Button>
      </div>
      <p role="status" className="mt-1 min-h-5 text-[12px] text-soft">
        {layout.running
          ? layout.progress
            ? `Looking … untidiness ${layout.progress.cost}, at least ${layout.progress.bound}`
            : "Looking …"
          : layout.said}
      </p>
      <Details title="Wishes and habits">
        <WishFields board={board} onChange={change} />
      </Details>
      <Details title="The enclosure's measures">
        <EnclosureFields board={board} onChange={change} />
      </Details>
      <Details title="Main switch, families, comb at hand">
        <DevicesSheet board={board} onChange={change} />
      </Details>
      {board.fed_by === "origin" && document.boards?.[0]?.id !== board.id && (
        <Details title="How it is tapped off">
          <TapFields board={board} />
        </Details>
      )}
      <Details title="Where it hangs">
        <StandingFields board={board} onChange={change} />
      </Details>
      <Details title="Control gear">
        <GearList board={board} />
      </Details>
    </section>
  );
}

function Details({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <details className="border-t border-line py-1.5">
      <summary className="cursor-pointer text-[13px] font-medium">{title}</summary>
      <div className="pt-2">{children}</div>
    </details>
  );
}

type Part = { board: Board; onChange: (changed: Partial<BoardBuild>) => void };

function EnclosureChoice({ board, view, onChange }: Part & { view: BoardView }) {
  const { data = [] } = useQuery(enclosuresQuery);
  const { document } = useJob();
  const form = document.supply.phases === 2 ? "stab" : "rail";
  const held = board.housing.enclosure;
  const offered = data.filter((one) => one.enclosure.form === form);
  const known = offered.find((one) => one.enclosure.title === held?.title);
  const options = [
    { value: "", label: held && !known ? held.title : held ? "none" : "choose one" },
    ...offered.map((one) => ({
      value: one.id,
      label: `${one.enclosure.title}${
        one.enclosure.rows * one.enclosure.modules < view.needs_modules ? ", too small" : ""
      }`,
    })),
  ];
  return (
    <Choice
      label="Enclosure"
      value={known?.id ?? ""}
      options={options}
      onCommit={(id) => {
        const next = data.find((one) => one.id === id)?.enclosure;
        if (next) onChange({ enclosure: next, spots: fitting(board, next) });
        else onChange({ enclosure: null, spots: [] });
      }}
    />
  );
}

/** The places that still exist in another enclosure; the rest is to be laid out anew. */
function fitting(board: Board, enclosure: NonNullable<BoardBuild["enclosure"]>): BoardBuild["spots"] {
  const was = board.housing.enclosure;
  const same = was?.form === enclosure.form && was.rows <= enclosure.rows && was.modules <= enclosure.modules;
  return same ? board.housing.spots : [];
}

function WishFields({ board, onChange }: Part) {
  const { wishes, habits } = board.housing;
  const wish = (changed: Partial<typeof wishes>) => onChange({ wishes: { ...wishes, ...changed } });
  const habit = (changed: Partial<typeof habits>) => onChange({ habits: { ...habits, ...changed } });
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1">
      <Choice
        label="Main switch"
        value={wishes.main ?? ""}
        options={[
          { value: "", label: "as the school has it" },
          { value: "left", label: "at the left" },
          { value: "right", label: "at the right" },
          { value: "top", label: "anywhere in the top row" },
        ]}
        onCommit={(main) => wish({ main: (main || null) as typeof wishes.main })}
      />
      <Choice
        label="Supply comes in"
        value={wishes.feed}
        options={[
          { value: "top", label: "from the top" },
          { value: "bottom", label: "from the bottom" },
        ]}
        onCommit={(feed) => wish({ feed: feed as typeof wishes.feed })}
      />
      <FigureField
        label="Left free at least"
        unit="%"
        value={wishes.spare_pct}
        empty="by the school"
        onCommit={(spare_pct) => wish({ spare_pct })}
      />
      <Choice
        label="Lights and alarms"
        value={wishes.lights}
        options={[
          { value: "anywhere", label: "by their number" },
          { value: "first", label: "next to the main switch" },
          { value: "last", label: "at the far end" },
        ]}
        onCommit={(lights) => wish({ lights: lights as typeof wishes.lights })}
      />
      <Check checked={wishes.surge_beside_main} onChange={(surge_beside_main) => wish({ surge_beside_main })}>
        Surge device by the main
      </Check>
      <Check checked={wishes.groups_together} onChange={(groups_together) => wish({ groups_together })}>
        Groups kept together
      </Check>
      <Check checked={wishes.hot_apart} onChange={(hot_apart) => wish({ hot_apart })}>
        Warm devices apart
      </Check>
      <Check checked={habits.combs} onChange={(combs) => habit({ combs })}>
        Combs where they fit
      </Check>
      <FigureField
        label="Links at least"
        unit="mm²"
        value={habits.link_mm2}
        empty="by the school"
        onCommit={(link_mm2) => habit({ link_mm2 })}
      />
      <FigureField
        label="Slack of a conductor"
        unit="mm"
        required
        value={habits.slack_mm}
        onCommit={(slack_mm) => slack_mm !== null && habit({ slack_mm })}
      />
      <Choice
        label="Links are"
        value={habits.conductor}
        options={[
          { value: "flexible", label: "flexible, with ferrules" },
          { value: "stranded", label: "stranded" },
          { value: "solid", label: "solid" },
        ]}
        onCommit={(conductor) => habit({ conductor: conductor as typeof habits.conductor })}
      />
      <Check checked={habits.ring_fed} onChange={(ring_fed) => habit({ ring_fed })}>
        RCDs fed in a ring
      </Check>
    </div>
  );
}

function StandingFields({ board, onChange }: Part) {
  const { document } = useJob();
  const held: Mounting = board.housing.standing ?? { place: "wall", door: true };
  const stand = (changed: Partial<Mounting>) => onChange({ standing: { ...held, ...changed } });
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1">
      <Choice
        label="Room"
        value={held.room ?? ""}
        options={[
          { value: "", label: "not stated" },
          ...(document.rooms ?? []).map((room) => ({ value: room.id, label: room.name })),
        ]}
        onCommit={(room) => stand({ room: room || null })}
      />
      <Choice
        label="Kind of place"
        value={held.place}
        options={PLACES}
        onCommit={(place) => stand({ place: place as Mounting["place"] })}
      />
      <FigureField
        label="Highest handle"
        unit="m"
        value={held.handle_m}
        onCommit={(handle_m) => stand({ handle_m })}
      />
      <FigureField
        label="Lower edge"
        unit="m"
        value={held.bottom_m}
        onCommit={(bottom_m) => stand({ bottom_m })}
      />
      <FigureField
        label="Free in front"
        unit="m"
        value={held.clear_m}
        onCommit={(clear_m) => stand({ clear_m })}
      />
      <FigureField
        label="From bath or basin"
        unit="m"
        value={held.across_m}
        onCommit={(across_m) => stand({ across_m })}
      />
      <FigureField
        label="Room's warmth"
        unit="°C"
        value={held.ambient_c}
        empty="25"
        onCommit={(ambient_c) => stand({ ambient_c })}
      />
      <Check checked={held.door} onChange={(door) => stand({ door })}>
        With a door or cover
      </Check>
    </div>
  );
}

const PLACES = [
  { value: "wall", label: "on a wall" },
  { value: "cupboard", label: "in a cupboard" },
  { value: "clothes-closet", label: "in a clothes closet" },
  { value: "under-stairs", label: "under the stairs" },
  { value: "over-stairs", label: "over the steps of a stair" },
  { value: "escape-route", label: "in an escape route" },
  { value: "hydrant-cupboard", label: "in a hydrant cupboard" },
  { value: "over-water", label: "above water or a cooker" },
];
