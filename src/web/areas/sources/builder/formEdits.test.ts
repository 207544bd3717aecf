import { describe, expect, it } from 'vitest';
import { formOf, sourceField } from '../../../../../test/world/fields.ts';
import { shownItems } from '../../../../core/forms/index.ts';
import type { FormDocument } from '../../../../core/intake/index.ts';
import { textAt, withText } from './editableText.ts';
import { addBlock, addQuestion, changeBlock, changeQuestion, moveItem, removeItem } from './formEdits.ts';

const form = formOf([
  sourceField('email', 'email', { label: 'Email', keepAs: 'email' }),
  sourceField('town', 'text', { label: 'Town' }),
  sourceField('page', 'text', { widget: 'hidden' }),
  sourceField('consent', 'yes/no', { label: 'Yes, write to me.' }),
]);
const order = (document: FormDocument) => shownItems(document).map(({ id }) => id);
const fieldOrder = (document: FormDocument) => document.fields.map(({ id }) => id);

describe('adding', () => {
  it('puts a question above the ticks at the end, where nothing is chosen', () => {
    const { document, id } = addQuestion(form, 'phone', null);
    expect(order(document)).toEqual(['email', 'town', 'phone', 'consent']);
    expect(id).toBe('phone');
    // What is made of the fields elsewhere names them in the same order.
    expect(fieldOrder(document)).toEqual(['email', 'town', 'phone', 'consent', 'page']);
  });
  it('puts it behind what is chosen', () =>
    expect(order(addQuestion(form, 'phone', 'email').document)).toEqual(['email', 'phone', 'town', 'consent']));
  it('gives a hidden field no place', () => {
    const { document } = addQuestion(form, 'text', 'email', { label: 'Topic', widget: 'hidden' });
    expect(order(document)).toEqual(order(form));
    expect(fieldOrder(document)).toContain('topic');
  });
  it('gives each block an id of its own', () => {
    const { document, id } = addBlock(addBlock(form, 'text', 'email').document, 'text', null);
    expect(order(document)).toEqual(['email', 'text-1', 'town', 'text-2', 'consent']);
    expect(id).toBe('text-2');
  });
});

describe('moving', () => {
  it.each([
    ['consent', 0, ['consent', 'email', 'town']],
    ['email', 2, ['town', 'consent', 'email']],
    ['email', 99, ['town', 'consent', 'email']],
    ['town', -5, ['town', 'email', 'consent']],
    ['gone', 1, ['email', 'town', 'consent']],
  ])('%s to %i', (id, to, moved) => expect(order(moveItem(form, id, to))).toEqual(moved));
  it('where it stands changes nothing', () => expect(moveItem(form, 'town', 1)).toBe(form));
});

describe('changing', () => {
  it('follows a question whose id follows its label, until it is live', () => {
    const { document, id } = changeQuestion(form, 'town', { label: 'Village' }, []);
    expect(id).toBe('village');
    expect(order(document)).toEqual(['email', 'village', 'consent']);
    expect(changeQuestion(form, 'town', { label: 'Village' }, ['town']).id).toBe('town');
  });
  it('takes a question from its place when it is hidden, and gives it one when it is not', () => {
    const { document } = changeQuestion(form, 'town', { widget: 'hidden' }, ['town']);
    expect(order(document)).toEqual(['email', 'consent']);
    expect(order(changeQuestion(document, 'town', { widget: 'usual' }, ['town']).document)).toContain('town');
  });
  it('removes a question with its field, and a block alone', () => {
    const gone = removeItem(form, 'town');
    expect([order(gone), fieldOrder(gone)]).toEqual([
      ['email', 'consent'],
      ['email', 'page', 'consent'],
    ]);
    const { document } = addBlock(form, 'divider', 'email');
    expect(removeItem(document, 'divider-1').fields).toEqual(form.fields);
  });
});

describe('writing texts where they stand', () => {
  const { document } = addBlock(form, 'heading', 'email');
  it.each([
    [{ of: 'form', part: 'title' }, ''],
    [{ of: 'form', part: 'button' }, 'Go'],
    [{ of: 'item', id: 'town', part: 'label' }, 'Town'],
    [{ of: 'item', id: 'heading-1', part: 'text' }, 'A heading'],
    [{ of: 'item', id: 'town', part: 'help' }, ''],
  ] as const)('%j', (place, text) => {
    expect(textAt(document, place)).toBe(text);
    expect(textAt(withText(document, place, ' Written ', ['town']), place)).toBe('Written');
  });
  it.each([
    { of: 'form', part: 'button' },
    { of: 'item', id: 'town', part: 'label' },
    { of: 'item', id: 'heading-1', part: 'text' },
  ] as const)('leaves what cannot be empty as it was: %j', (place) =>
    expect(withText(document, place, '  ', [])).toBe(document),
  );
  it('keeps the paragraphs of a text', () =>
    expect(
      shownItems(changeBlock(addBlock(form, 'text', null).document, 'text-1', { text: 'One.\n\nTwo.' })).find(
        ({ id }) => id === 'text-1',
      ),
    ).toMatchObject({ text: 'One.\n\nTwo.' }));
});
