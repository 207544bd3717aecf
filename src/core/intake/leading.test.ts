import { expect, it } from 'vitest';
import { formOf, sourceField } from '../../../test/world/fields.ts';
import { saying } from '../forms/index.ts';
import { addressesLedTo, NEW_CHAT } from './index.ts';

const form = formOf([sourceField('email', 'email')]);

it('finds every address that visitors are led to, without the answers in it', () => {
  const [when] = [{ kind: 'test' as const, id: 'c', field: 'email', test: 'is' as const, value: 'x' }];
  const leads = {
    ...form,
    ending: saying('', { next: 'https://ridge.example/thanks?to={email}' }),
    endings: [{ ...saying('', { link: { label: 'On', url: 'https://ridge.example/on' } }), id: 'e', when }],
    instead: [{ ...saying('', { next: 'https://ridge.example/{email}' }), id: 'i', when }],
  };
  expect(Object.fromEntries(addressesLedTo(leads).map(({ pointer, url }) => [pointer, url]))).toEqual({
    '/ending/next': 'https://ridge.example/thanks',
    '/endings/0/link/url': 'https://ridge.example/on',
  });
});

it('finds those of a chat', () => {
  const step = { kind: 'end' as const, id: 's', text: '', link: 'https://ridge.example/evenings', linkText: 'On' };
  const parts = [{ id: 'p', name: 'First', steps: [step] }];
  expect(addressesLedTo({ ...NEW_CHAT, parts })).toEqual([
    { pointer: '/parts/0/steps/0/link', url: 'https://ridge.example/evenings' },
  ]);
});

it('finds none where there is none', () => {
  expect(addressesLedTo(form)).toEqual([]);
});
