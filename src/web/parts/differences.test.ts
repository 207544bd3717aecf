import { expect, it } from 'vitest';
import { differences } from './differences.ts';

it('names the smallest parts at which two documents differ', () => {
  const yours = {
    button: 'Go',
    fields: [
      { id: 'a', label: 'A' },
      { id: 'b', label: 'B' },
    ],
    origins: ['x'],
  };
  const theirs = { button: 'Send', fields: [{ id: 'b', label: 'Bee' }], origins: ['x', 'y'] };
  expect(differences(yours, theirs)).toEqual([
    { where: 'button', yours: 'Go', theirs: 'Send' },
    { where: 'fields, a', yours: 'A', theirs: 'not there' },
    { where: 'fields, b, label', yours: 'B', theirs: 'Bee' },
    { where: 'origins', yours: '["x"]', theirs: '["x","y"]' },
  ]);
});
it('finds nothing where nothing differs', () => expect(differences({ a: [1] }, { a: [1] })).toEqual([]));
