import { useState } from "react";
import { answered, client, type InspectionView } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { type Key, t } from "../messages/text";
import { shownTime, wallClock } from "../readings/testModel";
import { Button } from "../ui/Button";
import { Field, TextBox } from "../ui/Field";
import { withInspection } from "./inspectionModel";

type Declared = InspectionView["declarations"][number];

const TITLES: Record<Declared["role"], Key> = {
  design: "web.inspection.role.design",
  construction: "web.inspection.role.construction",
  inspection: "web.inspection.role.inspection",
};
const SHOWN = 8;

/** What is left to settle, and the declarations: the job is closed by the one of inspection and testing. */
export function SignOff({ view, by }: { view: InspectionView; by: string }) {
  const [all, setAll] = useState(false);
  const shown = all ? view.open : view.open.slice(0, SHOWN);
  return (
    <section
      aria-label={t("web.inspection.sign_off")}
      className="rounded-xl border border-line bg-sheet p-3 text-[13px]"
      data-testid="sign-off"
      data-closed={view.closed}
    >
      <h2 className="text-[14px] font-semibold">
        {view.closed ? t("web.inspection.closed") : t("web.inspection.sign_off")}
      </h2>
      {view.open.length > 0 && (
        <>
          <p className="text-soft">{t("web.inspection.open", { n: view.open.length })}</p>
          <ul className="my-1 list-disc pl-4 text-[12.5px]" data-testid="open-items">
            {shown.map((item, at) => (
              <li key={at}>{say(item.text)}</li>
            ))}
          </ul>
          {view.open.length > SHOWN && (
            <Button variant="quiet" onClick={() => setAll(!all)}>
              {t(all ? "web.inspection.fewer" : "web.inspection.all_open", { n: view.open.length })}
            </Button>
          )}
        </>
      )}
      {view.declarations.map((each) => (
        <Declaration key={each.role} declared={each} by={by} />
      ))}
    </section>
  );
}

function Declaration({ declared, by }: { declared: Declared; by: string }) {
  const { role, ready, signed } = declared;
  const title = t(TITLES[role]);
  const { document, edit, notify } = useJob();
  const [name, setName] = useState("");
  const [position, setPosition] = useState("");
  const signer = name || by;
  const sign = async () => {
    try {
      const body = { document, role, by: signer, position, at: wallClock(new Date()) };
      const { document: next } = await answered(client.POST("/api/inspection/sign", { body }));
      edit(next, document);
    } catch (reason) {
      notify(reason instanceof Error ? reason.message : String(reason));
    }
  };
  const remove = () =>
    edit(
      withInspection(document, {
        signatures: (document.inspection?.signatures ?? []).filter((each) => each.role !== role),
      }),
    );
  return (
    <fieldset className="mt-2 border-t border-line pt-2" data-role={role}>
      <legend className="sr-only">{title}</legend>
      <p className="font-medium">{title}</p>
      {signed ? (
        <>
          <p>
            {[signed.signature.by, signed.signature.position].filter(Boolean).join(", ")}
            <span className="figure ml-2 text-soft">{shownTime(signed.signature.at)}</span>
          </p>
          {!signed.unchanged && <p className="text-fail">{t("web.inspection.changed")}</p>}
          <span className="flex gap-2">
            {!signed.unchanged && (
              <Button disabled={!ready} onClick={() => void sign()}>
                {t("web.inspection.sign_again")}
              </Button>
            )}
            <Button variant="quiet" onClick={remove}>
              {t("web.inspection.remove_signature")}
            </Button>
          </span>
        </>
      ) : (
        <div className="grid grid-cols-2 items-end gap-2">
          <Field label={t("web.inspection.name")}>
            {(id) => <TextBox id={id} value={signer} maxLength={80} onCommit={setName} />}
          </Field>
          <Field label={t("web.inspection.position")}>
            {(id) => <TextBox id={id} value={position} maxLength={120} onCommit={setPosition} />}
          </Field>
          <Button variant="strong" disabled={!ready || !signer.trim()} onClick={() => void sign()}>
            {t("web.inspection.sign")}
          </Button>
        </div>
      )}
    </fieldset>
  );
}
