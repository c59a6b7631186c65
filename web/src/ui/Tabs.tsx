import { Tabs } from "radix-ui";
import type { ReactNode } from "react";

/** Parts of a view, one shown at a time: the list of them and the panel stand wherever the view puts them within. */
export function TabView<Id extends string>({
  value,
  onChange,
  className,
  children,
}: {
  value: Id;
  onChange: (id: Id) => void;
  className?: string;
  children: ReactNode;
}) {
  return (
    <Tabs.Root
      value={value}
      onValueChange={(id) => onChange(id as Id)}
      activationMode="manual"
      className={className ?? "contents"}
    >
      {children}
    </Tabs.Root>
  );
}

/** The parts by name; arrow keys go along them, Enter shows one. */
export function TabList({ label, tabs }: { label: string; tabs: readonly { id: string; title: string }[] }) {
  return (
    <Tabs.List aria-label={label} className="flex flex-wrap gap-1">
      {tabs.map((tab) => (
        <Tabs.Trigger
          key={tab.id}
          value={tab.id}
          className="rounded-md px-2.5 py-1 text-[13px] font-medium text-soft hover:text-ink data-[state=active]:bg-accent data-[state=active]:text-accent-ink"
        >
          {tab.title}
        </Tabs.Trigger>
      ))}
    </Tabs.List>
  );
}

/** What the tab of this id shows. */
export function TabPanel({
  id,
  className,
  children,
}: {
  id: string;
  className?: string;
  children: ReactNode;
}) {
  return (
    <Tabs.Content value={id} className={className} tabIndex={-1}>
      {children}
    </Tabs.Content>
  );
}
