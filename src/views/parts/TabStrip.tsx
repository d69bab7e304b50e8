import { type ComponentProps, type KeyboardEvent, type ReactNode, useRef } from "react";

interface TabStripProps<Id extends string> {
  readonly label: string;
  /** Each by its id, with its words and what else stands on it. */
  readonly tabs: readonly (readonly [Id, ReactNode])[];
  readonly chosen: Id;
  readonly onChoose: (id: Id) => void;
  /** The id of the panel that it shows (see `TabPanel`). */
  readonly panelId: string;
  readonly className?: string;
}

const tabId = (panelId: string, id: string) => `${panelId}-${id.replaceAll(/\W+/g, "-")}`;

/** The tabs over a panel: one stop of Tab, walked with the arrow keys, Home and End; what is walked to is shown. */
export function TabStrip<Id extends string>({ label, tabs, chosen, onChoose, panelId, className }: TabStripProps<Id>) {
  const strip = useRef<HTMLDivElement>(null);
  const onKeyDown = (event: KeyboardEvent) => {
    const at = tabs.findIndex(([id]) => id === chosen);
    const last = tabs.length - 1;
    const goal = {
      ArrowRight: at === last ? 0 : at + 1,
      ArrowLeft: at === 0 ? last : at - 1,
      Home: 0,
      End: last,
    }[event.key];
    const next = goal === undefined ? undefined : tabs[goal];
    if (!next) return;
    event.preventDefault();
    onChoose(next[0]);
    strip.current?.querySelector<HTMLElement>(`#${CSS.escape(tabId(panelId, next[0]))}`)?.focus();
  };
  return (
    <div
      ref={strip}
      role="tablist"
      aria-label={label}
      className={`flex flex-wrap gap-x-1 border-b border-base-300 ${className ?? ""}`}
      onKeyDown={onKeyDown}
    >
      {tabs.map(([id, words]) => (
        <button
          key={id}
          type="button"
          role="tab"
          id={tabId(panelId, id)}
          aria-selected={id === chosen}
          aria-controls={panelId}
          tabIndex={id === chosen ? 0 : -1}
          className={`-mb-px cursor-pointer border-b-2 px-2.5 pb-1 text-[0.92rem] ${id === chosen ? "border-primary font-semibold text-primary" : "border-transparent hover:border-base-content/40"}`}
          onClick={() => onChoose(id)}
        >
          {words}
        </button>
      ))}
    </div>
  );
}

interface TabPanelProps extends ComponentProps<"div"> {
  readonly id: string;
  /** The tab whose panel this is now. */
  readonly tab: string;
}

/** What a tab shows. */
export const TabPanel = ({ id, tab, ...rest }: TabPanelProps) => (
  <div role="tabpanel" id={id} aria-labelledby={tabId(id, tab)} {...rest} />
);
