import { expect, it } from 'vitest';
import { sourceField } from '../../../test/world/fields.ts';
import { keysOf, testPerson } from './index.ts';

const fields = [
  sourceField('email', 'email', { keepAs: 'email' }),
  sourceField('friend', 'email'),
  sourceField('phone', 'phone', { keepAs: 'phone' }),
  sourceField('name', 'text', { keepAs: 'full_name' }),
  sourceField('likes', 'text'),
  sourceField('tick', 'yes/no'),
];
const sample = {
  email: 'mara@hill.example',
  friend: 'ada@hill.example',
  phone: '+441632960001',
  name: 'Mara Quill',
  likes: 'Moon',
  tick: false,
};

it('is nobody of the sample, and says all else that it says', () => {
  const person = testPerson(fields, sample, 'a1b2');
  expect(person).toMatchObject({
    email: 'iwashi-test-a1b2@trial.example',
    name: 'Iwashi Test',
    likes: 'Moon',
    tick: true,
  });
  expect(person.phone).toMatch(/^\+441632960\d{3}$/);
  expect(Object.values(person)).not.toContain('ada@hill.example');
  expect(keysOf(fields, person, 'S').map(({ value }) => value)).toContain('iwashi-test-a1b2@trial.example');
});

it('has the mark in an address of the operator, in the place of another detail', () =>
  expect(testPerson(fields, sample, 'x', 'wren+old@ridge.example').email).toBe('wren+iwashi-x@ridge.example'));

it('is another one by another mark', () =>
  expect(testPerson(fields, sample, 'a').email).not.toBe(testPerson(fields, sample, 'b').email));
