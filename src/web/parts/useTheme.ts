import { useSyncExternalStore } from 'react';

type Theme = 'day' | 'night';
const KEY = 'iwashi-theme';
const listeners = new Set<() => void>();

function current(): Theme {
  const chosen = localStorage.getItem(KEY);
  if (chosen === 'day' || chosen === 'night') return chosen;
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day';
}

/** Puts the theme on the document; called once before anything is drawn. */
export function applyTheme(): void {
  document.documentElement.dataset.theme = current();
}

export function useTheme(): [Theme, (theme: Theme) => void] {
  const theme = useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, current);
  const choose = (next: Theme) => {
    localStorage.setItem(KEY, next);
    applyTheme();
    listeners.forEach((listener) => listener());
  };
  return [theme, choose];
}
