import type { SentPart, WorkWanted } from '../contract/placing.ts';
import { newName } from './names.ts';
import { NotInPieces, sendAhead, type Ahead } from './pieces.ts';
import { clock, fill } from './taking.ts';
import { canWork, workOut } from './working.ts';
import { ELAPSED_FIELD, KEY_FIELD, PAGE_FIELD, REFERRER_FIELD, WORK_FIELD } from '../core/forms/inputs.ts';

const FIRST_REST_MS = 1_000;
const LONGEST_REST_MS = 15_000;
const PATIENCE_MS = 20_000;
const TRIES_BEFORE_PLAIN = 3;

/** Which of our addresses the page's policy blocks: then forms are sent as the browser sends them. */
const blocked = new Set<string>();
document.addEventListener('securitypolicyviolation', ({ blockedURI }) => {
  try {
    blocked.add(new URL(blockedURI).origin);
  } catch {
    // Not an address, such as "inline".
  }
});

/** Who sends a form, and what follows. */
interface Sender {
  /** What goes along with it, by the names of inputs; '' for nothing. */
  more: () => Record<string, string>;
  /** When it was taken. @param sign by which the visitor is known from here on */
  onTaken: (sign: string) => void;
  /**
   * When something else stands in its place: itself with what is wrong, or by which link it is gone on with.
   * @param took seconds that it took up to now
   */
  onAgain: (root: HTMLElement, took: number) => void;
  /** Seconds that it took before. */
  took: number;
}

/**
 * Makes a form be sent without leaving the page. It is sent again until it is answered, by the same key, so that it counts
 * once; where the page's policy forbids asking, the browser sends it.
 * @param root what the form stands in, and what is replaced by what comes of it
 */
export function enhance(root: HTMLElement, { more, onTaken, onAgain, took: earlier }: Sender): void {
  const form = root.querySelector('form');
  if (!form) return;
  form.noValidate = true;
  const took = clock(form, earlier);
  let busy = false;
  form.addEventListener('submit', (event) => {
    event.preventDefault();
    if (busy) return;
    busy = true;
    void send(form, root, { submitter: event.submitter, more: more() }).then((answer) => {
      busy = false;
      if (!answer) return;
      const next = replace(root, answer.part.html);
      if (answer.done) onTaken(answer.part.visitor ?? '');
      else onAgain(next, took());
      const { next: address, seconds, newTab = false } = answer.part;
      if (address !== null) setTimeout(() => go(address, newTab), 1000 * seconds);
    });
  });
}

/** Takes the visitor on. Where the browser opens no tab of its own, it is this one. */
function go(address: string, newTab: boolean): void {
  const tab = newTab ? open(address, '_blank') : null;
  if (tab) tab.opener = null;
  else location.assign(address);
}

/** @returns what became of it; null when it cannot be known, or the browser sends it */
async function send(
  form: HTMLFormElement,
  root: HTMLElement,
  { submitter, more }: { submitter: HTMLElement | null; more: Record<string, string> },
): Promise<{ part: SentPart; done: boolean } | null> {
  const set = (name: string, value: string) => fill(form, name, value);
  set(ELAPSED_FIELD, String(Math.round(performance.now() / 100) / 10));
  set(PAGE_FIELD, location.href);
  set(REFERRER_FIELD, document.referrer);
  for (const [name, value] of Object.entries(more)) if (value !== '') set(name, value);
  set(KEY_FIELD, newName());
  if (canWork()) set(WORK_FIELD, 'can');
  const { action } = form;
  const data = new FormData(form);
  const texts = [...data].filter((entry): entry is [string, string] => typeof entry[1] === 'string');
  // Without files it is sent as the browser sends it, which is less to read than parts.
  const body = texts.length === [...data].length ? new URLSearchParams(texts) : data;
  if (submitter instanceof HTMLButtonElement && submitter.name !== '') body.set(submitter.name, submitter.value);
  const button = form.querySelector<HTMLButtonElement>('button[type=submit]:not([name])');
  const status = form.querySelector<HTMLElement>('[role=status]');
  const say = (text: string | undefined) => {
    if (!status) return;
    status.textContent = text ?? '';
    status.hidden = !text;
  };
  if (button) button.disabled = true;
  say(form.dataset.sending);
  const ahead = new Map<File, Ahead>();
  /** Whether its files go along with it, whatever their size. */
  let whole = false;
  // Leaving while it waits: the browser carries it, by the same key.
  const leave = () => navigator.sendBeacon(action, body);
  addEventListener('pagehide', leave);
  try {
    for (let rest = FIRST_REST_MS, tries = 1; ; rest = Math.min(2 * rest, LONGEST_REST_MS), tries += 1) {
      let wait = rest;
      try {
        if (body instanceof FormData && !whole)
          await sendAhead(action, body, ahead, (percent) => {
            // As long as it goes on, nothing is given up.
            [tries, rest] = [1, FIRST_REST_MS];
            say(`${form.dataset.sending ?? ''} ${percent} %`);
          });
        const response = await fetch(`${action}?as=part`, {
          method: 'POST',
          body,
          headers: { accept: 'application/json' },
          credentials: 'omit',
          signal: AbortSignal.timeout(PATIENCE_MS),
        });
        if (response.status === 428) {
          body.set(WORK_FIELD, await workOut((await response.json()) as WorkWanted));
          continue;
        }
        if (response.status === 429) wait = 1000 * (Number(response.headers.get('retry-after')) || 10);
        else if (response.status < 500) {
          const answer = (await response.json()) as SentPart & { title?: string };
          if (typeof answer.html === 'string') return { part: answer, done: response.ok && answer.taken };
          say(answer.title);
          return null;
        }
      } catch (error) {
        if (error instanceof NotInPieces) {
          whole = true;
          continue;
        }
        if (blocked.has(new URL(action).origin) || (tries >= TRIES_BEFORE_PLAIN && (await isThere(action)))) {
          removeEventListener('pagehide', leave);
          HTMLFormElement.prototype.submit.call(form);
          return null;
        }
      }
      say(form.dataset.waiting);
      await rested(wait);
      if (!root.isConnected) return null;
    }
  } finally {
    removeEventListener('pagehide', leave);
    if (button) button.disabled = false;
  }
}

/** Whether the server is there for browsers, though not for scripts: something between them keeps these from asking. */
const isThere = (address: string): Promise<boolean> =>
  fetch(address, { mode: 'no-cors', credentials: 'omit', signal: AbortSignal.timeout(PATIENCE_MS) }).then(
    () => true,
    () => false,
  );

/** Waits so long, or until there is a connection again. */
const rested = (ms: number): Promise<void> =>
  new Promise((resolve) => {
    const go = () => {
      clearTimeout(timer);
      removeEventListener('online', go);
      resolve();
    };
    const timer = setTimeout(go, ms);
    addEventListener('online', go);
  });

/** Puts what was answered in the place of a form, and the focus on what it says. */
function replace(root: HTMLElement, html: string): HTMLElement {
  const next = elementIn(html);
  root.replaceWith(next);
  next.querySelector<HTMLElement>('[role=alert], [role=status][tabindex]')?.focus();
  return next;
}

/** The element that HTML of ours is: behind what only says what to load beforehand, such as a picture. Scripts in it do not run. */
export function elementIn(html: string): HTMLElement {
  const template = document.createElement('template');
  template.innerHTML = html;
  return [...template.content.children].find((one) => !one.matches('link, style, script')) as HTMLElement;
}
