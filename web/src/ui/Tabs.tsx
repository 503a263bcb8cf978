import { Tab, TabGroup, TabList, TabPanel, TabPanels } from "@headlessui/react";
import type { ReactNode } from "react";

export interface TabItem {
  id: string;
  title: string;
  note?: string | undefined;
  panel: ReactNode;
}

interface TabsProps {
  items: readonly TabItem[];
  /** Lives in the URL. */
  chosen: string;
  onChoose: (id: string) => void;
  label: string;
  /** Stands between the tabs and what they show. */
  above?: ReactNode;
}

/** Tabs that say in which part one is. */
export function Tabs({ items, chosen, onChoose, label, above }: TabsProps) {
  const at = Math.max(
    0,
    items.findIndex((item) => item.id === chosen),
  );
  return (
    <TabGroup
      selectedIndex={at}
      onChange={(index) => {
        const item = items[index];
        if (item) onChoose(item.id);
      }}
    >
      <TabList aria-label={label} className="no-print mb-4 flex border-b border-line">
        {items.map((item) => (
          <Tab
            key={item.id}
            className="-mb-px border-b-[3px] border-transparent px-2.5 py-1.5 whitespace-nowrap text-ink-2 hover:text-ink data-selected:border-fern-700 data-selected:font-semibold data-selected:text-ink"
          >
            {item.title}{" "}
            {item.note && <span className="ml-0.5 text-sm font-normal text-ink-2">{item.note}</span>}
          </Tab>
        ))}
      </TabList>
      {above}
      <TabPanels>
        {items.map((item) => (
          <TabPanel key={item.id} tabIndex={-1} className="focus:outline-none">
            {item.panel}
          </TabPanel>
        ))}
      </TabPanels>
    </TabGroup>
  );
}
