import { cx } from "./cx";

/** One of a few parts of a view, the one in hand marked. */
export function Tabs<Id extends string>({
  label,
  tabs,
  value,
  onChange,
}: {
  label: string;
  tabs: readonly { id: Id; title: string }[];
  value: Id;
  onChange: (id: Id) => void;
}) {
  return (
    <nav aria-label={label} className="flex flex-wrap gap-1">
      {tabs.map((one) => (
        <button
          key={one.id}
          type="button"
          aria-current={one.id === value ? "page" : undefined}
          className={cx(
            "rounded-md px-2.5 py-1 text-[13px] font-medium",
            one.id === value ? "bg-accent text-accent-ink" : "text-soft hover:text-ink",
          )}
          onClick={() => onChange(one.id)}
        >
          {one.title}
        </button>
      ))}
    </nav>
  );
}
