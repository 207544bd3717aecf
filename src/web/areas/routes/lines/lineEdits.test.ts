import { expect, it } from 'vitest';
import { sourceField } from '../../../../../test/world/fields.ts';
import { plainLine, READY, stepInWords, type MapLine } from '../../../../core/mapping/index.ts';
import { addFreeLine, addStep, changeLine, moveStep, removeStep, setOrigin, tellStep } from './lineEdits.ts';
import { originInWords, originPicks } from './originPicks.ts';
import { pastedPairs } from './pastedPairs.ts';

const field = { kind: 'field' as const, field: 'name' };
const words = (lines: MapLine[]) => lines[0]?.steps.map(stepInWords);

it('maps, adds, tells, moves and removes steps, and takes the line away', () => {
  let lines = setOrigin([], 'given', field);
  expect(lines).toEqual([plainLine({ id: 'l-given', to: 'given', from: field })]);
  lines = addStep(addStep(lines, 'given', READY.trim), 'given', READY.firstNames);
  expect(words(lines)).toEqual(['trim', 'first and middle names']);
  const [first, second] = lines[0]?.steps.map(({ id }) => id) ?? [];
  lines = tellStep(lines, 'given', second ?? '', { part: 'last name' });
  expect(words(moveStep(lines, 'given', second ?? '', -1))).toEqual(['last name', 'trim']);
  expect(words(moveStep(lines, 'given', first ?? '', -1))).toEqual(['trim', 'last name']);
  expect(words(removeStep(lines, 'given', first ?? ''))).toEqual(['last name']);
  // Steps stay with another field, and not with a value that is entered as it is wanted.
  expect(words(setOrigin(lines, 'given', { kind: 'field', field: 'other' }))).toEqual(['trim', 'last name']);
  expect(words(setOrigin(lines, 'given', { kind: 'fixed', value: 'Guest' }))).toEqual([]);
  expect(changeLine(lines, 'given', { overwrite: 'longest' })[0]?.overwrite).toBe('longest');
  expect(setOrigin(lines, 'given', null)).toEqual([]);
});

it("adds a field of the operator's own naming once", () => {
  const lines = addFreeLine([], ' note ');
  expect(lines).toMatchObject([{ to: 'note', from: { kind: 'text', text: '' } }]);
  expect(addFreeLine(lines, 'note')).toBe(lines);
  expect(addFreeLine(lines, ' ')).toBe(lines);
});

it('offers fields by what was typed, and the typed words as a text or a fixed value', () => {
  const about = {
    line: null,
    fields: [sourceField('name', 'text', { label: 'Your name' }), sourceField('mail', 'email', { label: 'Email' })],
    values: { name: 'Mara' },
  };
  expect(originPicks('NAME', about)[0]).toMatchObject({ name: 'Your name', hint: 'Mara', from: field });
  expect(originPicks('web', about)).toMatchObject([{ from: { kind: 'fixed', value: 'web' } }]);
  expect(originPicks('Dear {name}', about)[0]).toMatchObject({ from: { kind: 'text', text: 'Dear {name}' } });
  expect(originPicks('', about).at(-1)?.id).toBe('first');
  const line = plainLine({ id: 'l', to: 'given', from: { kind: 'first', fields: ['name', 'gone'] } });
  expect(originPicks('', { ...about, line }).at(-1)).toMatchObject({ id: 'nothing', from: null });
  expect(originPicks('Nothing', { ...about, line }).map(({ id }) => id)).toEqual(['nothing', 'fixed']);
  expect(originInWords(line, about.fields)).toBe('Your name, or else gone (not in the source)');
});

it.each([
  [
    'a\tb\r\nc\td\n',
    [
      ['a', 'b'],
      ['c', 'd'],
    ],
  ],
  [
    '"two\nlines"\tb\n"c ""d"""\te',
    [
      ['two\nlines', 'b'],
      ['c "d"', 'e'],
    ],
  ],
  [
    'now and then;2\n"often; very";3',
    [
      ['now and then', '2'],
      ['often; very', '3'],
    ],
  ],
  ['Hello, you', []],
  ['one column', []],
  ['a\tb\nc', []],
  ['', []],
])('reads two columns of a sheet: %j', (text, pairs) => expect(pastedPairs(text)).toEqual(pairs));
