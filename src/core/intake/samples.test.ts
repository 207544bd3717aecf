import { expect, it } from 'vitest';
import { sourceField } from '../../../test/world/fields.ts';
import { holds, isEmpty, TYPE_NAMES } from '../values/index.ts';
import { edgeSamples } from './index.ts';

it('gives every field a value that its type holds, in every sample', () => {
  const fields = TYPE_NAMES.map((type) => sourceField(type, type, { options: ['a', 'b'], required: true }));
  for (const { name, values } of edgeSamples(fields, true))
    for (const { id, type } of fields)
      // Nobody can make a file up.
      if (type !== 'file') expect([name, type, holds(type, values[id])]).toEqual([name, type, true]);
});

it('leaves out what nobody has to fill in, goes to the longest, and writes names as names', () => {
  const fields = [
    sourceField('who', 'text', { keepAs: 'full_name' }),
    sourceField('first', 'text', { keepAs: 'first_name' }),
    sourceField('mail', 'email', { required: true, keepAs: 'email' }),
    sourceField('note', 'long text'),
  ];
  const by = new Map(edgeSamples(fields, true).map(({ id, values }) => [id, values]));
  expect(Object.entries(by.get('edge-empty') ?? {}).filter(([, value]) => !isEmpty(value))).toEqual([
    ['mail', 'mara.quill@visitor.example'],
  ]);
  expect(by.get('edge-longest')?.note).toMatch(/^[^]{2000}/);
  expect(by.get('edge-japanese')).toMatchObject({ who: '星野 花', first: '星野', note: 'こんばんは' });
  expect(by.get('edge-one-word')).toMatchObject({ who: 'Quillara', first: 'Quillara' });
});
