import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ChangeView } from '../../src/contract/changes.ts';
import type { NewTokenView } from '../../src/contract/tokens.ts';
import { inCommand, done, refused, type Actor } from '../../src/server/commands/command.ts';
import { publishSource } from '../../src/server/commands/sources/publishSource.ts';
import { addSource } from '../../src/server/commands/sources/addSource.ts';
import type { Context } from '../../src/server/context.ts';
import { listActs } from '../../src/server/store/audit.ts';
import { nameEntry } from '../../src/server/store/entries.ts';
import { findSource } from '../../src/server/store/sources.ts';
import { ownContext } from '../world/context.ts';
import { fields, observatory, submitJson } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { World } from '../world/world.ts';

const WREN: Actor = { kind: 'person', id: 'wren', name: 'Wren' };

describe('a use case', () => {
  let context: Context;
  beforeAll(async () => {
    context = await ownContext();
  });
  afterAll(() => context.close());

  const madeSource = async () => {
    const made = await addSource(WREN, context, { name: 'Sky', kind: 'form' });
    if (!made.ok) throw new Error(made.issue.text);
    return made.value;
  };

  it('is noted in the transaction that does it, with who did it', async () => {
    const id = await madeSource();
    const [act] = await listActs(context.store.db, { kind: 'source', id }, null, 10);
    expect(act).toMatchObject({ act: 'made', actorName: 'Wren', subjectName: 'Sky' });
  });

  it('that is refused leaves nothing of what it did before, and no note', async () => {
    const id = await madeSource();
    const outcome = await inCommand(context, WREN, async (db) => {
      await nameEntry(db, 'source', id, { name: 'Half done', folder: '' });
      return refused('conflict', 'not-now', 'Not now.');
    });
    expect(outcome).toMatchObject({ ok: false, issue: { why: 'conflict' } });
    expect((await findSource(context.store.db, id))?.name).toBe('Sky');
    expect(await listActs(context.store.db, { id }, null, 10)).toHaveLength(1);
  });

  it('whose note cannot be written is not done', async () => {
    const id = await madeSource();
    const subject = { kind: 'source', id: 'x'.repeat(100), name: '' } as const;
    await expect(
      inCommand(context, WREN, async (db) => {
        await nameEntry(db, 'source', id, { name: 'Half done', folder: '' });
        return done(undefined, { act: 'renamed', subject });
      }),
    ).rejects.toThrow();
    expect((await findSource(context.store.db, id))?.name).toBe('Sky');
  });

  it('says what keeps it from being done', async () => {
    expect(await publishSource(WREN, context, 'nothing')).toMatchObject({ ok: false, issue: { why: 'unknown' } });
  });
});

describe('changes', () => {
  let world: World;
  let operator: Operator;
  let wired: Awaited<ReturnType<typeof observatory>>;
  beforeAll(async () => {
    world = await World.start();
    operator = await world.operator();
    wired = await observatory(world, operator, 'single');
  });
  afterAll(() => world.stop());

  const changes = async (query: string) =>
    (await operator.get<{ rows: ChangeView[]; next: string | null }>(`/changes?${query}`)).rows;
  const acts = async (query: string) => (await changes(query)).map(({ act }) => act);

  it('are listed with who did what, newest first', async () => {
    const { route } = wired;
    expect((await acts(`kind=route&id=${route.id}`))[0]).toBe('published');
    await operator.post(`/routes/${route.id}/pause`, {});
    await operator.post(`/routes/${route.id}/resume`, {});
    const [resumed, paused] = await changes(`kind=route&id=${route.id}`);
    expect([resumed?.act, paused?.act]).toEqual(['resumed', 'paused']);
    expect(resumed).toMatchObject({ actor: { kind: 'person', name: 'Wren' }, subject: { name: route.name } });
    // What does not apply is not noted.
    expect((await operator.send('POST', `/routes/${route.id}/resume`, {})).status).toBe(409);
    expect((await acts(`kind=route&id=${route.id}`))[0]).toBe('resumed');
  });

  it('of a draft that saves itself are one in a row', async () => {
    const { route } = wired;
    const edits = async () => (await acts(`kind=route&id=${route.id}`)).filter((act) => act === 'edited').length;
    const before = await edits();
    for (const subject of ['One', 'Two', 'Three'])
      await operator.put(`/routes/${route.id}/draft`, {
        ...route.draft,
        consent: { ...route.draft.consent, mail: { ...route.draft.consent.mail, subject } },
      });
    expect(await edits()).toBe(before + 1);
  });

  it('by a token are said to be by it, and repairs have their reason', async () => {
    const { token } = await operator.post<NewTokenView>('/tokens', {
      name: 'night watch',
      scopes: ['deliveries:act'],
      days: 1,
    });
    await world.faults({ next: 1, kind: 'status', status: 403 });
    const id = (await operator.trailWhen(await submitJson(wired.source, fields('held@hill.example')), 'held'))
      .deliveries[0]?.id;
    const response = await fetch(`${world.app}/api/deliveries/${id}/drop`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
      body: JSON.stringify({ reason: 'asked for by phone' }),
    });
    expect(response.status).toBe(200);
    expect(await changes(`kind=delivery&id=${id}`)).toMatchObject([
      { act: 'dropped', actor: { kind: 'token', name: 'night watch' }, detail: 'asked for by phone' },
    ]);
    expect(await acts('kind=token')).toEqual(['made']);
  });

  it('are paged, and say which words there are', async () => {
    expect((await operator.send('GET', '/changes?kind=nonsense')).status).toBe(422);
    const all = await operator.get<{ rows: ChangeView[]; next: string | null }>('/changes');
    expect(all.rows.length).toBeGreaterThan(5);
    const after = await changes(`before=${all.rows[1]?.id}`);
    expect(after[0]?.id).toBe(all.rows[2]?.id);
  });
});
