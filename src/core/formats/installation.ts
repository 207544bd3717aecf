import { parse } from 'parse5';
import { scriptLine } from '../showing/index.ts';
import { attribute, elementsIn } from './tree.ts';

/** What is found of our script on a page. */
export interface InstallationFinding {
  ok: boolean;
  /** What it is, in a sentence. */
  found: string;
  /** What helps; '' where nothing is to be done. */
  fix: string;
}

export interface PageFetched {
  html: string;
  /** The page's Content-Security-Policy; '' for none. */
  policy: string;
}

export interface Expected {
  /** Our origin, from which the script comes. */
  server: string;
  /** The form that is to be there, by its part of the address; '' where it shows itself. */
  form: string;
  /** Of one that shows itself: whether it is meant to on this page. */
  isMeant?: boolean;
}

const SCRIPT = /\/place\/script\.js(?:[?#]|$)/;

/** What a page has of us: the script once, from here, allowed to run and to ask, and the place of a form. */
export function judgeInstallation(
  { html, policy }: PageFetched,
  { server, form, isMeant = true }: Expected,
): InstallationFinding[] {
  const page = parse(html);
  const sources = elementsIn(page, ({ tagName }) => tagName === 'script')
    .map((one) => attribute(one, 'src'))
    .filter((src) => SCRIPT.test(src));
  const line = scriptLine(server);
  const ours = sources.filter((src) => src.startsWith(`${server}/`));
  const findings: InstallationFinding[] = [];
  const add = (ok: boolean, found: string, fix = '') => void findings.push({ ok, found, fix });
  const copied = elementsIn(
    page,
    (one) => one.tagName === 'form' && attribute(one, 'action') === `${server}/in/${form}`,
  ).length;
  if (ours.length === 1) add(true, 'The script is there, once.');
  else if (ours.length > 1)
    add(false, `The script is there ${ours.length} times.`, 'Leave one of them, and take the others out.');
  else if (sources.length > 0)
    add(
      false,
      `The script is there from another address: ${sources[0]?.split('/place/')[0]}.`,
      `Put this in its place: ${line}`,
    );
  else if (form !== '' && copied > 0)
    add(true, 'The script is not there. The form is, as plain HTML, which needs none.');
  else add(false, 'The script is not there.', `Put it into the head of the page: ${line}`);
  if (!isMeant)
    add(
      false,
      'It is not to show itself on this page: its pages, under Show it, leave this one out.',
      'Look at one of its pages.',
    );
  if (form !== '' && ours.length > 0 && copied === 0) {
    const places = elementsIn(page, (one) => attribute(one, 'data-iwashi-form') === form).length;
    if (places === 1) add(true, 'The place of the form is there.');
    else if (places > 1) add(false, `The place of the form is there ${places} times.`, 'Leave one of them.');
    else
      add(
        false,
        'The place of the form is not there.',
        `Put it where the form belongs: <div data-iwashi-form="${form}"></div>`,
      );
  }
  const inPage = elementsIn(
    page,
    (one) => one.tagName === 'meta' && attribute(one, 'http-equiv').toLowerCase() === 'content-security-policy',
  );
  const blocked = [policy, ...inPage.map((one) => attribute(one, 'content'))].flatMap((one) => blockedBy(one, server));
  if (blocked.length > 0)
    add(
      false,
      `The page's Content Security Policy keeps ${blocked.join(' and ')} from working.`,
      `Allow ${server} in it: ${blocked.map((one) => `${DIRECTIVES[one]} ${server}`).join('; ')}`,
    );
  return findings;
}

type Blocked = 'the script' | 'its requests' | 'sending';
const DIRECTIVES: Record<Blocked, string> = {
  'the script': 'script-src',
  'its requests': 'connect-src',
  sending: 'form-action',
};

/**
 * What of us a policy blocks (Content Security Policy Level 3, 6.1 and 6.3): a directive that is not there falls back on
 * default-src, but form-action does not.
 */
function blockedBy(policy: string, server: string): Blocked[] {
  // Several policies in one header all count.
  return policy.split(',').flatMap((one) => {
    const directives = new Map(
      one.split(';').map((text): [string, string[]] => {
        const [name = '', ...sources] = text.trim().split(/\s+/);
        return [name.toLowerCase(), sources];
      }),
    );
    const allows = (...names: string[]): boolean => {
      const found = names.map((name) => directives.get(name)).find((sources) => sources !== undefined);
      return found === undefined || found.some((source) => fits(source, server));
    };
    return [
      ...(allows('script-src-elem', 'script-src', 'default-src') ? [] : ['the script' as const]),
      ...(allows('connect-src', 'default-src') ? [] : ['its requests' as const]),
      ...(allows('form-action') ? [] : ['sending' as const]),
    ];
  });
}

/** Whether a source expression names our origin (Content Security Policy Level 3, 6.7.2.8). */
function fits(source: string, server: string): boolean {
  const { protocol, host, hostname } = new URL(server);
  if (source === '*' || source.toLowerCase() === protocol) return true;
  const [, scheme = '', named = ''] = /^([a-z][a-z0-9+.-]*:\/\/)?([^/]+)/i.exec(source) ?? [];
  if (scheme !== '' && scheme.toLowerCase() !== `${protocol}//`) return false;
  if (named.startsWith('*.')) return hostname.endsWith(named.slice(1).toLowerCase());
  return named.toLowerCase() === host;
}
