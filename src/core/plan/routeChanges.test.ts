import { describe, expect, it } from 'vitest';
import { sourceField } from '../../../test/world/fields.ts';
import { routeOf, targetOf } from '../../../test/world/routes.ts';
import { chainOf, plainLine, READY } from '../mapping/index.ts';
import { routeChanges, type RouteDocument, type Target } from './index.ts';

const called = {
  names: { S: 'Sky letter', C: 'Tern Post', p: 'Letter' },
  fields: [sourceField('name', 'text', { label: 'Your name' }), sourceField('likes', 'text', { label: 'Likes' })],
  fieldThere: (_: string, key: string) => `${key} there`,
  placeThere: (_: string, id: string) => `list ${id}`,
};
const line = plainLine({ id: 'l', to: 'given', from: { kind: 'field', field: 'name' } });
const when = { kind: 'test' as const, id: 'c', field: 'likes', test: 'is' as const, value: 'Moon' };
const before = routeOf({ targets: [targetOf('t', { lines: [line] })] });
const withTarget = (more: Partial<Target>) => routeOf({ targets: [targetOf('t', { lines: [line], ...more })] });
const consent = (more: Partial<RouteDocument['consent']>) => ({ ...before, consent: { ...before.consent, ...more } });

describe('what is different in a version, in words', () => {
  it.each<[RouteDocument, string[]]>([
    [before, []],
    [{ ...before, sourceIds: ['S', 'X'] }, ['It takes another source as well.']],
    [{ ...before, targets: [] }, ['Tern Post was taken away.']],
    [
      { ...before, targets: [...before.targets, targetOf('u', { when })] },
      ['Tern Post was added, only if Likes is "Moon".'],
    ],
    [withTarget({ when }), ['Tern Post: people go there only if Likes is "Moon".']],
    [withTarget({ duplicates: 'fill gaps' }), ['Tern Post: who is there already: fill gaps; before, update.']],
    [withTarget({ lines: [] }), ['Tern Post: “given there” is not filled any more.']],
    [
      withTarget({ lines: [{ ...line, steps: chainOf(READY.firstNames) }] }),
      ['Tern Post: “given there” is filled from “Your name” by first and middle names; before, from “Your name”.'],
    ],
    [
      withTarget({ lines: [{ ...line, from: { kind: 'text', text: 'Hello {name}' }, whenEmpty: { kind: 'clear' } }] }),
      [
        'Tern Post: “given there” is filled from the text "Hello {name}" (cleared when empty); before, from “Your name”.',
      ],
    ],
    [
      withTarget({ places: [{ id: 'p', list: 'L', group: '', when: null }] }),
      ['Tern Post: people go into list L, for everybody.'],
    ],
    [
      withTarget({ tags: [{ id: 'x', tag: 'moon', when }] }),
      ['Tern Post: the tag "moon" is set, only if Likes is "Moon".'],
    ],
    [withTarget({ branch: 'b' }), ['Tern Post: it is one of several of which one is taken.']],
    [
      consent({ asks: [{ id: 'a', purpose: 'p', channels: ['email'], tickField: '' }] }),
      ['People are asked for consent to Letter.'],
    ],
    [consent({ confirmedBy: { by: 'iwashi' } }), ['Who confirms: Iwashi has people confirm; before, nobody confirms.']],
    [consent({ expiresHours: 24 }), ['The link in it is valid for 24 hours; before, 72.']],
    [
      { ...before, accepted: { 'code: It is so.': 'It is meant so.' } },
      ['Let stand, since "It is meant so.": It is so.'],
    ],
  ])('%#', (after, sentences) => expect(routeChanges(before, after, called)).toEqual(sentences));

  it('says that targets change places, which matters where one of several is taken', () => {
    const [a, b] = [targetOf('a'), targetOf('b')];
    expect(routeChanges(routeOf({ targets: [a, b] }), routeOf({ targets: [b, a] }), called)).toEqual([
      'The targets stand in another order.',
    ]);
  });
});
