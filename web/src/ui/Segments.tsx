import { ToggleGroup } from "radix-ui";

/** One of a few that the whole page is about, such as a board: arrow keys go along them. */
export function Segments({
  label,
  options,
  value,
  onChange,
}: {
  label: string;
  options: readonly { id: string; title: string }[];
  value: string;
  onChange: (id: string) => void;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      // Pressing the one that is chosen leaves it chosen.
      onValueChange={(id) => id && onChange(id)}
      className="flex flex-wrap gap-1"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.id}
          value={option.id}
          className="rounded-md px-2.5 py-1 text-[13px] font-medium text-soft hover:text-ink data-[state=on]:bg-accent data-[state=on]:text-accent-ink"
        >
          {option.title}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
