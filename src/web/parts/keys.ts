import { useEffect } from 'react';

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** Calls back for single keys that are pressed outside of inputs. */
export function useKeys(keys: Record<string, (event: KeyboardEvent) => void>): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      const act = keys[event.key];
      if (!act) return;
      event.preventDefault();
      act(event);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
}

/** Arrow keys move between the links of a list; Home and End go to its ends. Enter follows, as links do. */
export function moveInList(event: React.KeyboardEvent<HTMLElement>): void {
  const steps: Record<string, number> = { ArrowDown: 1, ArrowUp: -1, Home: -Infinity, End: Infinity };
  const step = steps[event.key];
  if (step === undefined || isTyping(event.target)) return;
  const links = [...event.currentTarget.querySelectorAll<HTMLElement>('a[data-row]')];
  const now = links.indexOf(document.activeElement as HTMLElement);
  const next = Math.min(links.length - 1, Math.max(0, now < 0 ? 0 : now + step));
  event.preventDefault();
  links[next]?.focus();
}
