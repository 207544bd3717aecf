/** What is known of a form from before. Milliseconds since 1970. */
interface Remembered {
  shownAt?: number;
  closedAt?: number;
  sentAt?: number;
  /** Which of its variants was met, and the name of that showing. */
  variant?: string;
  showing?: string;
  /** The page that is its later goal, and whether it was reached. */
  goalPage?: string;
  reached?: boolean;
}

interface Kept {
  /** By which the visitor is known: a sign of the server's. */
  visitor?: string;
  pages: number;
  firstAt: number;
  forms: Record<string, Remembered>;
}

const NAME = 'iwashi';
/** A visit ends when nothing was looked at for so long: common practice. */
const VISIT_MS = 30 * 60_000;

/**
 * What is remembered of a visitor's pages. Nothing is stored before the site says that the visitor agreed to it: until then
 * it lasts as long as the page.
 */
export class Memory {
  #kept: Kept;
  #stores = false;
  readonly #now: number;

  constructor(now: number) {
    this.#now = now;
    this.#kept = { pages: 1, firstAt: now, forms: {} };
  }

  /** From here on things are remembered from page to page. */
  allow(): void {
    if (this.#stores) return;
    this.#stores = true;
    try {
      const before = JSON.parse(localStorage.getItem(NAME) ?? 'null') as Kept | null;
      if (before) {
        const forms = { ...before.forms, ...this.#kept.forms };
        const visitor = this.#kept.visitor ?? before.visitor;
        this.#kept = { pages: before.pages + 1, firstAt: before.firstAt, forms, ...(visitor ? { visitor } : {}) };
      }
    } catch {
      // What is not ours, or may not be read, counts as nothing.
    }
    this.#store();
  }

  /** Whether things may be stored. */
  get stores(): boolean {
    return this.#stores;
  }

  get pagesSeen(): number | null {
    return this.#stores ? this.#kept.pages : null;
  }

  get returning(): boolean | null {
    return this.#stores ? this.#now - this.#kept.firstAt > VISIT_MS : null;
  }

  /** By which the visitor is known; '' for nobody in particular. */
  get visitor(): string {
    return this.#kept.visitor ?? '';
  }

  /** Notes by what the visitor is known from here on; it lasts as long as the page where nothing may be stored. */
  know(sign: string): void {
    this.#kept.visitor = sign;
    this.#store();
  }

  /** Forms of which something is known, by their names. */
  get forms(): [id: string, remembered: Remembered][] {
    return Object.entries(this.#kept.forms);
  }

  of = (id: string): Remembered => this.#kept.forms[id] ?? {};

  note(id: string, what: Partial<Remembered>): void {
    this.#kept.forms[id] = { ...this.of(id), ...what };
    this.#store();
  }

  #store(): void {
    if (!this.#stores) return;
    try {
      localStorage.setItem(NAME, JSON.stringify(this.#kept));
    } catch {
      // A full or forbidden storage: it is remembered while the page is open.
    }
  }
}
