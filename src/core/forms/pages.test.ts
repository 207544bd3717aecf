import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formOf, sourceField } from '../../../test/world/fields.ts';
import type { Condition, TestName } from '../conditions/index.ts';
import type { FieldValues } from '../values/index.ts';
import {
  answersIn,
  endingFor,
  filledIn,
  forVisitor,
  insteadFor,
  pagesOf,
  saying,
  shownItems,
  walk,
  type FormItem,
  type Skip,
} from './index.ts';

const when = (field: string, value: string, test: TestName = 'is'): Condition => ({
  kind: 'test',
  id: `${field} ${value}`,
  field,
  test,
  value,
});
const question = (id: string, shownIf: Condition | null = null): FormItem => ({ kind: 'question', id, shownIf });
const page = (id: string, shownIf: Condition | null = null, skips: Skip[] = []): FormItem => ({
  kind: 'page',
  id,
  title: id,
  shownIf,
  skips,
});
const skip = (to: string, on: Condition | null): Skip => ({ id: `to ${to}`, when: on, to });

const READER = '@agreed letter email';
const fields = ['who', 'pupils', 'age', 'story', 'day'].map((id) => sourceField(id));
const survey = (items: FormItem[]) =>
  formOf([...fields, sourceField('topic', 'text', { widget: 'hidden' })], { items });
const way = (items: FormItem[], values: FieldValues, known: FieldValues = {}) => {
  const { pages, shown } = walk(survey(items), { values, known, now: 0 });
  return { pages, shown: [...shown] };
};

describe('pages', () => {
  it('are one where nothing divides a form, and begin where it says so', () => {
    expect(pagesOf(survey([question('who')])).map(({ id }) => id)).toEqual(['start']);
    const pages = pagesOf(survey([question('who'), page('two'), question('age')]));
    expect(pages.map(({ id, items }) => [id, items.map((item) => item.id)])).toEqual([
      ['start', ['who']],
      // What has no place stands at the end.
      ['two', ['age', 'pupils', 'story', 'day']],
    ]);
  });
});

describe('the way through a form', () => {
  const branched = [
    question('who'),
    page('class', when('who', 'school')),
    question('pupils'),
    page('child', when('who', 'family')),
    question('age'),
    question('story', when('age', '6', 'is less than')),
    page('last'),
    question('day'),
  ];

  it('leads past pages and questions that are not for those who answered so', () => {
    expect(way(branched, { who: 'school', pupils: '20' })).toEqual({
      pages: ['start', 'class', 'last'],
      shown: ['who', 'pupils', 'day'],
    });
    expect(way(branched, { who: 'family', age: '5' }).shown).toEqual(['who', 'age', 'story', 'day']);
    expect(way(branched, { who: 'family', age: '7' }).shown).toEqual(['who', 'age', 'day']);
    expect(way(branched, {}).pages).toEqual(['start', 'last']);
  });
  it('takes no account of what was answered before somebody turned back', () =>
    expect(way([...branched, question('topic', when('age', '5'))], { who: 'school', age: '5' }).shown).not.toContain(
      'topic',
    ));
  it('leads to a later page, or to the end, by the first rule that holds', () => {
    const skips = [skip('end', when('who', 'nobody')), skip('last', when('who', 'school'))];
    const items = [question('who'), page('two', null, skips), question('age'), page('last'), question('day')];
    expect(way(items, { who: 'nobody' }).pages).toEqual(['start']);
    expect(way(items, { who: 'school' }).pages).toEqual(['start', 'last']);
    expect(way(items, { who: 'family' }).pages).toEqual(['start', 'two', 'last']);
    expect(way([question('who'), page('two', null, [skip('last', null)]), page('last')], {}).pages).toContain('last');
  });
  it('passes over a page on which nothing is left to see', () => {
    const items = [question('who'), page('two'), question('age', when('who', 'family')), page('last'), question('day')];
    // The questions without a place stand on the last page.
    expect(way(items, { who: 'school' }).pages).toEqual(['start', 'last']);
  });
  it('goes by what is known of a visitor, where nobody knows anything as by no', () => {
    const items = [question('who'), question('day', { kind: 'none', of: [when(READER, 'yes')] })];
    expect(way(items, {}).shown).toContain('day');
    expect(way(items, {}, { [READER]: true }).shown).not.toContain('day');
  });

  const ids = ['who', 'pupils', 'age', 'story', 'day'];
  const conditions = fc.option(
    fc.constantFrom(...ids).map((id) => when(id, 'x')),
    { nil: null },
  );
  const forms = fc.array(
    fc.record({ isPage: fc.boolean(), shownIf: conditions, to: fc.constantFrom('p1', 'p3', 'end', 'gone') }),
    { maxLength: 12 },
  );
  it('always ends, meets no page twice and no page before an earlier one', () => {
    fc.assert(
      fc.property(forms, fc.dictionary(fc.constantFrom(...ids), fc.constantFrom('x', 'y')), (made, values) => {
        const items = made.map(({ isPage, shownIf, to }, at) =>
          isPage ? page(`p${at}`, shownIf, [skip(to, shownIf)]) : question(ids[at % ids.length] ?? '', shownIf),
        );
        const { pages } = way(items, values);
        const order = pagesOf(survey(items)).map(({ id }) => id);
        const places = pages.map((id) => order.indexOf(id));
        expect(places).toEqual([...new Set(places)].sort((a, b) => a - b));
      }),
    );
  });
  it('is the same once what is known of the visitor is decided', () => {
    const known = fc.constantFrom<FieldValues>({}, { [READER]: true }, { [READER]: false });
    const parts: fc.Arbitrary<Condition> = fc
      .constantFrom(...ids, READER)
      .map((id) => when(id, id === READER ? 'yes' : 'x'));
    const group = fc.record({
      kind: fc.constantFrom('all', 'any', 'none'),
      of: fc.array(parts, { minLength: 1, maxLength: 3 }),
    });
    fc.assert(
      fc.property(fc.array(group, { minLength: 5, maxLength: 5 }), known, fc.subarray(ids), (whens, facts, filled) => {
        const items = whens.flatMap((shownIf, at) => [
          ...(at === 2 ? [page('two', shownIf as Condition)] : []),
          question(ids[at] ?? '', shownIf as Condition),
        ]);
        const values = Object.fromEntries(filled.map((id) => [id, 'x']));
        const form = survey(items);
        const whole = walk(form, { values, known: facts, now: 0 });
        const settled = walk(forVisitor(form, facts), { values, known: {}, now: 0 });
        expect([...settled.shown]).toEqual([...whole.shown]);
        expect(settled.pages).toEqual(whole.pages);
      }),
    );
  });
});

describe('a form for one visitor', () => {
  const form = survey([
    question('who'),
    question('day', when(READER, 'yes')),
    page('p', when(READER, 'yes')),
    question('age'),
  ]);
  it('does not hold what is asked of others', () => {
    const shown = shownItems(forVisitor(form, {}));
    expect(shown.map(({ id }) => id)).toEqual(['who', 'p', 'pupils', 'story']);
    expect(JSON.stringify(shown)).not.toContain('@agreed');
  });
  it('is the whole for who it is for', () =>
    expect(shownItems(forVisitor(form, { [READER]: true })).map(({ id }) => id)).toEqual([
      'who',
      'day',
      'p',
      'age',
      'pupils',
      'story',
    ]));
  it('says something else to those who are known to be some', () => {
    const instead = [{ id: 'x', when: when(READER, 'yes'), ...saying('You read it already.') }];
    expect(insteadFor({ instead }, {})).toBeNull();
    expect(insteadFor({ instead }, { [READER]: true })?.message).toBe('You read it already.');
  });
});

describe('endings', () => {
  const ending = saying('Thanks');
  const endings = [{ id: 'class', when: when('who', 'school'), ...saying('We call you.') }];
  it('are the first that holds, else the usual one', () => {
    const facts = { known: {}, now: 0 };
    expect(endingFor({ ending, endings }, { ...facts, values: { who: 'school' } }).message).toBe('We call you.');
    expect(endingFor({ ending, endings }, { ...facts, values: {} })).toEqual({ ...ending, id: '' });
  });
  it('hold answers within their places (RFC 3986, 2.1)', () => {
    const url = 'https://seats.example/book?name={who}&day={day}#{gone}';
    expect(answersIn(url)).toEqual(['who', 'day', 'gone']);
    const answers: Record<string, string> = { who: 'Ada & Öl=1', day: 'https://evil.example/?a#b' };
    const filled = new URL(filledIn(url, (id) => answers[id] ?? ''));
    expect(filled.host).toBe('seats.example');
    expect([...filled.searchParams]).toEqual([
      ['name', 'Ada & Öl=1'],
      ['day', 'https://evil.example/?a#b'],
    ]);
  });
});
