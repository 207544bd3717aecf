import { useState, type ReactNode } from 'react';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import { useNarrow } from './useNarrow.ts';

interface WorkingProps {
  /** Names the layout, so that its sizes are remembered. */
  id: string;
  left?: ReactNode;
  leftLabel?: string;
  middle: ReactNode;
  right?: ReactNode;
  rightLabel?: string;
  /** Share of the width that the list starts with. */
  leftSize?: string;
}

/**
 * The working surface: a list on the left, the object in the middle, evidence on the right; sizes are remembered. Where there is
 * room for one column only, one of them is shown at a time.
 */
export function Working(props: WorkingProps) {
  return useNarrow() ? <OneColumn {...props} /> : <Columns {...props} />;
}

function OneColumn({ left, leftLabel, middle, right, rightLabel }: WorkingProps) {
  const [shown, setShown] = useState<'left' | 'middle' | 'right'>('middle');
  const parts = [
    { id: 'left' as const, label: leftLabel ?? 'List', node: left },
    { id: 'middle' as const, label: 'Details', node: middle },
    { id: 'right' as const, label: rightLabel ?? 'Evidence', node: right },
  ].filter(({ node }) => node !== undefined);
  const now = parts.find(({ id }) => id === shown);
  return (
    <div className="h-full min-h-0 flex flex-col">
      {parts.length > 1 && (
        <nav aria-label="Parts of the page" className="flex gap-1 p-1 border-b border-base-300 shrink-0">
          {parts.map(({ id, label }) => (
            <button
              key={id}
              className={`btn btn-sm h-auto py-1 leading-tight flex-1 ${id === shown ? 'btn-primary' : ''}`}
              aria-pressed={id === shown}
              onClick={() => setShown(id)}
            >
              {label}
            </button>
          ))}
        </nav>
      )}
      <section className="flex-1 min-h-0 overflow-auto" aria-label={now?.label} tabIndex={0}>
        {now?.node}
      </section>
    </div>
  );
}

function Columns({ id, left, leftLabel, middle, right, rightLabel, leftSize = '24%' }: WorkingProps) {
  const panelIds = [...(left ? ['left'] : []), 'middle', ...(right ? ['right'] : [])];
  const layout = useDefaultLayout({ id: `iwashi-${id}`, panelIds, storage: localStorage });
  return (
    <Group
      orientation="horizontal"
      className="h-full min-h-0"
      defaultLayout={layout.defaultLayout}
      onLayoutChanged={layout.onLayoutChanged}
    >
      {left && (
        <>
          <Panel id="left" defaultSize={leftSize} minSize="180px" className="overflow-hidden">
            <section aria-label={leftLabel} className="h-full overflow-auto border-r border-base-300" tabIndex={0}>
              {left}
            </section>
          </Panel>
          <Handle label={`Width of ${leftLabel ?? 'the list'}`} />
        </>
      )}
      <Panel id="middle" minSize="320px" className="overflow-hidden">
        <div className="h-full overflow-auto" tabIndex={0} role="region" aria-label="Details">
          {middle}
        </div>
      </Panel>
      {right && (
        <>
          <Handle label={`Width of ${rightLabel ?? 'the evidence'}`} />
          <Panel id="right" defaultSize="26%" minSize="220px" className="overflow-hidden">
            <section aria-label={rightLabel} className="h-full overflow-auto border-l border-base-300" tabIndex={0}>
              {right}
            </section>
          </Panel>
        </>
      )}
    </Group>
  );
}

function Handle({ label }: { label: string }) {
  return (
    <Separator aria-label={label} className="w-1 shrink-0 bg-transparent hover:bg-primary focus-visible:bg-primary" />
  );
}
