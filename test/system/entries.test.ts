import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ConnectionLine, RouteLine, SourceLine, DeletionImpactView } from '../../src/contract/entries.ts';
import type { OverviewView, StatusView } from '../../src/contract/overview.ts';
import type { RouteView } from '../../src/contract/route.ts';
import type { SourceView } from '../../src/contract/source.ts';
import { saying, TRAP_FIELD } from '../../src/core/forms/index.ts';
import { fields, observatory, sendJson, submitForm } from '../world/observatory.ts';
import type { LiveSource, Operator } from '../world/operator.ts';
import type { FormDocument } from '../../src/core/intake/index.ts';
import { eventually } from '../world/processes.ts';
import { linkIn, World } from '../world/world.ts';

let world: World;
let operator: Operator;
let source: LiveSource<FormDocument>;
let route: RouteView;
beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  ({ source, route } = await observatory(world, operator, 'double'));
});
afterAll(() => world.stop());

const lines = <L extends { id: string }>(list: string) => operator.get<L[]>(`/${list}/lines`);
const lineOf = async <L extends { id: string }>(list: string, id: string) =>
  (await lines<L>(list)).find((line) => line.id === id);

describe('an entry of a list', () => {
  it.each(['sources', 'routes', 'connections'])('of %s is named, and put into a folder and out of it', async (list) => {
    const [line] = await lines<SourceLine>(list);
    const name = (next: object) => operator.send('PUT', `/${list}/${line?.id}/name`, next);
    expect((await name({ name: ` ${line?.name} again `, folder: ' The hill ' })).status).toBe(204);
    expect(await lineOf<SourceLine>(list, line?.id ?? '')).toMatchObject({
      name: `${line?.name} again`,
      folder: 'The hill',
    });
    expect((await name({ name: '', folder: '' })).status).toBe(422);
    expect((await name({ name: line?.name, folder: 'x'.repeat(61) })).status).toBe(422);
    expect((await name({ name: line?.name, folder: '' })).status).toBe(204);
    const { rows } = await operator.get<{ rows: { act: string }[] }>('/changes');
    expect(rows.slice(0, 2).map(({ act }) => act)).toEqual(['renamed', 'renamed']);
  });

  it('says how it stands, without what it holds', async () => {
    expect(await lineOf<RouteLine>('routes', route.id)).toMatchObject({
      state: 'live',
      changed: false,
      blockers: 0,
      sourceNames: [source.name],
      archivedAt: null,
    });
    // As many findings as the route itself says, of those that nobody let stand.
    const other = await operator.post<RouteView>(`/routes/${route.id}/duplicate`);
    for (const { id } of [route, other]) {
      const { findings } = await operator.get<RouteView>(`/routes/${id}`);
      const open = (level: string) =>
        findings.filter((one) => one.level === level && one.accepted === undefined).length;
      expect(await lineOf<RouteLine>('routes', id)).toMatchObject({
        blockers: open('blocker'),
        warnings: open('warning'),
      });
    }
    expect((await lineOf<RouteLine>('routes', other.id))?.warnings).toBeGreaterThan(0);
    await operator.send('DELETE', `/routes/${other.id}`);
    const [connection] = await lines<ConnectionLine>('connections');
    expect(connection).toMatchObject({ serviceName: 'Tern Post', routes: 1 });
    for (const line of await lines<object & { id: string }>('sources')) expect(line).not.toHaveProperty('draft');
  });
});

describe('archiving', () => {
  it('a route ends it until it is taken out and set going again', async () => {
    await operator.post(`/routes/${route.id}/archive`);
    expect(await lineOf<RouteLine>('routes', route.id)).toMatchObject({ state: 'paused', blockers: 0 });
    expect((await operator.send('POST', `/routes/${route.id}/resume`)).status).toBe(409);
    expect((await operator.send('POST', `/routes/${route.id}/publish`)).status).toBe(409);
    await sendJson(source, fields('away@hill.example'));
    const { rows } = await eventually(
      () => operator.submissions('text=away@hill.example'),
      (page) => page.rows[0]?.progress === 'nothing to send',
    );
    expect(rows).toHaveLength(1);
    expect((await operator.send('POST', `/routes/${route.id}/archive`)).status).toBe(409);
    await operator.post(`/routes/${route.id}/restore`);
    expect((await operator.post<RouteView>(`/routes/${route.id}/resume`)).state).toBe('live');
  });
});

describe('deleting', () => {
  it('is refused where something came of it, and says so before', async () => {
    const stops = await operator.get<DeletionImpactView>(`/sources/${source.id}/stops`);
    expect(stops.stops.join(' ')).toContain(route.name);
    expect(stops.kept).toMatch(/^1 submission came by it/);
    expect((await operator.send('DELETE', `/sources/${source.id}`)).status).toBe(409);
    await sendJson(source, fields('kept@hill.example'));
    await eventually(
      () => operator.get<DeletionImpactView>(`/routes/${route.id}/stops`),
      ({ kept }) => kept !== null,
    );
    expect((await operator.send('DELETE', `/routes/${route.id}`)).status).toBe(409);
  });

  it('takes away what nothing came of', async () => {
    const copy = await operator.post<SourceView>(`/sources/${source.id}/duplicate`);
    const other = await operator.post<RouteView>(`/routes/${route.id}/duplicate`);
    expect(await operator.get(`/sources/${copy.id}/stops`)).toEqual({ stops: [], kept: null });
    expect((await operator.send('DELETE', `/sources/${copy.id}`)).status).toBe(204);
    expect((await operator.send('DELETE', `/routes/${other.id}`)).status).toBe(204);
    expect((await operator.send('GET', `/sources/${copy.id}`)).status).toBe(404);
    expect((await operator.send('DELETE', `/routes/${other.id}`)).status).toBe(404);
  });
});

describe('figures', () => {
  it('tell what waits for somebody to confirm from what is on its way', async () => {
    const status = await eventually(
      () => operator.get<StatusView>('/status'),
      ({ unconfirmed, waiting }) => unconfirmed > 0 && waiting === 0,
    );
    expect(status).toMatchObject({ waiting: 0, held: 0 });
    const [row] = await world.rows<{ count: number }>(
      "SELECT COUNT(*) AS count FROM deliveries WHERE state = 'waiting'",
    );
    expect(status.unconfirmed).toBe(row?.count);
  });

  it('lead to the very things that they count', async () => {
    const link = linkIn((await world.letters('kept@hill.example'))[0]);
    expect((await fetch(link, { method: 'POST' })).status).toBe(200);
    await eventually(
      () => operator.deliveries('state=delivered'),
      ({ rows }) => rows.length === 1,
    );
    const { since, today, moreRoutes } = await operator.get<OverviewView>('/overview');
    expect((await operator.submissions(`from=${since}&notices=without`)).rows).toHaveLength(today.submissions);
    expect((await operator.deliveries(`state=delivered&since=${since}`)).rows).toHaveLength(today.delivered);
    expect((await operator.deliveries(`state=delivered&since=${Date.now() + 60_000}`)).rows).toEqual([]);
    expect(moreRoutes).toBe(0);
  });
});

it('what was set aside is found by its address, though it is nobody’s yet', async () => {
  await submitForm(world, source, { ...fields('Robot.Like@Hill.example'), [TRAP_FIELD]: 'x' });
  const found = await operator.submissions('text=robot.like@hill.example');
  expect(found.rows.map(({ progress }) => progress)).toEqual(['set aside']);
  expect((await operator.submissions('text=nobody@hill.example')).rows).toEqual([]);
});

it('what is held is drawn at the source from which it came; what was set aside holds nothing up', async () => {
  const held = async () =>
    (await lineOf<SourceLine>('sources', source.id))?.hours.reduce((sum, hour) => sum + hour.held, 0);
  expect(await held()).toBe(0);
  await world.faults({ kind: 'status', status: 422, next: 50 });
  await submitForm(world, source, fields('held.there@hill.example'));
  const letter = await eventually(
    () => world.letters('held.there@hill.example'),
    (letters) => letters.length > 0,
  );
  await fetch(linkIn(letter[0]), { method: 'POST' });
  await eventually(
    () => operator.get<StatusView>('/status'),
    (status) => status.held === 1,
  );
  expect(await held()).toBe(1);
  await world.noFaults();
});

describe('a source that leads to a page', () => {
  const leading = (path: string): FormDocument => ({
    ...source.draft,
    ending: saying('Thank you.', { next: `${world.ternPost}${path}` }),
    endings: [],
  });
  const publish = (said?: object) => operator.send('POST', `/sources/${source.id}/publish`, said);

  it('is not published before the page is there, unless somebody says so', async () => {
    await operator.put(`/sources/${source.id}/draft`, leading('/no-such-page?to={email}'));
    const refused = await publish();
    expect(refused.status).toBe(422);
    expect(await refused.json()).toMatchObject({
      type: '/problems/leads-nowhere',
      errors: [{ pointer: '/ending/next', detail: expect.stringContaining('/no-such-page answers 404') as string }],
    });
    expect((await publish({ agreed: [], anyway: true })).status).toBe(200);
  });

  it('is where the page is there, or where nothing is known of it', async () => {
    await operator.put(`/sources/${source.id}/draft`, leading('/'));
    expect((await publish()).status).toBe(200);
    const nobody = { ...leading(''), ending: saying('Thank you.', { next: 'https://nobody.pellam-ridge.example/' }) };
    await operator.put(`/sources/${source.id}/draft`, nobody);
    expect((await publish()).status).toBe(200);
  });
});
