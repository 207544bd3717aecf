import { describe, expect, it } from 'vitest';
import { addField, changeField, moveField, removeField } from './fieldEdits.ts';

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
    expect(renamed).toMatchObject({ id: 'surname', key: 'surname', keepAs: 'last_name' }));
  it('leaves a name that is live', () =>
    expect(changeField(fields, 0, { label: 'Surname' }, ['your_name'])[0]?.key).toBe('your_name'));
  it('leaves the id of a field that is live, though its name is changed', () =>
    expect(changeField(fields, 0, { key: 'who' }, ['your_name'])[0]).toMatchObject({ id: 'your_name', key: 'who' }));
  it('never gives two fields one id', () => {
    const live = changeField(fields, 0, { key: 'who' }, ['your_name']);
    const [, second] = addField(live, 'text', { label: 'Your name' });
    expect(second).toMatchObject({ id: 'your_name_2', key: 'your_name' });
  });
  it('never drops what a person is known by, live or not', () => {
    const [asked] = changeField(fields, 0, { label: 'How shall we call you?' }, []);
    expect(asked?.keepAs).toBe('full_name');
    expect(changeField(fields, 0, { label: 'Surname' }, ['your_name'])[0]?.keepAs).toBe('full_name');
  });
  it('leaves what was set by hand', () => {
    const byHand = changeField(fields, 0, { key: 'who', keepAs: 'nickname' }, []);
    expect(changeField(byHand, 0, { label: 'Surname' }, [])[0]).toMatchObject({ key: 'who', keepAs: 'nickname' });
  });
});

it('a field that becomes another type keeps what fits', () => {
  const [buttons] = changeField(addField([], 'choice'), 0, { widget: 'buttons' }, []);
  expect(changeField([buttons as NonNullable<typeof buttons>], 0, { type: 'file' }, [])[0]).toMatchObject({
    type: 'file',
    widget: 'usual',
  });
});
