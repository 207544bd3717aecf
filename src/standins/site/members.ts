import { randomUUID } from 'node:crypto';
import { send, type WebhookAddress } from './boxOffice.ts';

export const LEVELS = ['Friend', 'Patron'] as const;
export type Level = (typeof LEVELS)[number];

/** What the box at the registration says. */
export const BOX = 'Yes, send me the Sky letter and what members are told first.';

export interface Member {
  email: string;
  given: string;
  family: string;
  /** '' for somebody who is registered, and no member. */
  level: Level | '';
  begins: string;
  ends: string;
  agrees: { says: 'yes' | 'no' | null; words: string; at: string | null };
}

export type MemberEvent =
  | 'member.registered'
  | 'membership.began'
  | 'membership.renewed'
  | 'membership.changed'
  | 'membership.ended'
  | 'agreement.changed';

const DAY_MS = 24 * 60 * 60_000;
const day = (at: number) => new Date(at).toISOString().slice(0, 10);

/** The site's members, and what they do; each is told to where the site is told to. */
export class Members {
  readonly #all: () => Member[];
  readonly #told: () => WebhookAddress;

  constructor(all: () => Member[], told: () => WebhookAddress) {
    this.#all = all;
    this.#told = told;
  }

  find = (email: string): Member | null =>
    this.#all().find((one) => one.email.toLowerCase() === email.trim().toLowerCase()) ?? null;

  /** Somebody registers; with a level they pay for a year as well. @param how.test paid with the card that is for trying out */
  register(
    { email, given, family }: Pick<Member, 'email' | 'given' | 'family'>,
    level: Level | '',
    { ticked, test }: { ticked: boolean; test: boolean },
  ): void {
    let member = this.find(email);
    if (!member) {
      member = {
        email: email.trim(),
        given,
        family,
        level: '',
        begins: '',
        ends: '',
        agrees: { says: null, words: '', at: null },
      };
      this.#all().push(member);
    }
    if (ticked || member.agrees.says === null)
      member.agrees = { says: ticked ? 'yes' : 'no', words: BOX, at: new Date().toISOString() };
    if (level === '') return this.#tell('member.registered', member, test);
    const before = { ...member };
    this.#pay(member, level);
    this.#tell('membership.began', member, test);
    // Nobody is a member by a card that is for trying out.
    if (test) Object.assign(member, before);
  }

  renew(member: Member): void {
    const from = Math.max(Date.now(), Date.parse(member.ends) || 0);
    member.ends = day(from + 365 * DAY_MS);
    this.#tell('membership.renewed', member);
  }

  change(member: Member, level: Level): void {
    member.level = level;
    this.#tell('membership.changed', member);
  }

  end(member: Member): void {
    member.ends = day(Date.now() - DAY_MS);
    this.#tell('membership.ended', member);
  }

  say(member: Member, says: 'yes' | 'no'): void {
    member.agrees = { says, words: says === 'yes' ? BOX : 'Stopped in the account.', at: new Date().toISOString() };
    this.#tell('agreement.changed', member);
  }

  #pay(member: Member, level: Level): void {
    const now = Date.now();
    Object.assign(member, { level, begins: day(now), ends: day(now + 365 * DAY_MS) });
  }

  #tell(type: MemberEvent, { email, given, family, level, begins, ends, agrees }: Member, test = false): void {
    const message = {
      id: randomUUID(),
      type,
      test,
      member: { email, name: { given, family } },
      membership: level === '' ? null : { level, begins, ends },
      agrees,
    };
    void send(this.#told(), JSON.stringify(message));
  }
}
