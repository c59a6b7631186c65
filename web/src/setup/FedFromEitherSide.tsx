import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { fromYesNo, YES_NO, yesNo } from "../ui/Check";
import { Choice } from "../ui/Field";

/** Whether a device with electronics may be fed from either side: shown in a job that has a source. */
export function FedFromEitherSide({
  value,
  onCommit,
}: {
  value: boolean | null | undefined;
  onCommit: (value: boolean | null) => void;
}) {
  const { document } = useJob();
  if (!document.circuits?.some((circuit) => circuit.source)) return null;
  return (
    <Choice
      label={t("web.setup.boards.either_side")}
      value={yesNo(value)}
      options={YES_NO}
      onCommit={(text) => onCommit(fromYesNo(text))}
    />
  );
}
