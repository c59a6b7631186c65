import { useQuery } from "@tanstack/react-query";
import type { Board, BoardBuild, BoardView, Job, Mounting } from "../api/client";
import { answered, client } from "../api/client";
import { enclosuresQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { withBoard } from "../job/jobModel";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { Choice, FigureField } from "../ui/Field";
import { ControlGearList } from "./ControlGearList";
import { DevicesForm } from "./DevicesForm";
import { EnclosureFields } from "./EnclosureFields";
import { UpstreamFeed } from "./UpstreamFeed";
import { useLayout } from "./useLayout";

/** Enclosure, wishes and habits of a board, and the button that lays it out by them. */
export function BuildForm({
  board,
  view,
  onTake,
}: {
  board: Board;
  view: BoardView;
  onTake: (document: Job) => void;
}) {
  const { document, edit, notify } = useJob();
  const layout = useLayout(onTake);
  const change = (changed: Partial<BoardBuild>) =>
    edit(withBoard(document, { ...board, build: { ...board.build, ...changed } }));
  const number = async () => {
    try {
      const answer = await answered(
        client.POST("/api/boards/renumber", { body: { document, board: board.id } }),
      );
      onTake(answer.document);
    } catch (reason) {
      notify(reason instanceof Error ? reason.message : String(reason));
    }
  };
  return (
    <section
      aria-label={t("web.board.build.section")}
      className="no-print rounded-xl border border-line bg-sheet p-3"
    >
      <EnclosureChoice board={board} view={view} onChange={change} />
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {layout.running ? (
          <Button onClick={layout.stop}>{t("web.board.build.cancel")}</Button>
        ) : (
          <Button
            variant="strong"
            disabled={!board.build.enclosure}
            onClick={() => void layout.run(document, board.id)}
          >
            {board.build.device_positions.length
              ? t("web.board.build.lay_out_again")
              : t("web.board.build.lay_out")}
          </Button>
        )}
        <Button disabled={!view.units.length || view.not_placed.length > 0} onClick={() => void number()}>
          {t("web.board.build.renumber")}
        </Button>
      </div>
      <p role="status" className="mt-1 min-h-5 text-[12px] text-soft">
        {layout.running
          ? layout.progress
            ? t("web.board.build.progress", { cost: layout.progress.cost, bound: layout.progress.bound })
            : t("web.board.build.starting")
          : layout.message}
      </p>
      <Details title={t("web.board.build.preferences")}>
        <WishFields board={board} onChange={change} />
      </Details>
      <Details title={t("web.board.build.dimensions")}>
        <EnclosureFields board={board} onChange={change} />
      </Details>
      <Details title={t("web.board.build.devices")}>
        <DevicesForm board={board} onChange={change} />
      </Details>
      {board.fed_by === "origin" && document.boards?.[0]?.id !== board.id && (
        <Details title={t("web.board.build.tap")}>
          <UpstreamFeed board={board} />
        </Details>
      )}
      <Details title={t("web.board.build.mounting")}>
        <StandingFields board={board} onChange={change} />
      </Details>
      <Details title={t("web.board.build.gear")}>
        <ControlGearList board={board} />
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
  const enclosure = board.build.enclosure;
  const offered = data.filter((entry) => entry.enclosure.form === view.usual_form);
  const known = offered.find((entry) => entry.enclosure.title === enclosure?.title);
  const options = [
    {
      value: "",
      label:
        enclosure && !known ? enclosure.title : enclosure ? "none" : t("web.board.build.enclosure_choose"),
    },
    ...offered.map((entry) => ({
      value: entry.id,
      label:
        entry.enclosure.rows * entry.enclosure.modules < view.modules_needed
          ? t("web.board.build.enclosure_small", { title: entry.enclosure.title })
          : entry.enclosure.title,
    })),
  ];
  return (
    <Choice
      label={t("web.board.build.enclosure")}
      value={known?.id ?? ""}
      options={options}
      onCommit={(id) => {
        const next = data.find((entry) => entry.id === id)?.enclosure;
        if (next) onChange({ enclosure: next, device_positions: fitting(board, next) });
        else onChange({ enclosure: null, device_positions: [] });
      }}
    />
  );
}

/** The places that still exist in another enclosure; the rest is to be laid out anew. */
function fitting(
  board: Board,
  enclosure: NonNullable<BoardBuild["enclosure"]>,
): BoardBuild["device_positions"] {
  const was = board.build.enclosure;
  const same = was?.form === enclosure.form && was.rows <= enclosure.rows && was.modules <= enclosure.modules;
  return same ? board.build.device_positions : [];
}

function WishFields({ board, onChange }: Part) {
  const { layout_preferences: preferences, wiring_defaults: defaults } = board.build;
  const setPreference = (changed: Partial<typeof preferences>) =>
    onChange({ layout_preferences: { ...preferences, ...changed } });
  const setDefault = (changed: Partial<typeof defaults>) =>
    onChange({ wiring_defaults: { ...defaults, ...changed } });
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1">
      <Choice
        label={t("web.board.build.main_side")}
        value={preferences.main_switch_side ?? ""}
        options={[
          { value: "", label: t("web.board.build.by_standard") },
          { value: "left", label: t("web.board.build.main_left") },
          { value: "right", label: t("web.board.build.main_right") },
          { value: "top", label: t("web.board.build.main_top") },
        ]}
        onCommit={(main) =>
          setPreference({ main_switch_side: (main || null) as typeof preferences.main_switch_side })
        }
      />
      <Choice
        label={t("web.board.build.entry")}
        value={preferences.supply_entry}
        options={[
          { value: "top", label: t("web.board.build.entry_top") },
          { value: "bottom", label: t("web.board.build.entry_bottom") },
        ]}
        onCommit={(feed) => setPreference({ supply_entry: feed as typeof preferences.supply_entry })}
      />
      <FigureField
        label={t("web.board.build.spare")}
        unit="%"
        value={preferences.spare_pct}
        empty={t("web.board.build.by_standard")}
        onCommit={(spare_pct) => setPreference({ spare_pct })}
      />
      <Choice
        label={t("web.board.build.lights")}
        value={preferences.lighting_position}
        options={[
          { value: "anywhere", label: t("web.board.build.lights_number") },
          { value: "first", label: t("web.board.build.lights_first") },
          { value: "last", label: t("web.board.build.lights_last") },
        ]}
        onCommit={(lights) =>
          setPreference({ lighting_position: lights as typeof preferences.lighting_position })
        }
      />
      <Check
        checked={preferences.surge_beside_main}
        onChange={(surge_beside_main) => setPreference({ surge_beside_main })}
      >
        {t("web.board.build.surge")}
      </Check>
      <Check
        checked={preferences.groups_together}
        onChange={(groups_together) => setPreference({ groups_together })}
      >
        {t("web.board.build.groups")}
      </Check>
      <Check
        checked={preferences.separate_warm_devices}
        onChange={(separate_warm_devices) => setPreference({ separate_warm_devices })}
      >
        {t("web.board.build.hot")}
      </Check>
      <Check checked={defaults.use_busbars} onChange={(combs) => setDefault({ use_busbars: combs })}>
        {t("web.board.build.busbars")}
      </Check>
      <FigureField
        label={t("web.board.build.links")}
        unit="mm²"
        value={defaults.min_link_mm2}
        empty={t("web.board.build.by_standard")}
        onCommit={(min_link_mm2) => setDefault({ min_link_mm2 })}
      />
      <FigureField
        label={t("web.board.build.slack")}
        unit="mm"
        required
        value={defaults.extra_length_mm}
        onCommit={(extra_length_mm) => extra_length_mm !== null && setDefault({ extra_length_mm })}
      />
      <Choice
        label={t("web.board.build.link_kind")}
        value={defaults.link_conductor}
        options={[
          { value: "flexible", label: t("web.board.build.link_flexible") },
          { value: "stranded", label: "stranded" },
          { value: "solid", label: "solid" },
        ]}
        onCommit={(conductor) => setDefault({ link_conductor: conductor as typeof defaults.link_conductor })}
      />
      <Check checked={defaults.rcds_ring_fed} onChange={(rcds_ring_fed) => setDefault({ rcds_ring_fed })}>
        {t("web.board.build.ring_fed")}
      </Check>
    </div>
  );
}

function StandingFields({ board, onChange }: Part) {
  const { document } = useJob();
  const mounting: Mounting = board.build.mounting ?? { location: "wall", door: true };
  const stand = (changed: Partial<Mounting>) => onChange({ mounting: { ...mounting, ...changed } });
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1">
      <Choice
        label={t("web.board.build.room")}
        value={mounting.room ?? ""}
        options={[
          { value: "", label: t("web.board.build.room_unknown") },
          ...(document.rooms ?? []).map((room) => ({ value: room.id, label: room.name })),
        ]}
        onCommit={(room) => stand({ room: room || null })}
      />
      <Choice
        label={t("web.board.build.location")}
        value={mounting.location}
        options={PLACES}
        onCommit={(location) => stand({ location: location as Mounting["location"] })}
      />
      <FigureField
        label={t("web.board.build.handle")}
        unit="m"
        value={mounting.highest_handle_m}
        onCommit={(highest_handle_m) => stand({ highest_handle_m })}
      />
      <FigureField
        label={t("web.board.build.bottom_edge")}
        unit="m"
        value={mounting.bottom_edge_m}
        onCommit={(bottom_edge_m) => stand({ bottom_edge_m })}
      />
      <FigureField
        label={t("web.board.build.clear")}
        unit="m"
        value={mounting.clear_depth_m}
        onCommit={(clear_depth_m) => stand({ clear_depth_m })}
      />
      <FigureField
        label={t("web.board.build.distance")}
        unit="m"
        value={mounting.distance_m}
        onCommit={(distance_m) => stand({ distance_m })}
      />
      <FigureField
        label={t("web.board.build.temperature")}
        unit="°C"
        value={mounting.ambient_c}
        empty="25"
        onCommit={(ambient_c) => stand({ ambient_c })}
      />
      <Check checked={mounting.door} onChange={(door) => stand({ door })}>
        {t("web.board.build.door")}
      </Check>
    </div>
  );
}

const PLACES = [
  {
    value: "wall",
    get label() {
      return t("web.board.build.at.wall");
    },
  },
  {
    value: "cupboard",
    get label() {
      return t("web.board.build.at.cupboard");
    },
  },
  {
    value: "clothes-closet",
    get label() {
      return t("web.board.build.at.closet");
    },
  },
  {
    value: "under-stairs",
    get label() {
      return t("web.board.build.at.under_stairs");
    },
  },
  {
    value: "over-stairs",
    get label() {
      return t("web.board.build.at.over_stairs");
    },
  },
  {
    value: "escape-route",
    get label() {
      return t("web.board.build.at.escape");
    },
  },
  {
    value: "hydrant-cupboard",
    get label() {
      return t("web.board.build.at.hydrant");
    },
  },
  {
    value: "over-water",
    get label() {
      return t("web.board.build.at.water");
    },
  },
];
