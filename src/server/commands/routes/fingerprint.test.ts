import { expect, it } from 'vitest';
import { abilities, catalogueOf } from '../../../../test/world/catalogue.ts';
import { routeOf, targetOf } from '../../../../test/world/routes.ts';
import { fingerprintOf } from './fingerprint.ts';

const field = {
  key: 'given',
  label: 'First name',
  type: 'text' as const,
  required: true,
  choices: [],
  maxLength: null,
};
const catalogue = catalogueOf({ fields: [field], tags: [{ id: 'a', name: 'a' }] });
const route = routeOf({ targets: [targetOf('t', { connectionId: 'C' })] });
const before = fingerprintOf(route, { C: catalogue });

it.each([
  ['the same, fetched anew', structuredClone(catalogue), true],
  ['another tag, which is made at its first use', { ...catalogue, tags: [] }, true],
  ['what the service can do otherwise', { ...catalogue, can: abilities({ removes: true }) }, true],
  ['a field that became optional', { ...catalogue, fields: [{ ...field, required: false }] }, false],
  ['another list', { ...catalogue, lists: [{ id: 'L', name: 'L', groups: [] }] }, false],
])('what proves a route, after %s: %s', (_, now, same) =>
  expect(fingerprintOf(route, { C: now }) === before).toBe(same),
);

it('is another one for another route, and does not mind connections that it does not use', () => {
  expect(fingerprintOf({ ...route, targets: [] }, { C: catalogue })).not.toBe(before);
  expect(fingerprintOf(route, { C: catalogue, D: catalogue })).toBe(before);
  expect(fingerprintOf(route, {})).not.toBe(before);
});
