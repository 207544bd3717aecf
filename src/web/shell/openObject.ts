import { useEffect, useSyncExternalStore } from 'react';

/** What is open in the working surface, as the bottom line tells it. */
interface OpenObject {
  name: string;
  standing: string;
  /** What happened at `at`. */
  what: string;
  at: string | null;
}

let open: OpenObject | null = null;
const listeners = new Set<() => void>();

function set(next: OpenObject | null): void {
  open = next;
  listeners.forEach((listener) => listener());
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

export const useOpenObject = () => useSyncExternalStore(subscribe, () => open);

/** Tells the bottom line what is open, for as long as the calling view is. */
export function useTellOpen(name: string, standing: string, what: string, at: string | null): void {
  useEffect(() => {
    set({ name, standing, what, at });
    return () => set(null);
  }, [name, standing, what, at]);
}
