import type { ReactNode } from 'react';

/** A small label above a control, in a grid of settings. */
export function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="flex flex-col min-w-0">
      <span className="text-muted text-sm">{label}</span>
      {children}
    </label>
  );
}
