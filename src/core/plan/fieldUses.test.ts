import { expect, it } from 'vitest';
import { skyLetterRoute } from '../../server/demo/documents.ts';
import { usesOfField } from './index.ts';

const route = {
  ...skyLetterRoute('s', 'c'),
  mails: [
    { id: 'm', kind: 'notify' as const, when: null, to: [], after: 'now' as const, subject: 'From {name}', body: '' },
  ],
};

it('says which fields of destinations a field fills, what depends on it, and which consent it gives', () => {
  const name = usesOfField(route, 'name');
  expect(name.filter(({ kind }) => kind === 'line').length).toBeGreaterThan(0);
  expect(name).toContainEqual({ kind: 'mail', mailId: 'm' });
  expect(usesOfField(route, 'interests')).toContainEqual({ kind: 'condition', targetId: 'letter', connectionId: 'c' });
  expect(usesOfField(route, 'consent')).toContainEqual({ kind: 'consent' });
  expect(usesOfField(route, 'nothing')).toEqual([]);
});
