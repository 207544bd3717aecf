import { execFile } from 'node:child_process';
import path from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { RouteView } from '../../src/contract/route.ts';
import type { SourceView } from '../../src/contract/source.ts';
import { golden } from '../world/golden.ts';
import { fields, observatory, submitJson } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { ROOT } from '../world/processes.ts';
import { TERN_KEY, World } from '../world/world.ts';

let world: World;
let operator: Operator;
let wired: Awaited<ReturnType<typeof observatory>>;
beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  wired = await observatory(world, operator, 'single');
});
afterAll(() => world.stop());

const exported = async (of: string) => (await operator.send('GET', `${of}/export`)).text();
const imported = (of: 'sources' | 'routes', text: string) =>
  operator.post<{ id: string }>(`/${of}/import`, JSON.parse(text) as object);

it('a source or a route that is exported, imported and exported again is the same text', async () => {
  for (const of of ['sources', 'routes'] as const) {
    const first = await exported(`/${of}/${of === 'sources' ? wired.source.id : wired.route.id}`);
    const { id } = await imported(of, first);
    expect(await exported(`/${of}/${id}`)).toBe(first);
  }
  const copy = await imported('sources', await exported(`/sources/${wired.source.id}`));
  expect(await operator.get<SourceView>(`/sources/${copy.id}`)).toMatchObject({ state: 'draft', liveVersion: null });
});

it('a route finds what it refers to by its name where ids mean nothing, and says what is missing', async () => {
  const text = await exported(`/routes/${wired.route.id}`);
  const elsewhere = text
    .replaceAll(wired.source.id, 'other-source')
    .replaceAll(wired.connection.id, 'other-connection');
  const found = await operator.get<RouteView>(`/routes/${(await imported('routes', elsewhere)).id}`);
  // Two sources have the name by now, so neither is taken for it.
  expect(found.draft.targets[0]?.connectionId).toBe(wired.connection.id);
  expect(found.draft.sourceIds).toEqual([]);
  expect(found.findings).toMatchObject([{ level: 'blocker', part: 'source' }]);
  await operator.connectTo('tern-post', world.ternPost, { key: TERN_KEY }, wired.connection.name);
  const unsure = await operator.get<RouteView>(`/routes/${(await imported('routes', elsewhere)).id}`);
  expect(unsure.draft.targets[0]?.connectionId).toBe('');
});

it.each(golden('source'))('a source of format %i is taken', async (_, document) => {
  const { id } = await imported('sources', JSON.stringify({ what: 'iwashi source', name: 'Old', document }));
  expect((await operator.get<SourceView>(`/sources/${id}`)).draft.format).toBe(golden('source').at(-1)?.[0]);
});

it.each<[string, object | string, string]>([
  ['a file of something else', { what: 'a letter' }, 'no source that Iwashi exported'],
  ['a route', { what: 'iwashi route', document: {} }, 'holds an iwashi route'],
  ['a format that only a later one knows', { what: 'iwashi source', document: { format: 99 } }, 'has the format 99'],
  [
    'a document with something wrong in it',
    { what: 'iwashi source', document: { kind: 'form', format: 2, fields: [] } },
    'something in it is not right',
  ],
])('%s is refused as a source', async (_, body, says) => {
  const refused = await operator.send('POST', '/sources/import', body as object);
  expect([refused.status, ((await refused.json()) as { title: string }).title]).toEqual([
    422,
    expect.stringContaining(says),
  ]);
});

it('the whole story of a submission is told in the terminal', async () => {
  const id = await submitJson(wired.source, fields('story@hill.example'));
  await operator.trailWhen(id, 'delivered');
  const explain = (submission: string) =>
    promisify(execFile)(path.join(ROOT, 'iwashi'), ['explain', submission], {
      env: { ...process.env, DATABASE_URL: world.databaseUrl },
    });
  const { stdout } = await explain(id);
  for (const part of [
    `Submission ${id}: delivered`,
    'Email: story@hill.example',
    'new by email story@hill.example',
    'given for Sky letter',
    'Delivery to tern-post: delivered',
    'same: ',
  ])
    expect(stdout).toContain(part);
  await expect(explain('nothing')).rejects.toMatchObject({
    code: 1,
    stderr: expect.stringContaining('there is no submission') as string,
  });
});
