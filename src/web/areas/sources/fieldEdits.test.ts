import { describe, expect, it } from 'vitest';
import { addField, changeField, keyFor, moveField, removeField } from './fieldEdits.ts';

it('makes field names of labels', () => {
  expect(keyFor('What do you like best?', [])).toBe('what_do_you_like_best');
  expect(keyFor('Prénom', [])).toBe('prenom');
  expect(keyFor('2nd name', [])).toBe('nd_name');
  expect(keyFor('???', ['field'])).toBe('field_2');
});

it('adds, moves and removes without touching the document it was given', () => {
  const one = addField([], 'email');
  const two = addField(one, 'text');
  expect(one).toHaveLength(1);
  expect(two[1]).toMatchObject({ key: 'your_name', keepAs: 'full_name' });
  expect(addField(two, 'text')[2]).toMatchObject({ key: 'your_question', keepAs: '' });
  expect(moveField(two, 0, 1).map(({ type }) => type)).toEqual(['text', 'email']);
  expect(moveField(two, 0, -1)).toBe(two);
  expect(removeField(two, 0).map(({ type }) => type)).toEqual(['text']);
});

describe('a changed label', () => {
  const fields = addField([], 'text');
  const [renamed] = changeField(fields, 0, { label: 'Surname' }, []);
  it('changes the name and the meaning that came of it', () =>
    expect(renamed).toMatchObject({ key: 'surname', keepAs: 'last_name' }));
  it('leaves a name that is live', () =>
    expect(changeField(fields, 0, { label: 'Surname' }, ['your_name'])[0]?.key).toBe('your_name'));
  it('leaves what was set by hand', () => {
    const byHand = changeField(fields, 0, { key: 'who', keepAs: 'nickname' }, []);
    expect(changeField(byHand, 0, { label: 'Surname' }, [])[0]).toMatchObject({ key: 'who', keepAs: 'nickname' });
  });
});
