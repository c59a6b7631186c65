import { Refused } from "../api/errors";
import { NeedLine } from "./NeedLine";

/** Why a page cannot show what it is for: each value that is missing with its box, else the error. */
export function Lacking({ error }: { error: Error }) {
  const needs =
    error instanceof Refused && error.problem.type.endsWith(":needs-input")
      ? (error.problem.problems ?? [])
      : [];
  if (!needs.length) return <p className="text-[13px] text-missing">{error.message}</p>;
  return (
    <ul className="flex max-w-xl flex-col gap-3 rounded-xl border border-dashed border-missing bg-sheet p-4">
      {needs.map((need) => (
        <li key={`${need.path} ${need.message}`}>
          <NeedLine path={need.path} text={need.message} />
        </li>
      ))}
    </ul>
  );
}
