import { expect, it } from 'vitest';
import { addField, changeField, keyFor, moveField, removeField } from './fieldEdits.ts';

it('makes field names of labels', () => {
  expect(keyFor('What do you like best?', [])).toBe('what_do_you_like_best');
  expect(keyFor('Prénom', [])).toBe('prenom');
  expect(keyFor('2nd name', [])).toBe('nd_name');
  expect(keyFor('???', ['field'])).toBe('field_2');
});

it('adds, changes, moves and removes without touching the document it was given', () => {
  const one = addField([], 'email');
  const two = addField(one, 'text');
  const renamed = changeField(changeField(two, 1, { keepAs: '' }), 1, { label: 'Surname' });
  expect(one).toHaveLength(1);
  expect(renamed[1]).toMatchObject({ label: 'Surname', keepAs: 'last_name' });
  expect(moveField(two, 0, 1).map(({ type }) => type)).toEqual(['text', 'email']);
  expect(moveField(two, 0, -1)).toBe(two);
  expect(removeField(two, 0).map(({ type }) => type)).toEqual(['text']);
});
