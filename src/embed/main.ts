import type { PlacedForm, PlacedPart } from '../contract/placing.ts';
import { VARIANT_FIELD, VISITOR_FIELD } from '../core/forms/inputs.ts';
import { pickVariant } from '../core/forms/variants.ts';
import { AGREED_EVENT, AGREED_FLAG, fitsPattern, type RuleResult, type ShowingRule } from '../core/showing/index.ts';
import { branch } from './branching.ts';
import { count, seeing, telling, type Tell } from './counting.ts';
import { fitFrames } from './frames.ts';
import { hint } from './hints.ts';
import { newName } from './names.ts';
import { Memory } from './memory.ts';
import { showFrame } from './overlay.ts';
import { elementIn, enhance } from './sending.ts';
import { Watch } from './showing.ts';
import { sayWhy, WHY } from './why.ts';

/** With this on a page's element, the form of that name stands in it. */
const PLACE = 'data-iwashi-form';
/** In which a personal link says who opens it. */
const SIGN = 'visitor';
/** Sites may call something else by the same name: that is left alone. */
const LIKE_A_SIGN = /^[lb][\da-f-]{36}\.[\da-f]{64}$/;

const script = document.currentScript as HTMLScriptElement | null;

/** Rules of when, which say nothing of a form that stands in the page. */
const TIMELY = new Set<ShowingRule>(['trigger', 'device', 'again', 'closed']);

/** What the script does on a page. Whatever fails here is nothing that visitors notice. */
function start(own: HTMLScriptElement): void {
  const server = new URL(own.src).origin;
  const memory = new Memory(Date.now());
  const to = `${server}/place/seen`;
  const tells = (id: string, showing?: string): Tell =>
    telling({ to, id, variant: memory.of(id).variant ?? '', ...(showing === undefined ? {} : { showing }) });
  /** Tells of goals that are this page, of forms that were met before. */
  const reach = () => {
    for (const [id, { goalPage, showing, reached }] of memory.forms) {
      if (!goalPage || !showing || reached || !fitsPattern(goalPage, location.href)) continue;
      tells(id, showing)('reached');
      memory.note(id, { reached: true });
    }
  };
  const allow = () => {
    memory.allow();
    reach();
  };
  if (own.dataset.storage === 'yes' || Reflect.get(window, AGREED_FLAG) === 'yes') allow();
  addEventListener(AGREED_EVENT, allow);
  readSign(memory);
  fitFrames(server);
  const shown = new Set<string>();
  let open = 0;

  const ask = async <T>(path: string, sign = ''): Promise<T | null> => {
    try {
      const how = sign === '' ? {} : { method: 'POST', body: sign };
      const response = await fetch(`${server}/place/${path}`, { credentials: 'omit', ...how });
      return response.ok ? ((await response.json()) as T) : null;
    } catch {
      return null;
    }
  };

  /** The variant that falls to this visitor. Nobody meets another one than before. */
  const variantOf = (id: string, variants: { id: string; share: number }[]): string => {
    const before = memory.of(id).variant;
    if (before !== undefined && variants.some((one) => one.id === before)) return before;
    const variant = pickVariant(variants, Math.random());
    memory.note(id, { variant });
    return variant;
  };

  /** A form, as the variant of it that falls to this visitor. */
  const askFor = async (id: string): Promise<PlacedPart | null> => {
    const ofVariant = (variant: string) => ask<PlacedPart>(`${id}.json?variant=${variant}`, memory.visitor);
    const before = memory.of(id).variant;
    const part = before === undefined ? await ask<PlacedPart>(`${id}.json`, memory.visitor) : await ofVariant(before);
    if (!part || part.variants.length === 0) return part;
    const variant = variantOf(id, part.variants);
    return variant === before ? part : ofVariant(variant);
  };

  /** Tells of this showing of a form: by the first one that was told where a later goal is waited for. */
  const tellsOf = (id: string, { goalPage }: Pick<PlacedPart, 'goalPage'>): Tell => {
    if (goalPage === '') return tells(id);
    const { showing = newName() } = memory.of(id);
    memory.note(id, { showing, goalPage });
    return tells(id, showing);
  };

  /** Lets a form be sent without leaving the page, and counts it. */
  const take = (root: HTMLElement, id: string, tell: Tell) => {
    send(root, id);
    count(root, tell);
  };
  const send = (root: HTMLElement, id: string, took = 0) => {
    branch(root);
    hint(root);
    enhance(root, {
      more: () => ({ [VISITOR_FIELD]: memory.visitor, [VARIANT_FIELD]: memory.of(id).variant ?? '' }),
      onTaken: (sign) => {
        memory.note(id, { sentAt: Date.now() });
        // A sign from a personal link says more than that of this browser.
        if (sign !== '' && !memory.visitor.startsWith('l')) memory.know(sign);
      },
      onAgain: (next, seconds) => send(next, id, seconds),
      took,
    });
  };

  /** Forms that were copied into the page as they are stay what they are. */
  for (const form of document.querySelectorAll<HTMLFormElement>(`form[action^="${server}/in/"]`)) {
    const id = new URL(form.action).pathname.split('/').at(-1) ?? '';
    const root = form.parentElement;
    if (root?.matches('[id^="f-"][id$="-form"]')) take(root, id, tells(id));
    // Markup of others is left as it is: the browser sends it, and nothing of ours takes its place.
    else count(form, tells(id));
  }

  /** Puts a form into an element, apart from the style of the page. */
  const fill = (host: HTMLElement, id: string, part: PlacedPart, tell: Tell): HTMLElement => {
    const { html, css, fonts } = part;
    load(fonts);
    const shadow = host.shadowRoot ?? host.attachShadow({ mode: 'open' });
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(css);
    shadow.adoptedStyleSheets = [sheet];
    const element = elementIn(html);
    shadow.replaceChildren(element);
    const root = element.matches('.frame') ? element.querySelector<HTMLElement>(':scope > [lang]') : element;
    if (root?.querySelector('form')) take(root, id, tell);
    return element;
  };

  /** Fonts count for a whole page: what is in a shadow cannot bring its own. */
  const load = (fonts: PlacedPart['fonts']) => {
    for (const { family, weight, range, file } of fonts) {
      if (loaded.has(file)) continue;
      loaded.add(file);
      const source = `url(${server}/place/fonts/${file}) format("woff2")`;
      document.fonts.add(new FontFace(family, source, { weight, unicodeRange: range, display: 'swap' }));
    }
  };
  const loaded = new Set<string>();

  const inline = async (host: HTMLElement, id: string) => {
    if (id === '' || host.shadowRoot || host.querySelector('form') || taken.has(host)) return;
    taken.add(host);
    const part = await askFor(id);
    if (!part) return;
    const tell = tellsOf(id, part);
    if (part.html === '') seeing(host, tell);
    else fill(host, id, part, tell);
  };
  /** A page that is changed by scripts may name an element twice. */
  const taken = new Set<HTMLElement>();

  for (const host of document.querySelectorAll<HTMLElement>(`[${PLACE}]`))
    void inline(host, host.getAttribute(PLACE) ?? '');

  /** Shows a form that shows itself. One at a time: the next one waits until it is closed. */
  const overlay = async ({ id }: PlacedForm, asked: boolean) => {
    open += 1;
    const part = await askFor(id);
    // Nothing comes over the page of somebody whom it has nothing to ask.
    if (!part || part.instead) {
      open -= 1;
      return;
    }
    const tell = tellsOf(id, part);
    if (part.html === '') {
      tell('shown');
      memory.note(id, { shownAt: Date.now() });
      open -= 1;
      return;
    }
    const host = document.createElement('div');
    document.body.append(host);
    if (asked) tell('opened');
    const frame = fill(host, id, part, tell);
    memory.note(id, { shownAt: Date.now() });
    showFrame(host, frame, () => {
      open -= 1;
      memory.note(id, { closedAt: Date.now() });
    });
  };

  void ask<PlacedForm[]>('site.json').then((forms) => {
    if (!forms) return;
    const waiting = [...forms].sort((one, other) => other.showing.priority - one.showing.priority);
    const look = () => {
      for (const form of waiting) {
        const isChat = form.presentation === 'chat';
        const talks = isChat ? chats.get(form.id) : undefined;
        if (talks) {
          if (shown.has(form.id) || !watch.judge(form).every(({ holds }) => holds)) continue;
          shown.add(form.id);
          memory.note(form.id, { shownAt: Date.now() });
          talks.dataset.opens = watch.wasAsked(form.showing) ? 'asked' : 'yes';
          talks.dispatchEvent(new Event('opens'));
          continue;
        }
        if (shown.has(form.id)) continue;
        const isInline = isChat || form.presentation === 'inline';
        const judged = watch.judge(form);
        // An inline form is there from the first; what else shows itself comes one at a time.
        const holds = judged.every(({ rule, holds: one }) => one || (isInline && TIMELY.has(rule)));
        if (!holds || (!isInline && open > 0)) continue;
        if (isInline && !isChat && !placeAt(form)) continue;
        // The button of a chat is there from the first; its window may open by itself later. There is one on a page: they stand at one place.
        if (isChat) {
          if (chatHere === '') {
            chatHere = form.id;
            talk(form);
          }
          continue;
        }
        shown.add(form.id);
        if (!isInline) void overlay(form, watch.wasAsked(form.showing));
      }
    };
    const chats = new Map<string, HTMLScriptElement>();
    let chatHere = '';
    /** Puts the button of a chat on the page, by a script of its own. */
    const talk = ({ id, variants = [], goalPage = '' }: PlacedForm) => {
      const variant = variants.length > 0 ? variantOf(id, variants) : '';
      tellsOf(id, { goalPage })('shown');
      if (variants.some((one) => one.id === variant && one.nothing)) {
        shown.add(id);
        return;
      }
      const chat = document.createElement('script');
      chat.src = `${server}/place/chat.js`;
      chat.dataset.chat = id;
      chat.dataset.variant = variant;
      if (memory.stores) chat.dataset.storage = 'yes';
      chat.addEventListener('put-away', () => memory.note(id, { closedAt: Date.now() }));
      chat.addEventListener('ended', () => memory.note(id, { sentAt: Date.now() }));
      chats.set(id, chat);
      document.head.append(chat);
    };
    const placeAt = ({ id, showing: { placeAt: selector, placeSide } }: PlacedForm): boolean => {
      const beside = [...find(selector)];
      for (const element of beside) {
        const host = document.createElement('div');
        host.setAttribute(PLACE, id);
        if (placeSide === 'before') element.before(host);
        else element.after(host);
        void inline(host, id);
      }
      return beside.length > 0;
    };
    const watch = new Watch(memory, waiting);
    // Where nothing shows itself, nothing of the page is watched.
    if (waiting.length > 0) watch.begin(look);
    /** Why something is shown or not; of a chat, its button. */
    const reasons = (form: PlacedForm): RuleResult[] => {
      const judged = watch.judge(form);
      if (form.presentation === 'inline') {
        const isThere = [...find(form.showing.placeAt)].length > 0;
        const place: RuleResult = {
          rule: 'place',
          holds: isThere,
          now: `${form.showing.placeAt}${isThere ? '' : ' is not on this page'}`,
        };
        return [place, ...judged.filter(({ rule }) => !TIMELY.has(rule))];
      }
      if (form.presentation !== 'chat') return judged;
      const isFree = chatHere === '' || chatHere === form.id;
      return [
        ...judged.filter(({ rule }) => !TIMELY.has(rule)),
        {
          rule: 'other',
          holds: isFree,
          now: isFree ? 'none is here' : `${waiting.find(({ id }) => id === chatHere)?.title ?? chatHere} is here`,
        },
      ];
    };
    const why = () => {
      if (location.hash === WHY) sayWhy(waiting, reasons, ({ id }) => shown.has(id) || chatHere === id);
    };
    addEventListener('hashchange', why);
    why();
  });
}

/** Whom a personal link knows, and out of the address with it: others read addresses, too. */
function readSign(memory: Memory): void {
  const address = new URL(location.href);
  const sign = address.searchParams.get(SIGN);
  if (!sign || !LIKE_A_SIGN.test(sign)) return;
  memory.know(sign);
  address.searchParams.delete(SIGN);
  history.replaceState(history.state, '', address);
}

function find(selector: string): Iterable<HTMLElement> {
  try {
    return document.querySelectorAll<HTMLElement>(selector);
  } catch {
    return [];
  }
}

if (script) {
  if (document.readyState === 'loading') document.addEventListener('DOMContentLoaded', () => start(script));
  else start(script);
}
