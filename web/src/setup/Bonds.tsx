import { Trash2 } from "lucide-react";
import type { Supply } from "../api/client";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice, Field, TextBox } from "../ui/Field";
import { SizeChoice } from "./SizeChoice";

type Earthing = NonNullable<Supply["earthing"]>;
type Main = NonNullable<Earthing["bonds"]>[number];
type InRoom = NonNullable<Earthing["supplementary"]>[number];

const ENTERING = () => [
  t("web.setup.bonding.water"),
  t("web.setup.bonding.gas"),
  t("web.setup.bonding.oil"),
  t("web.setup.bonding.heating"),
  t("web.setup.bonding.steel"),
];

/** Metalwork that enters and is bonded at the main earth. */
export function MainBonds({ bonds, onChange }: { bonds: Main[]; onChange: (bonds: Main[]) => void }) {
  const set = (at: number, part: Partial<Main>) => onChange(changedAt(bonds, at, part));
  return (
    <>
      <ul className="flex flex-col gap-2">
        {bonds.map((bond, at) => (
          <li key={at} className="grid grid-cols-[1fr_9rem_2rem] items-end gap-2">
            <Metalwork name={bond.name} onCommit={(name) => set(at, { name })} />
            <SizeChoice
              label={t("web.setup.bonding.size")}
              value={bond.area_mm2}
              onCommit={(area_mm2) => set(at, { area_mm2 })}
            />
            <TakeOut name={bond.name} onClick={() => onChange(without(bonds, at))} />
          </li>
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap gap-2">
        {ENTERING()
          .filter((name) => !bonds.some((bond) => bond.name === name))
          .map((name) => (
            <Button key={name} onClick={() => onChange([...bonds, { name }])}>
              + {name}
            </Button>
          ))}
      </div>
    </>
  );
}

/** Conductors that join metalwork within a room, each by the protective conductor of the part it joins. */
export function RoomBonds({ bonds, onChange }: { bonds: InRoom[]; onChange: (bonds: InRoom[]) => void }) {
  const set = (at: number, part: Partial<InRoom>) => onChange(changedAt(bonds, at, part));
  return (
    <>
      <ul className="flex flex-col gap-2">
        {bonds.map((bond, at) => (
          <li
            key={at}
            className="grid grid-cols-2 items-end gap-2 sm:grid-cols-[1fr_8rem_8rem_8rem_8rem_2rem]"
          >
            <Metalwork name={bond.name} onCommit={(name) => set(at, { name })} />
            <SizeChoice
              label={t("web.setup.bonding.size")}
              value={bond.area_mm2}
              onCommit={(area_mm2) => set(at, { area_mm2 })}
            />
            <Choice
              label={t("web.setup.bonding.to")}
              value={bond.to ?? "pipe"}
              options={[
                { value: "pipe", label: "metalwork" },
                { value: "part", label: t("web.setup.bonding.to_part") },
              ]}
              onCommit={(to) => set(at, { to: to as InRoom["to"] })}
            />
            <SizeChoice
              label={t("web.setup.bonding.part_cpc")}
              value={bond.protective_mm2}
              onCommit={(protective_mm2) => set(at, { protective_mm2 })}
            />
            <Choice
              label={t("web.setup.bonding.protection")}
              value={bond.protected === false ? "bare" : "protected"}
              options={[
                { value: "protected", label: "protected" },
                { value: "bare", label: "unprotected" },
              ]}
              onCommit={(laid) => set(at, { protected: laid === "protected" })}
            />
            <TakeOut name={bond.name} onClick={() => onChange(without(bonds, at))} />
          </li>
        ))}
      </ul>
      <Button
        variant={bonds.length ? "plain" : "quiet"}
        className="mt-2"
        onClick={() =>
          onChange([...bonds, { name: t("web.setup.bonding.default_name"), to: "pipe", protected: true }])
        }
      >
        {t("web.setup.bonding.add_room")}
      </Button>
    </>
  );
}

function Metalwork({ name, onCommit }: { name: string; onCommit: (name: string) => void }) {
  return (
    <Field label={t("web.setup.bonding.metalwork")}>
      {(id) => (
        <TextBox
          id={id}
          value={name}
          maxLength={120}
          onCommit={(text) => text.trim() && onCommit(text.trim())}
        />
      )}
    </Field>
  );
}

function TakeOut({ name, onClick }: { name: string; onClick: () => void }) {
  return (
    <Button variant="quiet" aria-label={t("web.setup.bonding.remove", { name: name })} onClick={onClick}>
      <Trash2 size={14} aria-hidden />
    </Button>
  );
}

const changedAt = <T,>(list: T[], at: number, part: Partial<T>) =>
  list.map((bond, index) => (index === at ? { ...bond, ...part } : bond));

const without = <T,>(list: T[], at: number) => list.filter((_, index) => index !== at);
