import type { SEEN } from '../core/insight/index.ts';
import { newName } from './names.ts';

const GATHER_MS = 1_500;

type What = (typeof SEEN)[number];

declare global {
  interface Navigator {
    /** Global Privacy Control (W3C): the visitor asks not to be followed. */
    globalPrivacyControl?: boolean;
  }
}

/** One showing of a form. */
interface Showing {
  /** Where it is told. */
  to: string;
  /** The form, as its public address names it. */
  id: string;
  /** Which of its variants it is; '' for none. */
  variant: string;
  /** A name of its own; absent for a new one. */
  showing?: string;
}

/** Tells something of a showing. It is told once, whatever happens. */
export type Tell = (what: What, question?: string) => void;

/** Tells how a form is met: never what is entered, and nothing to those who ask not to be followed. */
export function telling({ to, id, variant, showing = newName() }: Showing): Tell {
  if (navigator.globalPrivacyControl === true) return () => {};
  const told = new Set<string>();
  let waiting: { what: What; question: string }[] = [];
  let timer: ReturnType<typeof setTimeout> | undefined;
  const tell = (leaving = false) => {
    clearTimeout(timer);
    timer = undefined;
    if (waiting.length === 0) return;
    const page = location.href;
    const body = JSON.stringify({ form: id, variant, showing, page, referrer: document.referrer, events: waiting });
    waiting = [];
    if (leaving && navigator.sendBeacon(to, body)) return;
    // What cannot be told is not counted, and nothing else follows from it.
    void fetch(to, { method: 'POST', body, keepalive: true, credentials: 'omit' }).catch(() => {});
  };
  addEventListener('pagehide', () => tell(true));
  return (what, question = '') => {
    const name = `${what} ${question}`;
    if (told.has(name)) return;
    told.add(name);
    waiting.push({ what, question });
    timer ??= setTimeout(tell, GATHER_MS);
  };
}

/** Tells when something comes into view. */
export function seeing(root: HTMLElement, tell: Tell): void {
  const observer = new IntersectionObserver(
    (entries) => {
      if (!entries.some(({ isIntersecting }) => isIntersecting)) return;
      observer.disconnect();
      tell('shown');
    },
    { threshold: 0.3 },
  );
  observer.observe(root);
}

/**
 * Tells how a form is met: that it was seen, that something was entered, which questions were answered.
 * @param root what the form stands in
 */
export function count(root: HTMLElement, tell: Tell): void {
  seeing(root, tell);
  root.addEventListener('input', () => tell('started'));
  root.addEventListener('change', ({ target }) => {
    if (
      target instanceof HTMLInputElement ||
      target instanceof HTMLSelectElement ||
      target instanceof HTMLTextAreaElement
    )
      tell('answered', target.name.split('.')[0]);
  });
}
