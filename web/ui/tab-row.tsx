import { Tabs } from 'radix-ui';

/** The tabs of what stands below them, in a row; within the `Tabs.Root` that holds both. */
export function TabRow({ label, tabs }: { label: string; tabs: readonly { readonly id: string; readonly title: string }[] }) {
  return (
    <Tabs.List aria-label={label} className="flex w-fit border border-rule">
      {tabs.map(({ id, title }) => (
        <Tabs.Trigger
          key={id}
          value={id}
          className="px-3 py-1 text-dim data-[state=active]:bg-ink data-[state=active]:font-bold data-[state=active]:text-plate"
        >
          {title}
        </Tabs.Trigger>
      ))}
    </Tabs.List>
  );
}
