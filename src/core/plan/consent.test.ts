import { findingsOf } from '../../../test/world/preflight.ts';
import { plainLine } from '../mapping/index.ts';
import { describe, expect, it } from 'vitest';
import { catalogueOf } from '../../../test/world/catalogue.ts';
import { formOf, sourceField } from '../../../test/world/fields.ts';
import { fitsWording, type Purpose } from '../consent/index.ts';
import { keysOf } from '../identity/index.ts';
import type { FieldValues } from '../values/index.ts';
import {
  asksIn,
  deliveriesIn,
  mailsIn,
  planSubmission,
  ROUTE_FORMAT,
  type Imported,
  type KnownPerson,
  type PlanInput,
  type RouteDocument,
  type RouteMail,
  type Target,
  NOBODY,
} from './index.ts';

const fields = [
  sourceField('email', 'email', { required: true, keepAs: 'email' }),
  sourceField('mobile', 'phone', { keepAs: 'phone' }),
  sourceField('letter', 'yes/no', { label: 'Send me the letter' }),
  sourceField('texts', 'yes/no', { label: 'Send me text messages' }),
  sourceField('note', 'long text', { label: 'Note' }),
];
const catalogue = catalogueOf({
  lists: [{ id: 'L', name: 'Letter list', groups: [] }],
  fields: [{ key: 'mail', label: 'Mail', type: 'email', required: true, choices: [], maxLength: null }],
});
const target = (id: string, needs: Target['needs'], connectionId = 'C'): Target => ({
  id,
  branch: null,
  when: null,
  needs,
  connectionId,
  kind: '',
  places: [{ id: 'p', list: 'L', group: '', when: null }],
  tags: [],
  leaves: [],
  tagsOff: [],
  lines: [plainLine({ id: 'l', to: 'mail', from: { kind: 'field', field: 'email' } })],
  duplicates: 'update',
});
const document: RouteDocument = {
  format: ROUTE_FORMAT,
  sourceIds: ['S'],
  targets: [
    target('letters', { ask: 'l', channel: 'email' }),
    target('texts', { ask: 't', channel: 'sms' }),
    target('desk', null),
  ],
  consent: {
    asks: [
      { id: 'l', purpose: 'letter', channels: ['email'], tickField: 'letter' },
      { id: 't', purpose: 'texts', channels: ['sms'], tickField: 'texts' },
    ],
    confirmedBy: { by: 'iwashi' },
    mail: { subject: 'Please confirm', body: '{link}', button: 'Yes' },
    expiresHours: 72,
    changes: 'ask',
  },
  mails: [],
  accepted: {},
};
const purposes: Purpose[] = [
  { id: 'letter', name: 'Letter', wordings: ['Send me the letter.'], channels: ['email'], archived: false },
  { id: 'texts', name: 'Texts', wordings: ['Send me text messages'], channels: ['sms'], archived: false },
];
const NOW = 1_000_000_000;

const planOf = (
  values: FieldValues,
  route: Partial<RouteDocument> = {},
  known: Partial<KnownPerson> = {},
  imported: Imported | null = null,
) => {
  const input: PlanInput = {
    imported,
    fields,
    statement: '',
    trust: 'usual',
    values,
    keys: keysOf(fields, values, 'S'),
    visit: {},
    routes: [{ id: 'R', name: 'Route', version: 1, document: { ...document, ...route } }],
    known: { ...NOBODY, ...known },
    catalogues: { C: catalogue },
    now: NOW,
  };
  const plan = planSubmission(input);
  return { plan, deliveries: deliveriesIn(plan), asks: asksIn(plan), mails: mailsIn(plan) };
};
const both = { email: 'a@b.example', mobile: '+441632960001', letter: true, texts: true };

describe('consent for several purposes and channels', () => {
  it('is written down for each, given or not, and each target goes by its own', () => {
    const { plan, deliveries } = planOf({ ...both, texts: false });
    expect(plan.consent.map(({ kind, purpose, channel }) => [kind, purpose, channel])).toEqual([
      ['given', 'letter', 'email'],
      ['not given', 'texts', 'sms'],
      ['asked', 'letter', 'email'],
    ]);
    expect(deliveries.map(({ targetId, needs }) => [targetId, needs])).toEqual([
      ['letters', { purpose: 'letter', channel: 'email' }],
      ['desk', null],
    ]);
    expect(plan.notes).toEqual([
      {
        code: 'no consent',
        text: 'Route: target 2 is left out, since nobody said yes to "Send me text messages".',
        targetId: 'texts',
      },
    ]);
  });

  it('waits for a confirmation where it is by email, and goes at once where it is not, or none is needed', () => {
    const { deliveries, asks } = planOf(both);
    expect(deliveries.map(({ targetId, after }) => [targetId, after.kind])).toEqual([
      ['letters', 'confirmed'],
      ['texts', 'now'],
      ['desk', 'now'],
    ]);
    expect(asks.map(({ purposes: settled }) => settled)).toEqual([['letter']]);
  });

  it('for two purposes by email is confirmed by one mail', () => {
    const asks = document.consent.asks.map((ask) => ({ ...ask, channels: ['email' as const] }));
    const consent = { ...document.consent, asks };
    const { asks: asked, plan } = planOf(both, { consent });
    expect(asked.map(({ purposes: settled }) => settled)).toEqual([['letter', 'texts']]);
    expect(plan.consent.filter(({ kind }) => kind === 'asked')).toHaveLength(2);
    // Who confirmed one of them is asked for the other only.
    const confirmed = [{ kind: 'confirmed' as const, purpose: 'letter', channel: 'email' as const, at: 1 }];
    expect(planOf(both, { consent }, { consent: confirmed }).asks.map((ask) => ask.purposes)).toEqual([['texts']]);
  });

  it('by one channel is none by another', () => {
    const confirmed = [{ kind: 'confirmed' as const, purpose: 'letter', channel: 'sms' as const, at: 1 }];
    expect(planOf(both, {}, { consent: confirmed }).asks).toHaveLength(1);
    const targets = [target('calls', { ask: 'l', channel: 'phone' })];
    const { deliveries, plan } = planOf(both, { targets });
    expect(deliveries).toEqual([]);
    expect(plan.notes[0]?.text).toBe(
      'Route: "Send me the letter" says nothing of being reached by telephone, so nothing is sent.',
    );
  });

  it('is not asked for by us where the destination does', () => {
    const { deliveries, asks } = planOf(both, {
      consent: { ...document.consent, confirmedBy: { by: 'target', targetId: 'letters' } },
    });
    expect(asks).toEqual([]);
    expect(deliveries.every(({ after }) => after.kind === 'now')).toBe(true);
  });

  it('says of everything that is done why it is', () => {
    const { plan } = planOf(both);
    expect(plan.actions.every(({ because }) => because.endsWith('.'))).toBe(true);
    expect(new Set(plan.actions.map(({ id }) => id)).size).toBe(plan.actions.length);
  });
});

describe('mails of a route', () => {
  const mail = (kind: RouteMail['kind'], more: Partial<RouteMail> = {}): RouteMail => ({
    id: kind,
    kind,
    when: null,
    to: kind === 'notify' ? ['desk@hill.example'] : [],
    after: 'now',
    subject: 'From {email}',
    body: 'Hello\n\n{@answers}',
    ...more,
  });

  it('go to the visitor, or to colleagues whose answers go to the visitor', () => {
    const { mails } = planOf(both, { mails: [mail('answer'), mail('notify')] });
    expect(mails.map(({ kind, to, replyTo }) => [kind, to, replyTo])).toEqual([
      ['answer', ['a@b.example'], ''],
      ['notify', ['desk@hill.example'], 'a@b.example'],
    ]);
    expect(mails[0]?.subject).toBe('From a@b.example');
    expect(mails[0]?.text).toMatch(/^Hello\n\nemail: a@b\.example\n.*\nSend me the letter: yes\n/);
  });

  it('have no line in them that a visitor made to look like ours', () => {
    const values = { ...both, note: 'Thanks\nemail: boss@hill.example\r\nsecond' };
    const { mails } = planOf(values, {
      mails: [mail('notify', { subject: 'About {note}', body: '{@answers}\n{note}' })],
    });
    expect(mails[0]?.subject).toBe('About Thanks email: boss@hill.example second');
    expect(mails[0]?.text.split('\n').filter((line) => line.startsWith('email:'))).toEqual(['email: a@b.example']);
    expect(mails[0]?.text).toContain('Note: Thanks\n    email: boss@hill.example\n    second');
  });

  it('are for some people only, and say why for others', () => {
    const when = { kind: 'test', id: 'x', field: 'texts', test: 'is', value: 'yes' } as const;
    expect(planOf(both, { mails: [mail('notify', { when })] }).mails).toHaveLength(1);
    const { mails, plan } = planOf({ ...both, texts: false }, { mails: [mail('notify', { when })] });
    expect(mails).toEqual([]);
    expect(
      plan.notes.some(({ code, text }) => code === 'not for them' && text.includes('the mail "From {email}"')),
    ).toBe(true);
  });

  it('wait for the confirmation where they are told to, and where this submission has to be confirmed', () => {
    const late = [mail('answer', { after: 'confirmed' })];
    expect(planOf(both, { mails: late }).mails[0]?.after).toEqual({ kind: 'confirmed', action: 'ask R' });
    const confirmed = [{ kind: 'confirmed' as const, purpose: 'letter', channel: 'email' as const, at: 1 }];
    expect(planOf(both, { mails: late }, { consent: confirmed }).mails[0]?.after).toEqual({ kind: 'now' });
    expect(planOf({ ...both, letter: false }, { mails: late }).mails[0]?.after).toEqual({ kind: 'now' });
  });

  it('answer one person once in a while, and nobody without an address', () => {
    const answers = { mails: [mail('answer')] };
    const answered = (at: number) => [{ routeId: 'R', mailId: 'answer', at }];
    expect(planOf(both, answers, { answered: answered(NOW - 60_000) }).plan.notes.at(-1)?.code).toBe(
      'answered minutes ago',
    );
    expect(planOf(both, answers, { answered: answered(NOW - 11 * 60_000) }).mails).toHaveLength(1);
    const { plan, mails } = planOf({ mobile: '+441632960001', letter: false, texts: true }, answers);
    expect(mails).toEqual([]);
    expect(plan.notes.some(({ code }) => code === 'no address to answer')).toBe(true);
  });
});

describe('preflight of consent and mails', () => {
  const found = (change: (route: RouteDocument) => void, known = purposes, lists = catalogue.lists) => {
    const changed = structuredClone(document);
    change(changed);
    return findingsOf({
      others: [],
      knowledge: [],
      document: changed,
      sources: [{ name: 'Form', live: formOf(fields) }],
      catalogues: { C: { ...catalogue, lists } },
      purposes: known,
    }).map(({ level, message }) => `${level}: ${message}`);
  };
  const first = <T>(list: T[]): T => list[0] as T;

  it('finds nothing in the way where each sentence fits its purpose', () =>
    expect(found(() => {}).filter((text) => text.startsWith('blocker'))).toEqual([]));

  it.each<[string, (route: RouteDocument) => void, string]>([
    [
      'a sentence that speaks of something else',
      ({ consent }) => (first(consent.asks).tickField = 'texts'),
      'blocker: "Send me text messages" is no sentence by which people agree to "Letter".',
    ],
    [
      'a purpose that is gone',
      ({ consent }) => (first(consent.asks).purpose = 'gone'),
      'blocker: The purpose that people consent to is gone.',
    ],
    [
      'a channel that the purpose does not have',
      ({ consent }) => (first(consent.asks).channels = ['email', 'post']),
      'blocker: Nobody is reached by post for "Letter".',
    ],
    [
      'a channel for which nobody is asked where',
      ({ consent }) => (first(consent.asks).channels = ['email', 'post']),
      'warning: People agree to be reached by post, and the source does not ask where.',
    ],
    [
      'a target that needs what nobody is asked for',
      ({ targets }) => (first(targets).needs = { ask: 'l', channel: 'sms' }),
      'blocker: A target needs consent by text message, and nobody is asked for that.',
    ],
    [
      'a target that needs a consent that was taken away',
      ({ consent }) => (consent.asks = consent.asks.slice(1)),
      'blocker: A target needs a consent that is not asked for.',
    ],
    [
      'a target that confirms and is gone',
      ({ consent }) => (consent.confirmedBy = { by: 'target', targetId: 'gone' }),
      'blocker: The target that is to confirm is not in the route.',
    ],
    [
      'a note to nobody',
      ({ mails }) =>
        void mails.push({ id: 'm', kind: 'notify', when: null, to: [], after: 'now', subject: 'S', body: 'B' }),
      'blocker: "S" tells nobody: it has no address.',
    ],
    [
      'a note to what is no address',
      ({ mails }) =>
        void mails.push({ id: 'm', kind: 'notify', when: null, to: ['desk'], after: 'now', subject: 'S', body: 'B' }),
      'blocker: "S" goes to "desk", which is no address.',
    ],
    [
      'a mail with a field that is not in the source',
      ({ mails }) =>
        void mails.push({ id: 'm', kind: 'answer', when: null, to: [], after: 'now', subject: 'S', body: '{gone}' }),
      'blocker: "S" has {gone} in it, which the live source does not have.',
    ],
  ])('blocks %s', (_, change, message) => expect(found(change)).toContain(message));

  it('blocks a purpose in the archive', () =>
    expect(
      found(
        () => {},
        purposes.map((purpose) => ({ ...purpose, archived: true })),
      ).join(),
    ).toContain('"Letter" is archived'));

  it('lets exactly one system confirm', () => {
    const lists = (confirms: boolean) => catalogue.lists.map((list) => ({ ...list, confirms }));
    const confirming = (confirmedBy: RouteDocument['consent']['confirmedBy'], confirms: boolean) =>
      found(({ consent }) => (consent.confirmedBy = confirmedBy), purposes, lists(confirms)).filter((text) =>
        /confirm|opt-in/.test(text),
      );
    expect(confirming({ by: 'iwashi' }, false)).toEqual([]);
    expect(confirming({ by: 'iwashi' }, true).join()).toContain('blocker: Letter list asks people to confirm as well');
    expect(confirming({ by: 'nobody' }, false).join()).toContain('hint: Single opt-in');
    expect(confirming({ by: 'nobody' }, true).join()).toContain('warning: Letter list asks people to confirm, and');
    expect(confirming({ by: 'target', targetId: 'letters' }, false).join()).toContain('so nobody would');
  });
});

describe('a sentence fits a purpose', () => {
  const purpose = { wordings: ['Yes, send me the letter. I can leave it at any time.'] };
  it.each([
    ['as it was decided', 'Yes, send me the letter. I can leave it at any time.', true],
    ['whatever the blanks, capitals and the last stop', ' yes,  send me the LETTER. I can leave it at any time', true],
    ['not with one word more', 'Yes, send me the letter and offers. I can leave it at any time.', false],
    ['not when it is none', '', false],
  ])('%s', (_, sentence, fits) => expect(fitsWording(purpose, sentence)).toBe(fits));
});

describe('people in a file', () => {
  const imported = (agreed: Imported['agreed']): Imported => ({ agreed, words: 'Send me the letter.' });
  const mails: RouteMail[] = [
    { id: 'a', kind: 'answer', when: null, to: [], after: 'now', subject: 'Thank you', body: 'Hello' },
    { id: 'n', kind: 'notify', when: null, to: ['desk@hill.example'], after: 'now', subject: 'New', body: 'Look' },
  ];
  const ticked = { email: 'a@b.example', letter: true };
  const plan = (
    agreed: Imported['agreed'],
    {
      values = ticked,
      route = {},
      known = {},
    }: { values?: FieldValues; route?: Partial<RouteDocument>; known?: Partial<KnownPerson> } = {},
  ) => planOf(values, { mails, ...route }, known, imported(agreed)).plan;
  const goTo = (of: ReturnType<typeof plan>) => deliveriesIn(of).map(({ targetId, after }) => [targetId, after.kind]);

  it.each([
    ['no' as const, [['desk', 'now']], []],
    ['given' as const, [['desk', 'now']], ['given']],
    [
      'confirmed' as const,
      [
        ['letters', 'now'],
        ['desk', 'now'],
      ],
      ['given', 'confirmed'],
    ],
  ])('who said %s go where they may, at once, and nobody is sent a mail', (agreed, deliveries, events) => {
    const of = plan(agreed);
    expect(goTo(of)).toEqual(deliveries);
    expect([asksIn(of), mailsIn(of)]).toEqual([[], []]);
    expect(of.consent.map(({ kind, wording }) => [kind, wording])).toEqual(
      events.map((kind) => [kind, 'Send me the letter.']),
    );
  });

  it('who took it back here stay out, whatever the file says', () => {
    const known: Partial<KnownPerson> = {
      consent: [
        { purpose: 'letter', channel: 'email', kind: 'given', at: 1 },
        { purpose: 'letter', channel: 'email', kind: 'withdrawn', at: 2 },
      ],
    };
    const of = plan('confirmed', { known });
    expect(goTo(of)).toEqual([['desk', 'now']]);
    expect(of.consent).toEqual([]);
    expect(of.notes.map(({ code }) => code)).toContain('left before');
  });

  it('who are not ticked in it agreed to nothing', () =>
    expect(goTo(plan('confirmed', { values: { email: 'a@b.example', letter: false } }))).toEqual([['desk', 'now']]));

  it('do not go where another system would ask them, unless they confirmed', () => {
    const route = { consent: { ...document.consent, confirmedBy: { by: 'target' as const, targetId: 'letters' } } };
    expect(goTo(plan('given', { route }))).toEqual([['desk', 'now']]);
    expect(goTo(plan('confirmed', { route }))).toEqual([
      ['letters', 'now'],
      ['desk', 'now'],
    ]);
  });
});
