import type { Condition } from '../../core/conditions/index.ts';
import { ELAPSED_FIELD, saying, type FormItem } from '../../core/forms/index.ts';
import { plainFace, SOURCE_FORMAT, type Entries, type FormDocument } from '../../core/intake/index.ts';
import { agreedId } from '../../core/plan/index.ts';
import { PLAIN_SHOWING } from '../../core/showing/index.ts';
import { DAY_MS, HOUR_MS } from '../store/figures.ts';
import type { SourceRecord } from '../store/sources.ts';
import { field, NIGHT_SKY, PURPOSES, shortForm } from './documents.ts';
import type { Happening } from './happenings.ts';
import { pick, type Invented } from './people.ts';

const COMPANIES = ['With children', 'With a school class', 'By myself'];
const EVENINGS = ['The next Friday', 'The Friday after', 'Later'];
const is = (of: string, value: string): Condition => ({ kind: 'test', id: `${of}-is`, field: of, test: 'is', value });
const question = (id: string, shownIf: Condition | null = null): FormItem => ({ kind: 'question', id, shownIf });

const VISIT_FIELDS = [
  field('company', 'Who comes?', 'choice', { options: COMPANIES, widget: 'buttons', required: true }),
  field('children', 'How many children?', 'number', { required: true, width: 'half' }),
  field('age', 'How old is the youngest?', 'choice', { options: ['under 6', '6 to 10', 'older'], width: 'half' }),
  field('pupils', 'How many pupils?', 'number', { required: true, width: 'half' }),
  field('evening', 'Which evening?', 'choice', { options: EVENINGS, widget: 'buttons', required: true }),
  field('wish', 'Anything that you would love to see?', 'long text'),
  field('name', 'Your name', 'text', { required: true, keepAs: 'full_name', width: 'half' }),
  field('email', 'Email', 'email', { required: true, keepAs: 'email', width: 'half' }),
  field('consent', PURPOSES.letter.wordings[0] ?? '', 'yes/no'),
];

/**
 * Plans a visit in a few steps: what is asked depends on who comes, and it ends where an evening is booked. Who is known to read
 * the Sky letter is not asked for it. @param letter id of its purpose
 */
export const visitPlanner = (siteUrl: string, letter: string): FormDocument => ({
  format: SOURCE_FORMAT,
  kind: 'form',
  ...plainFace(VISIT_FIELDS),
  look: { ...NIGHT_SKY, framed: true },
  fields: VISIT_FIELDS,
  title: 'Plan your evening with us',
  items: [
    question('company'),
    {
      kind: 'page',
      id: 'page-children',
      title: 'The young ones',
      shownIf: is('company', COMPANIES[0] ?? ''),
      skips: [{ id: 'alone', when: is('company', COMPANIES[2] ?? ''), to: 'page-when' }],
    },
    question('children'),
    question('age'),
    {
      kind: 'text',
      id: 'text-1',
      text: 'Under six it gets late: we keep a blanket and a story for the hour before dark.',
      shownIf: is('age', 'under 6'),
    },
    {
      kind: 'page',
      id: 'page-class',
      title: 'Your class',
      shownIf: is('company', COMPANIES[1] ?? ''),
      skips: [],
    },
    question('pupils'),
    { kind: 'page', id: 'page-when', title: 'When', shownIf: null, skips: [] },
    question('evening'),
    question('wish'),
    { kind: 'page', id: 'page-who', title: 'Who are you?', shownIf: null, skips: [] },
    question('name'),
    question('email'),
    question('consent', { kind: 'none', of: [is(agreedId(letter, 'email'), 'yes')] }),
  ],
  button: 'Send it',
  resetLabel: '',
  statement: '',
  trust: 'usual',
  goOnLater: true,
  ending: saying('One more step: choose your seats. Unless you confirmed before, please look into your mailbox, too.', {
    title: 'Nearly there',
    link: { label: 'Choose your seats', url: `${siteUrl}/book?evening={evening}&name={name}&email={email}` },
  }),
  endings: [
    {
      id: 'class',
      when: is('company', COMPANIES[1] ?? ''),
      ...saying('With a class we would rather talk first. We call you within two days.', { title: 'We call you' }),
    },
    {
      id: 'later',
      when: is('evening', EVENINGS[2] ?? ''),
      ...saying('The evenings of next month are not fixed yet. We write to you once they are.', {
        link: { label: 'Meanwhile: our stories', url: `${siteUrl}/stories` },
      }),
    },
  ],
  origins: [siteUrl],
  minimumSeconds: 2,
});

/** A line at the foot of the first page. Who reads the letter already is told of the visit planner instead of being asked once more. */
export const clearNightBar = (siteUrl: string, letter: string): FormDocument => ({
  ...shortForm(siteUrl, {
    title: 'Clear nights, told in time',
    presentation: 'bar',
    button: 'Tell me',
    showing: {
      ...PLAIN_SHOWING,
      triggers: [
        { kind: 'after', seconds: 8 },
        { kind: 'scroll', percent: 40, direction: 'down' },
      ],
      pages: ['/'],
      devices: ['tablet', 'desktop'],
    },
  }),
  instead: [
    {
      id: 'reader',
      when: is(agreedId(letter, 'email'), 'yes'),
      ...saying('You read the Sky letter already.', {
        title: 'Nice to see you again',
        link: { label: 'Plan your evening with us', url: `${siteUrl}/visit` },
      }),
    },
  ],
});

/** What is asked of a visitor under the stories who is known: the next thing, never the same again. */
export const nextForReaders = (siteUrl: string, letter: string): FormDocument['instead'] => [
  {
    id: 'reader',
    when: is(agreedId(letter, 'email'), 'yes'),
    ...saying('You get one such story a month. How about seeing it for yourself?', {
      title: 'You read the Sky letter',
      link: { label: 'Plan your evening with us', url: `${siteUrl}/visit` },
    }),
  },
];

/** Visits that were planned in the weeks before. */
export function inventVisits(
  people: Invented[],
  source: SourceRecord,
  siteUrl: string,
  now: number,
  random: () => number,
): Happening[] {
  return people
    .filter((_, index) => index % 6 === 1)
    .map((person) => {
      const company = pick(COMPANIES, random);
      const entries: Entries = [
        ['company', company],
        ...(company === COMPANIES[0]
          ? ([
              ['children', String(1 + Math.floor(random() * 4))],
              ['age', pick(['under 6', '6 to 10', 'older'], random)],
            ] satisfies Entries)
          : []),
        ...(company === COMPANIES[1] ? ([['pupils', String(12 + Math.floor(random() * 18))]] satisfies Entries) : []),
        ['evening', pick(EVENINGS, random)],
        ['name', `${person.given} ${person.family}`],
        ['email', person.email],
        [ELAPSED_FIELD, String(Math.round(40 + random() * 90))],
      ];
      return {
        at: Math.round(now - HOUR_MS - random() * 30 * DAY_MS),
        source,
        page: `${siteUrl}/visit`,
        person,
        payload: { kind: 'entries', entries, files: [] },
        confirmsAfter: null,
      };
    });
}
