import type { Board, ControlGear } from "../api/client";
import { useJob } from "../job/JobContext";
import { circuitById, freeId, withBoard } from "../job/jobModel";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { Choice, Field, FigureField, TextBox } from "../ui/Field";

/** Contactors with what they switch, and the gear behind one circuit. */
export function ControlGearList({ board }: { board: Board }) {
  const { document, rules, edit } = useJob();
  const put = (gear: ControlGear[]) => edit(withBoard(document, { ...board, control_gear: gear }));
  const ways = board.ways ?? [];
  const groups = (board.shared_rcds ?? []).map((group) => ({ id: group.id, name: group.name }));
  const circuits = ways.map((way) => ({
    id: way.circuit,
    name: circuitById(document, way.circuit)?.name ?? "",
  }));
  const add = (kind: ControlGear["kind"]) => {
    const free = circuits.find((circuit) => !ways.find((way) => way.circuit === circuit.id)?.rcd);
    const traits = rules.gear_kinds.find((known) => known.id === kind);
    const first = traits?.upstream ? (free ?? groups[0]) : circuits[0];
    if (!first || !traits) return;
    const gear: ControlGear = {
      id: freeId("k", board.control_gear),
      name: say(traits.title),
      kind,
      rating_a: traits.rating_a,
      switches: [first.id],
      coil_breaker_a: traits.coil_breaker_a,
    };
    put([...board.control_gear, gear]);
  };
  return (
    <div className="flex flex-col gap-2">
      {board.control_gear.map((gear) => {
        const set = (changed: Partial<ControlGear>) =>
          put(board.control_gear.map((other) => (other.id === gear.id ? { ...gear, ...changed } : other)));
        // What stands behind a shared RCD is switched with it.
        const alone = circuits.filter((circuit) => !ways.find((way) => way.circuit === circuit.id)?.rcd);
        const traits = rules.gear_kinds.find((known) => known.id === gear.kind);
        const offered = traits?.upstream ? [...groups, ...alone] : circuits;
        return (
          <fieldset key={gear.id} className="rounded-lg border border-line p-2" data-gear={gear.id}>
            <legend className="px-1 text-[12.5px] font-medium">{gear.name}</legend>
            {traits?.upstream ? (
              <div className="flex flex-wrap gap-x-3 text-[12.5px]">
                {offered.map((kind) => (
                  <Check
                    key={kind.id}
                    className="flex items-center gap-1"
                    checked={gear.switches.includes(kind.id)}
                    onChange={(checked) => {
                      const next = checked
                        ? [...gear.switches, kind.id]
                        : gear.switches.filter((name) => name !== kind.id);
                      if (next.length) set({ switches: next });
                    }}
                  >
                    {kind.name}
                  </Check>
                ))}
              </div>
            ) : (
              <Choice
                label={t("web.board.build.gear.circuit")}
                value={gear.switches[0] ?? ""}
                options={offered.map((kind) => ({ value: kind.id, label: kind.name }))}
                onCommit={(id) => set({ switches: [id] })}
              />
            )}
            <div className="mt-1 grid grid-cols-2 gap-2">
              <FigureField
                label={t("web.board.build.gear.rating")}
                unit="A"
                required
                value={gear.rating_a}
                onCommit={(rating_a) => rating_a && set({ rating_a })}
              />
              {traits?.motor_category && (
                <>
                  <FigureField
                    label={t("web.board.build.gear.motors")}
                    unit="A"
                    value={gear.motor_rating_a}
                    empty={t("web.surge.uc_hint")}
                    hint={traits.motor_category}
                    onCommit={(motor_rating_a) => set({ motor_rating_a })}
                  />
                  <FigureField
                    label={t("web.board.build.gear.upstream")}
                    unit="A"
                    value={gear.max_backup_a}
                    empty={t("web.surge.uc_hint")}
                    onCommit={(max_backup_a) => set({ max_backup_a })}
                  />
                </>
              )}
              {gear.kind === "impulse-relay" && (
                <Field
                  label={t("web.board.build.gear.central")}
                  hint={t("web.board.build.gear.central_hint")}
                >
                  {(id) => (
                    <TextBox
                      id={id}
                      value={gear.central_off ?? ""}
                      maxLength={120}
                      onCommit={(name) => set({ central_off: name.trim() || null })}
                    />
                  )}
                </Field>
              )}
              {traits?.upstream && (
                <Choice
                  label={t("web.board.build.gear.coil_with")}
                  value={gear.coil_with ?? ""}
                  options={[
                    { value: "", label: t("web.board.build.gear.coil_own") },
                    ...board.control_gear
                      .filter((other) => other.kind === gear.kind && other.id !== gear.id && !other.coil_with)
                      .map((other) => ({ value: other.id, label: other.name })),
                  ]}
                  disabled={board.control_gear.some((other) => other.coil_with === gear.id)}
                  onCommit={(id) => set({ coil_with: id || null })}
                />
              )}
              {traits?.coil_breaker_a && !gear.coil_with && (
                <FigureField
                  label={t("web.board.build.gear.coil")}
                  unit="A"
                  value={gear.coil_breaker_a}
                  empty={t("web.board.build.enclosure_none")}
                  onCommit={(coil_breaker_a) => set({ coil_breaker_a })}
                />
              )}
            </div>
            <Button
              variant="quiet"
              onClick={() =>
                put(
                  board.control_gear
                    .filter((other) => other.id !== gear.id)
                    .map((other) => (other.coil_with === gear.id ? { ...other, coil_with: null } : other)),
                )
              }
            >
              {t("web.board.build.gear.remove")}
            </Button>
          </fieldset>
        );
      })}
      <div className="flex flex-wrap gap-1">
        {rules.gear_kinds.map((kind) => (
          <Button key={kind.id} disabled={!circuits.length} onClick={() => add(kind.id)}>
            + {say(kind.title)}
          </Button>
        ))}
      </div>
    </div>
  );
}
