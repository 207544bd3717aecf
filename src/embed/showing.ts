import type { PlacedForm } from '../contract/placing.ts';
import { evaluateShowing, type RuleResult, type ShowingFacts } from '../core/showing/index.ts';
import type { Memory } from './memory.ts';

const LOOK_MS = 500;
/** How near the upper edge a pointer on its way up is quick, and how near it is late. CSS pixels. */
const NEAR = { quick: 80, late: 5 };

/** What happens on the page that forms go by. */
export class Watch {
  readonly #memory: Memory;
  readonly #openedAt = Date.now();
  #movedAt = Date.now();
  #down = 0;
  #up = 0;
  #leaving: ShowingFacts['leaving'] = null;
  readonly #clicked = new Set<string>();
  /** What clicks are looked for on. */
  readonly #selectors: string[];

  constructor(memory: Memory, forms: PlacedForm[]) {
    this.#memory = memory;
    this.#selectors = forms.flatMap(({ showing }) =>
      showing.triggers.flatMap((trigger) => (trigger.kind === 'click' ? [trigger.selector] : [])),
    );
  }

  /** Watches the page from here on. @param look what is done now, whenever something happens, and now and then */
  begin(look: () => void): void {
    const scrolled = () => {
      const room = document.documentElement.scrollHeight - innerHeight;
      const at = room <= 0 ? 100 : (100 * scrollY) / room;
      this.#down = Math.max(this.#down, at);
      this.#up = Math.max(this.#up, this.#down - at);
      look();
    };
    const moved = () => (this.#movedAt = Date.now());
    const quiet = { passive: true } as const;
    addEventListener('scroll', scrolled, quiet);
    for (const name of ['pointermove', 'pointerdown', 'keydown', 'scroll']) addEventListener(name, moved, quiet);
    document.addEventListener(
      'mousemove',
      ({ clientY, movementY }) => {
        if (movementY >= 0 || clientY > NEAR.quick) return;
        this.#leaving = clientY <= NEAR.late ? 'late' : (this.#leaving ?? 'quick');
        look();
      },
      quiet,
    );
    document.documentElement.addEventListener('mouseleave', ({ clientY }) => {
      if (clientY > NEAR.late) return;
      this.#leaving = 'late';
      look();
    });
    document.addEventListener('click', ({ target }) => {
      if (!(target instanceof Element)) return;
      const named = this.#selectors.filter((selector) => within(target, selector));
      for (const selector of named) this.#clicked.add(selector);
      if (named.length > 0) look();
    });
    // A page that has nothing to scroll is seen to its end at once.
    if (isAllInSight()) scrolled();
    setInterval(look, LOOK_MS);
    look();
  }

  /** Whether the visitor clicked on what opens a form. */
  wasAsked = ({ triggers }: PlacedForm['showing']): boolean =>
    triggers.some((trigger) => trigger.kind === 'click' && this.#clicked.has(trigger.selector));

  judge({ id, showing }: PlacedForm): RuleResult[] {
    const { shownAt = null, closedAt = null, sentAt = null } = this.#memory.of(id);
    return evaluateShowing(showing, {
      page: location.href,
      referrer: document.referrer,
      now: Date.now(),
      width: innerWidth,
      pagesSeen: this.#memory.pagesSeen,
      returning: this.#memory.returning,
      shownAt,
      closedAt,
      sentAt,
      secondsOpen: (Date.now() - this.#openedAt) / 1000,
      scrolledDown: this.#down,
      scrolledUp: this.#up,
      allInSight: isAllInSight(),
      idleSeconds: (Date.now() - this.#movedAt) / 1000,
      leaving: this.#leaving,
      clicked: [...this.#clicked],
    });
  }
}

const isAllInSight = (): boolean => document.documentElement.scrollHeight <= innerHeight;

function within(element: Element, selector: string): boolean {
  try {
    return element.closest(selector) !== null;
  } catch {
    // A selector that is none names nothing.
    return false;
  }
}
