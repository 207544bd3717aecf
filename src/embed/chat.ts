import type { AwaitedView, ChatBegun, ChatFace, ChatLineView, ChatView } from '../contract/chat.ts';
import { readEvents } from './events.ts';
import { newName } from './names.ts';
import { TAKEN } from './overlay.ts';

/** The button and the window of a chat, on pages of others. Loaded by the script there once a chat shows itself. */

/** What is kept of a conversation that a visitor began: it is what they asked for. Nothing is kept before that. */
const NAME = 'iwashi chat ';
const AGAIN_MS = 3_000;
/** Longer addresses of pages are cut: the server takes no more. */
const MOST_ADDRESS = 300;

const script = document.currentScript as HTMLScriptElement | null;

type Said =
  | { kind: 'text'; text: string }
  | { kind: 'consent'; yes: boolean }
  | { kind: 'form'; entries: Record<string, string> }
  | { kind: 'file'; file: File | null };

/** An element with what is in it; what it shows is text, never markup. */
function make<Name extends keyof HTMLElementTagNameMap>(
  name: Name,
  part: Partial<HTMLElementTagNameMap[Name]> = {},
  ...inside: (Node | string)[]
): HTMLElementTagNameMap[Name] {
  const element = Object.assign(document.createElement(name), part);
  element.append(...inside);
  return element;
}

/** Form data in which the file comes last: by then it is known whose it is. */
function formWith(file: File | null, told: Record<string, string>): FormData {
  const form = new FormData();
  for (const [name, value] of Object.entries(told)) form.set(name, value);
  if (file) form.set('file', file);
  return form;
}

async function start(own: HTMLScriptElement): Promise<void> {
  const server = new URL(own.src).origin;
  const id = own.dataset.chat ?? '';
  const ask = async <T>(path: string, body?: object): Promise<T | { gone: true } | { refused: string } | null> => {
    try {
      const response = await fetch(`${server}/chat/${id}${path}`, {
        credentials: 'omit',
        ...(body ? { method: 'POST', body: body instanceof FormData ? body : JSON.stringify(body) } : {}),
      });
      if (response.status === 404) return { gone: true };
      // What was said is not taken as it is; the conversation is there all the same.
      if (response.status === 422) {
        const { title, errors } = (await response.json()) as { title: string; errors?: { detail: string }[] };
        return { refused: errors?.[0]?.detail ?? title };
      }
      return response.ok ? ((await response.json()) as T) : null;
    } catch {
      return null;
    }
  };
  const keeper = (name: string) => {
    // Where nothing may be stored, asking for the store is an error already.
    const store = () => (own.dataset.storage === 'yes' ? localStorage : sessionStorage);
    return {
      get: () => {
        try {
          return store().getItem(name) ?? '';
        } catch {
          return '';
        }
      },
      set: (value: string) => {
        try {
          if (value === '') store().removeItem(name);
          else store().setItem(name, value);
        } catch {
          // Where nothing may be stored, the conversation lasts as long as the page.
        }
      },
    };
  };
  const kept = keeper(NAME + id);
  // Who is in the middle of one goes on in the variant that it began with.
  const [begunAs = '', variant = own.dataset.variant ?? ''] = kept.get().split(' ');
  const face = await ask<ChatFace>(`/face?variant=${variant}`);
  if (!face || 'gone' in face || 'refused' in face) return;
  const { words, colours } = face;
  const word = (name: string) => words[name] ?? '';
  /** Whether the visitor put the window away: it stays away on their next page. */
  const putAway = keeper(`${NAME}${id} away`);

  const host = document.createElement('div');
  const shadow = host.attachShadow({ mode: 'open' });
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(CSS);
  shadow.adoptedStyleSheets = [sheet];
  host.lang = face.language;
  for (const [name, value] of Object.entries(colours)) host.style.setProperty(`--${name}`, value);
  host.style.setProperty('--radius', `${face.radius}px`);
  const opener = make('button', { type: 'button', className: 'opener' }, face.launcher);
  opener.setAttribute('aria-label', `${word('open')}: ${face.launcher}`);
  opener.setAttribute('aria-expanded', 'false');
  const log = make('div', { className: 'log', tabIndex: 0 });
  log.setAttribute('role', 'log');
  log.setAttribute('aria-label', face.title);
  const notice = make('p', { className: 'notice' });
  notice.setAttribute('role', 'status');
  const answer = make('div', { className: 'answer' });
  const closer = make('button', { type: 'button', className: 'closer', title: word('close') }, '✕');
  closer.setAttribute('aria-label', word('close'));
  const panel = make(
    'section',
    { className: 'window', hidden: true },
    make('header', {}, make('h2', {}, face.title), closer),
    log,
    notice,
    answer,
  );
  panel.setAttribute('role', 'dialog');
  panel.setAttribute('aria-label', face.title);
  shadow.append(panel, opener);
  document.body.append(host);

  let token = begunAs;
  let after = 0;
  let shownAwaits = '';
  let stream: AbortController | null = null;
  /** What was said and is not taken yet: in its order, each under its own name. */
  const waiting: { id: string; said: Said; bubble: HTMLElement | null }[] = [];
  let isSending = false;
  /** Whether the visitor is in the chat: what comes by itself takes nobody's cursor from the page. */
  let isThere = false;

  const bubble = ({ by, name, text, link }: Pick<ChatLineView, 'by' | 'name' | 'text' | 'link'>): HTMLElement => {
    const line = make('p', { className: `line ${by}` });
    if (name !== '') line.append(make('strong', {}, name), ' ');
    line.append(text);
    if (link)
      line.append(make('br'), make('a', { href: link.url, rel: 'noopener', target: '_blank' }, link.text || link.url));
    return line;
  };
  const show = (view: ChatView) => {
    for (const line of view.lines) {
      if (line.number <= after) continue;
      after = line.number;
      // What the visitor said is there already.
      const own = line.by === 'visitor' ? waiting.findIndex(({ bubble: mine }) => mine !== null) : -1;
      if (own >= 0) {
        waiting[own]?.bubble?.remove();
        (waiting[own] as { bubble: null }).bubble = null;
      }
      log.append(bubble(line));
    }
    log.scrollTop = log.scrollHeight;
    notice.textContent =
      view.status === 'wanted'
        ? word('waiting')
        : view.status === 'taken'
          ? word('joined').replace('{name}', view.colleague)
          : view.status === 'ended'
            ? word('ended')
            : '';
    const awaits = JSON.stringify([view.awaits, view.status]);
    if (awaits !== shownAwaits) {
      shownAwaits = awaits;
      offer(view.awaits, view.status === 'ended');
    }
    for (const { field, message } of view.issues) {
      const input = answer.querySelector<HTMLInputElement>(`[name="${CSS_ESCAPE(field)}"]`);
      const said = answer.querySelector(`#wrong-${CSS_ESCAPE(field)}`);
      if (said) said.textContent = message;
      input?.setAttribute('aria-invalid', 'true');
    }
    if (view.issues.length > 0) {
      answer.querySelector<HTMLElement>('[aria-invalid=true]')?.focus();
      // What was handed over is not taken: it is no part of the conversation.
      if (view.awaits.kind === 'file') {
        notice.textContent = view.issues.map(({ message }) => message).join(' ');
        waiting[0]?.bubble?.remove();
      }
    }
    isThere = false;
    // A colleague may come in at any time.
    if (view.status !== 'ended') void follow();
    else {
      // The next page does not begin with what is over.
      kept.set('');
      own.dispatchEvent(new Event('ended'));
      stream?.abort();
      stream = null;
    }
  };

  const say = (said: Said) => {
    isThere = true;
    const text = said.kind === 'text' ? said.text : said.kind === 'file' ? (said.file?.name ?? '') : '';
    const own = text === '' ? null : bubble({ by: 'visitor', name: '', text, link: null });
    if (own) log.append(own);
    log.scrollTop = log.scrollHeight;
    waiting.push({ id: newName(), said, bubble: own });
    void send();
  };
  const send = async () => {
    if (isSending) return;
    isSending = true;
    for (let next = waiting[0]; next; next = waiting[0]) {
      const { id: name, said } = next;
      const view = await (said.kind === 'file'
        ? ask<ChatView>('/file', formWith(said.file, { token, id: name, after: String(after) }))
        : ask<ChatView>('/say', { token, id: name, said, after }));
      if (view === null) {
        notice.textContent = word('lost');
        setTimeout(() => void send(), AGAIN_MS);
        break;
      }
      if ('refused' in view) {
        next.bubble?.remove();
        notice.textContent = view.refused;
        waiting.shift();
        continue;
      }
      if ('gone' in view) {
        waiting.splice(0);
        kept.set('');
        token = '';
        offer({ kind: 'nothing' }, true);
        break;
      }
      show(view);
      waiting.shift();
    }
    isSending = false;
  };
  addEventListener('online', () => void send());

  /** Hears what a colleague says. */
  const follow = async () => {
    if (stream) return;
    const own = new AbortController();
    stream = own;
    const isLeft = () => own.signal.aborted;
    while (!isLeft()) {
      try {
        const response = await fetch(`${server}/chat/${id}/stream`, {
          method: 'POST',
          credentials: 'omit',
          body: JSON.stringify({ token, after }),
          signal: own.signal,
        });
        if (response.ok && response.body) await readEvents(response.body, (data) => show(JSON.parse(data) as ChatView));
      } catch {
        // It goes on where it was.
      }
      if (!isLeft()) await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    }
  };

  /** What can be answered now. */
  const offer = (awaits: AwaitedView, isOver: boolean) => {
    const had = shadow.activeElement !== null && answer.contains(shadow.activeElement);
    answer.replaceChildren();
    if (isOver) answer.append(button(word('anew'), () => void anew()));
    else if (awaits.kind === 'choice')
      answer.append(
        ...awaits.choices.map((one) => button(one, () => say({ kind: 'text', text: one }))),
        typing('text', 'more'),
      );
    else if (awaits.kind === 'consent')
      answer.append(
        make('p', { className: 'words' }, awaits.words),
        button(word('agree'), () => say({ kind: 'consent', yes: true })),
        button(word('disagree'), () => say({ kind: 'consent', yes: false })),
      );
    else if (awaits.kind === 'form') answer.append(smallForm(awaits.fields));
    else if (awaits.kind === 'file') answer.append(...handing(awaits));
    else if (awaits.kind === 'text') answer.append(typing(awaits.type, ''));
    else if (awaits.kind === 'colleague') answer.append(typing('long text', ''));
    if (had || isThere) answer.querySelector<HTMLElement>('input, textarea, select, button')?.focus();
  };
  const button = (text: string, onclick: () => void) => make('button', { type: 'button', onclick }, text);
  const INPUTS: Record<string, [type: string, mode: string, autocomplete: string]> = {
    email: ['email', 'email', 'email'],
    phone: ['tel', 'tel', 'tel'],
    number: ['text', 'decimal', 'off'],
    date: ['text', '', 'off'],
  };
  const typing = (type: string, className: string) => {
    const [, mode, autocomplete] = INPUTS[type] ?? ['', '', 'off'];
    const input = make('input', { type: 'text', inputMode: mode, maxLength: 2000, placeholder: word('here') });
    input.autocomplete = autocomplete as AutoFill;
    input.setAttribute('aria-label', word('here'));
    const form = make('form', { className: `typing ${className}` }, input, make('button', {}, word('send')));
    form.addEventListener('submit', (event) => {
      event.preventDefault();
      const text = input.value.trim();
      if (text === '') return;
      input.value = '';
      say({ kind: 'text', text });
    });
    return form;
  };
  /** A file is chosen, and sent at once: it is the answer. */
  const handing = ({ kinds, required }: Extract<AwaitedView, { kind: 'file' }>) => {
    const input = make('input', { type: 'file', accept: kinds.join(',') });
    const label = make('label', {}, make('span', {}, word('file')), input);
    input.addEventListener('change', () => {
      const [file] = input.files ?? [];
      if (file) say({ kind: 'file', file });
    });
    return required ? [label] : [label, button(word('without'), () => say({ kind: 'file', file: null }))];
  };
  const smallForm = (fields: Extract<AwaitedView, { kind: 'form' }>['fields']) => {
    const form = make('form', { className: 'small', noValidate: true });
    for (const { key, label, type, options, required } of fields) {
      const [inputType, mode] = INPUTS[type] ?? ['text', ''];
      const input =
        options.length > 0
          ? make(
              'select',
              { name: key },
              make('option', { value: '' }, ''),
              ...options.map((one) => make('option', { value: one }, one)),
            )
          : type === 'yes/no'
            ? make('input', { type: 'checkbox', name: key, value: 'yes' })
            : make('input', {
                type: type === 'date' ? 'date' : inputType,
                inputMode: mode,
                name: key,
                maxLength: 2000,
              });
      input.required = required;
      input.setAttribute('aria-describedby', `wrong-${key}`);
      form.append(
        make('label', {}, make('span', {}, label), input),
        make('small', { id: `wrong-${key}`, className: 'wrong' }),
      );
    }
    form.append(make('button', {}, word('send')));
    form.addEventListener('submit', (event) => {
      event.preventDefault();
      for (const wrong of form.querySelectorAll('.wrong')) wrong.textContent = '';
      for (const input of form.querySelectorAll('[aria-invalid]')) input.removeAttribute('aria-invalid');
      const entries: Record<string, string> = {};
      for (const [name, value] of new FormData(form)) if (typeof value === 'string') entries[name] = value;
      say({ kind: 'form', entries });
    });
    return form;
  };

  const anew = async () => {
    kept.set('');
    token = '';
    log.replaceChildren();
    await begin();
  };
  const begin = async () => {
    after = 0;
    shownAwaits = '';
    if (token !== '') {
      const view = await ask<ChatView>('/look', { token, after: 0 });
      if (view === null) {
        notice.textContent = word('lost');
        setTimeout(() => void begin(), AGAIN_MS);
        return;
      }
      if (!('gone' in view) && !('refused' in view)) {
        show(view);
        return;
      }
      token = '';
    }
    const begun = await ask<ChatBegun>('', {
      page: (location.origin + location.pathname).slice(0, MOST_ADDRESS),
      referrer: (document.referrer.split(/[?#]/)[0] ?? '').slice(0, MOST_ADDRESS),
      variant,
    });
    if (begun === null || 'gone' in begun || 'refused' in begun) {
      notice.textContent = word('lost');
      if (begun === null) setTimeout(() => void begin(), AGAIN_MS);
      return;
    }
    token = begun.token;
    kept.set(`${token} ${variant}`);
    show(begun);
  };

  let isBegun = false;
  const open = (isOpen: boolean) => {
    panel.hidden = !isOpen;
    opener.setAttribute('aria-expanded', String(isOpen));
    if (!isOpen) {
      opener.focus();
      return;
    }
    log.scrollTop = log.scrollHeight;
    if (!isBegun) {
      isBegun = true;
      void begin();
      return;
    }
    if (isThere) answer.querySelector<HTMLElement>('input, select, button')?.focus();
    isThere = false;
  };
  const close = () => {
    putAway.set('yes');
    own.dispatchEvent(new Event('put-away'));
    open(false);
  };
  opener.addEventListener('click', () => {
    if (panel.hidden !== true) {
      close();
      return;
    }
    putAway.set('');
    isThere = true;
    open(true);
  });
  closer.addEventListener('click', close);
  panel.addEventListener('keydown', (event) => {
    if (event.key === 'Escape') close();
  });
  // Who was in the middle of one is not made to look for it, unless they put it away.
  if (token !== '' && putAway.get() === '') open(true);
  /** Opens by itself, as its chat says: without the cursor, and never for whoever put it away or is in it. Or by what was pressed on the page. */
  const opens = () => {
    const isAsked = own.dataset.opens === 'asked';
    if (!panel.hidden || (!isAsked && (isBegun || putAway.get() !== ''))) return;
    isThere = isAsked;
    open(true);
  };
  own.addEventListener('opens', opens);
  if (own.dataset.opens) opens();
}

const CSS_ESCAPE = (name: string): string => globalThis.CSS.escape(name);

const CSS = `:host{all:initial;position:fixed;right:16px;bottom:calc(16px + var(${TAKEN},0px));z-index:2147483000;font:16px/1.45 system-ui,sans-serif;color:var(--ink)}
*{box-sizing:border-box;font:inherit;color:inherit}
button{background:var(--action);color:var(--onAction);border:0;border-radius:var(--radius);padding:10px 16px;min-height:44px;cursor:pointer}
:focus-visible{outline:3px solid var(--action);outline-offset:2px}
.opener{display:block;margin-left:auto;box-shadow:0 2px 8px #0004}
.window{display:flex;flex-direction:column;width:min(380px,calc(100vw - 32px));height:min(560px,calc(100vh - 96px - var(${TAKEN},0px)));margin-bottom:12px;background:var(--ground);border:1px solid var(--line);border-radius:var(--radius);box-shadow:0 4px 24px #0005;overflow:hidden}
.window[hidden]{display:none}
header{display:flex;justify-content:space-between;align-items:center;padding:4px 4px 4px 16px;border-bottom:1px solid var(--line)}
h2{margin:0;font-weight:700}.closer{background:none;color:inherit;padding:8px;min-width:44px}
.log{flex:1;overflow-y:auto;padding:12px 16px;display:flex;flex-direction:column;gap:8px}
.line{margin:0;padding:8px 12px;border-radius:var(--radius);border:1px solid var(--line);max-width:85%;white-space:pre-wrap;overflow-wrap:anywhere;align-self:flex-start}
.visitor{align-self:flex-end;background:var(--action);color:var(--onAction);border-color:var(--action)}
.colleague{border-width:2px;border-color:var(--action)}
.line a{color:inherit;text-decoration:underline}
.notice{margin:0 16px 6px;color:var(--quiet);font-size:14px}
.answer{display:flex;flex-wrap:wrap;gap:8px;padding:12px 16px;border-top:1px solid var(--line);max-height:60%;overflow-y:auto}
.words{margin:0;flex-basis:100%}
form{display:flex;gap:8px;flex:1 1 100%}.small{flex-direction:column}
input:not([type=checkbox]),select{flex:1;min-width:0;width:100%;padding:10px;border:1px solid var(--quiet);border-radius:var(--radius);background:var(--ground);min-height:44px}
input[type=checkbox]{width:22px;height:22px}
label{display:flex;flex-direction:column;gap:2px}.wrong{color:#a11;font-size:14px}
@media(max-width:480px){:host{right:8px;bottom:calc(8px + var(${TAKEN},0px))}.window{width:calc(100vw - 16px);height:calc(100vh - 80px - var(${TAKEN},0px))}}
@media(prefers-reduced-motion:no-preference){.window{animation:in .15s ease-out}@keyframes in{from{transform:translateY(8px)}}}`;

if (script) void start(script);
