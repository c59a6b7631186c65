import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answered, client, type DeviceFamily, Refused } from "../api/client";
import { familiesQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { FamilyForm } from "./FamilyForm";

/** The device families that come with the program, and those of the user's own, which travel with the job. */
export function DeviceLibrary() {
  const { document, edit, notify } = useJob();
  const packaged = useQuery(familiesQuery);
  const userFamilies = document.families ?? [];
  const kinds = [...new Set((packaged.data ?? []).map((family) => family.kind))];
  const [wrong, setWrong] = useState<string[]>([]);
  const read = async (text: string): Promise<boolean> => {
    setWrong([]);
    try {
      const families = await answered(
        client.POST("/api/families/read", { body: { text, taken: userFamilies.map((family) => family.id) } }),
      );
      edit({ ...document, families: [...userFamilies, ...families] });
      notify(`${families.length === 1 ? families[0]?.title : `${families.length} families`} added.`);
      return true;
    } catch (reason) {
      if (reason instanceof Refused && reason.problem.problems?.length) {
        setWrong(
          reason.problem.problems.map(
            (problem) => `${problem.path ? `${problem.path}: ` : ""}${problem.message}`,
          ),
        );
      } else setWrong([reason instanceof Error ? reason.message : String(reason)]);
      return false;
    }
  };
  const users = (id: string) =>
    (document.circuits ?? []).filter(
      (circuit) => typeof circuit.device !== "string" && circuit.device?.family === id,
    );
  const remove = (family: DeviceFamily) => {
    const used = users(family.id);
    if (used.length) return notify(`${used.map((circuit) => circuit.name).join(", ")} use ${family.title}.`);
    edit({ ...document, families: userFamilies.filter((other) => other.id !== family.id) });
  };
  return (
    <div className="flex flex-col gap-4">
      <section
        aria-label={t("web.library.own_section")}
        className="rounded-xl border border-line bg-sheet p-4"
      >
        <h2 className="font-semibold">{t("web.library.own_title")}</h2>
        <p className="mb-2 max-w-3xl text-[12.5px] text-soft">{t("web.library.own_text")}</p>
        <FamilyForm kinds={kinds} onRead={read} />
        {wrong.length > 0 && (
          <ul
            role="alert"
            className="mt-2 list-disc pl-5 text-[13px] text-fail"
            data-testid="refused-families"
          >
            {wrong.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        )}
        {userFamilies.length > 0 && <Families families={userFamilies} onRemove={remove} />}
      </section>
      <section
        aria-label={t("web.library.packaged_section")}
        className="rounded-xl border border-line bg-sheet p-4"
      >
        <h2 className="font-semibold">{t("web.library.packaged_title")}</h2>
        <p className="mb-2 text-[12.5px] text-soft">{t("web.library.packaged_text")}</p>
        {packaged.data && <Families families={packaged.data} />}
      </section>
    </div>
  );
}

const span = (values: readonly number[] | undefined) =>
  !values?.length
    ? "–"
    : values.length === 1
      ? String(values[0])
      : `${Math.min(...values)}–${Math.max(...values)}`;

function Families({
  families,
  onRemove,
}: {
  families: DeviceFamily[];
  onRemove?: (family: DeviceFamily) => void;
}) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a wide table is scrolled by key too
    <div className="overflow-x-auto" tabIndex={0}>
      <table className="mt-2 w-full text-left text-[12.5px]">
        <thead className="text-soft">
          <tr>
            {[
              t("web.library.head.family"),
              t("web.library.head.kind"),
              t("web.library.head.modules"),
              t("web.library.head.ratings"),
              t("web.library.head.breaking"),
              t("web.library.head.class"),
              t("web.library.head.idn"),
              t("web.library.head.terminals"),
              t("web.library.head.torque"),
              t("web.library.head.busbar"),
              t("web.library.head.loss"),
              t("web.library.head.up"),
              t("web.library.head.price"),
            ].map((head) => (
              <th key={head} scope="col" className="whitespace-nowrap pr-3 font-medium">
                {head}
              </th>
            ))}
            {onRemove && <th />}
          </tr>
        </thead>
        <tbody className="figure">
          {families.map((family) => (
            <tr key={family.id} className="border-t border-line">
              <th scope="row" className="whitespace-nowrap py-0.5 pr-3 font-sans font-medium">
                {family.title}
              </th>
              <td className="pr-3 font-sans">{family.kind}</td>
              <td className="pr-3">{family.modules}</td>
              <td className="pr-3">{span(family.ratings_a)}</td>
              <td className="pr-3">{family.breaking_ka ?? "–"}</td>
              <td className="pr-3">{family.energy_class ?? "–"}</td>
              <td className="pr-3">
                {family.idn_ma?.length ? `${span(family.idn_ma)} ${family.rcd_type ?? ""}` : "–"}
              </td>
              <td className="pr-3">
                {family.terminal_to_mm2
                  ? `${family.terminal_from_mm2 ?? "…"}–${family.terminal_to_mm2}`
                  : "–"}
              </td>
              <td className="pr-3">{family.torque_nm ?? "–"}</td>
              <td className="pr-3">{family.busbar_height_mm ?? "–"}</td>
              <td className="pr-3">{span(family.loss_w)}</td>
              <td className="pr-3">{family.up_kv ?? "–"}</td>
              <td className="pr-3">{family.price ?? "–"}</td>
              {onRemove && (
                <td>
                  <Button
                    variant="quiet"
                    onClick={() => onRemove(family)}
                    aria-label={t("web.library.remove_label", { family: family.title })}
                  >
                    {t("web.library.remove")}
                  </Button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
