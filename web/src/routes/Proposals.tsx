import type { PlanView } from "../api/client";
import { t } from "../messages/text";
import { Button } from "../ui/Button";

/** What each room usually has and lacks, as lines: one is taken by its button, or all of a room. */
export function Proposals({
  proposals,
  onEnter,
}: {
  proposals: PlanView["proposals"];
  onEnter: (lines: readonly string[]) => void;
}) {
  if (proposals.length === 0) return null;
  return (
    <details className="mt-2 text-[12.5px]" data-testid="proposals">
      <summary className="cursor-pointer text-accent">{t("web.routes.proposals")}</summary>
      <ul>
        {proposals.map(({ room, name, lines }) => (
          <li key={room} data-proposal={room} className="flex flex-wrap items-center gap-1.5 py-1">
            <strong className="w-28 font-semibold">{name}</strong>
            {lines.map((line) => (
              <Button key={line} className="figure" onClick={() => onEnter([line])}>
                {line}
              </Button>
            ))}
            {lines.length > 1 && (
              <Button variant="quiet" onClick={() => onEnter(lines)}>
                {t("web.routes.take_all", { room: name })}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}
