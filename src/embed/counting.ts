const GATHER_MS = 1_500;

type What = 'shown' | 'started' | 'answered';

declare global {
  interface Navigator {
    /** Global Privacy Control (W3C): the visitor asks not to be followed. */
    globalPrivacyControl?: boolean;
  }
}

/**
 * Tells how a form was met: that it was seen, that something was entered, which questions were answered. Never what, and
 * nothing to those who ask not to be followed.
 * @param to where it is told
 * @param root what the form stands in
 * @param variant which of its variants it is; '' for none
 */
export function count(to: string, id: string, root: HTMLElement, variant = ''): void {
  if (navigator.globalPrivacyControl === true) return;
  const showing = crypto.randomUUID();
  const told = new Set<string>();
  let waiting: { what: What; question: string }[] = [];
  let timer: ReturnType<typeof setTimeout> | undefined;
  const tell = (leaving = false) => {
    clearTimeout(timer);
    timer = undefined;
    if (waiting.length === 0) return;
    const body = JSON.stringify({
      form: id,
      variant,
      showing,
      page: location.href,
      referrer: document.referrer,
      events: waiting,
    });
    waiting = [];
    if (leaving && navigator.sendBeacon(to, body)) return;
    // What cannot be told is not counted, and nothing else follows from it.
    void fetch(to, { method: 'POST', body, keepalive: true, credentials: 'omit' }).catch(() => {});
  };
  const note = (what: What, question = '') => {
    const name = `${what} ${question}`;
    if (told.has(name)) return;
    told.add(name);
    waiting.push({ what, question });
    timer ??= setTimeout(tell, GATHER_MS);
  };
  const observer = new IntersectionObserver(
    (entries) => {
      if (!entries.some(({ isIntersecting }) => isIntersecting)) return;
      observer.disconnect();
      note('shown');
    },
    { threshold: 0.3 },
  );
  observer.observe(root);
  root.addEventListener('input', () => note('started'));
  root.addEventListener('change', ({ target }) => {
    if (
      target instanceof HTMLInputElement ||
      target instanceof HTMLSelectElement ||
      target instanceof HTMLTextAreaElement
    )
      note('answered', target.name.split('.')[0]);
  });
  addEventListener('pagehide', () => tell(true));
}
