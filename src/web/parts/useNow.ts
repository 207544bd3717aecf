import { useSyncExternalStore } from 'react';

const EVERY_MS = 10_000;
let now = Date.now();
const listeners = new Set<() => void>();
let timer: ReturnType<typeof setInterval> | null = null;

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  timer ??= setInterval(() => {
    now = Date.now();
    listeners.forEach((call) => call());
  }, EVERY_MS);
  return () => {
    listeners.delete(listener);
    if (listeners.size > 0 || timer === null) return;
    clearInterval(timer);
    timer = null;
  };
}

/** The time, in milliseconds since 1970, to within ten seconds; what shows it is drawn anew as it passes. */
export function useNow(): number {
  return useSyncExternalStore(subscribe, () => {
    if (Date.now() - now > EVERY_MS) now = Date.now();
    return now;
  });
}
