import { expect, it } from 'vitest';
import { catalogueOf } from '../../../../test/world/catalogue.ts';
import { sourceField } from '../../../../test/world/fields.ts';
import { routeOf, targetOf } from '../../../../test/world/routes.ts';
import type { ConnectionView } from '../../../contract/connection.ts';
import type { RouteView } from '../../../contract/route.ts';
import type { SourceView } from '../../../contract/source.ts';
import { chainOf, plainLine } from '../../../core/mapping/index.ts';
import { mappedBefore } from './mappedBefore.ts';

const given = {
  key: 'given',
  label: 'First name',
  type: 'text' as const,
  required: true,
  choices: [],
  maxLength: null,
};
const line = plainLine({
  id: 'l',
  to: 'given',
  from: { kind: 'field', field: 'name' },
  steps: chainOf({ kind: 'trim', options: {} }, { kind: 'time between', options: { until: 'visit' } }),
});
const known = {
  sources: [
    { id: 'S', draft: { fields: [sourceField('name', 'text', { label: 'Name' })] } },
  ] as unknown as SourceView[],
  connections: [{ id: 'C', catalogue: catalogueOf({ fields: [given] }) }] as unknown as ConnectionView[],
};
const draft = routeOf({ sourceIds: ['S'], targets: [targetOf('T', { connectionId: 'C', lines: [line] })] });
const routes = [{ id: 'R', draft }] as unknown as RouteView[];

it('tells what the other routes map, by labels, without steps that were told of fields of their source', () =>
  expect(mappedBefore(routes, 'other', known)).toEqual([
    { from: 'Name', to: 'First name', steps: [{ kind: 'trim', options: {} }] },
  ]));

it('says nothing of the route itself, nor of what is gone', () => {
  expect(mappedBefore(routes, 'R', known)).toEqual([]);
  expect(mappedBefore(routes, 'other', { ...known, connections: [] })).toEqual([]);
});
