import type { ReactNode } from 'react';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';

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

/** The working surface: a list on the left, the object in the middle, evidence on the right; sizes are remembered. */
export function Working({ id, left, leftLabel, middle, right, rightLabel, leftSize = '24%' }: WorkingProps) {
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
