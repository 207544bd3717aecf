import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ConnectionView } from '../../src/contract/connection.ts';
import { FiveServices } from '../world/fiveServices.ts';
import { fields, observatory, submitJson } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { ProgramClock } from '../world/programClock.ts';
import { World } from '../world/world.ts';

const HOUR = 3_600_000;
const clock = new ProgramClock();
let world: World;
let operator: Operator;
let wired: Awaited<ReturnType<typeof observatory>>;
beforeAll(async () => {
  world = await World.start(clock.env);
  operator = await world.operator();
  wired = await observatory(world, operator, 'single');
});
afterAll(async () => {
  await world.stop();
  clock.stop();
});
const put = (ms: number) => clock.put(ms, [world.server, world.worker]);
const membersLike = async (email: string) => (await world.members()).filter((one) => one.email === email);

describe('when the clock of the machine is put to another time', () => {
  it('forward, nothing under way is taken for left behind: it is sent once', async () => {
    const second = await world.oneMoreWorker();
    await world.faults({ kind: 'slow', next: 1, delay: 2_500 });
    const id = await submitJson(wired.source, fields('forward@hill.example'));
    await eventually(
      () => world.rows<{ state: string }>('SELECT state FROM deliveries WHERE submission_id = ?', [id]),
      ([row]) => row?.state === 'sending',
    );
    await clock.put(2 * HOUR, [world.server, world.worker, second]);
    await operator.trailWhen(id, 'delivered');
    expect(await world.rows('SELECT tries FROM deliveries WHERE submission_id = ?', [id])).toEqual([{ tries: 1 }]);
    expect(await membersLike('forward@hill.example')).toHaveLength(1);
    second.kill('SIGTERM');
  });

  it('back, nothing waits for the time that it was before', async () => {
    // Taken while the clock was ahead, and on its way when it is put right.
    await operator.post(`/connections/${wired.connection.id}/pause`);
    const id = await submitJson(wired.source, fields('back@hill.example'));
    await operator.trailWhen(id, 'on its way');
    await put(0);
    await operator.post<ConnectionView>(`/connections/${wired.connection.id}/resume`);
    await operator.trailWhen(id, 'delivered');
    // And so is what comes now.
    await operator.trailWhen(await submitJson(wired.source, fields('after@hill.example')), 'delivered');
  });

  it('back, what is published then is met at once', async () => {
    await put(3 * HOUR);
    await (await fetch(wired.source.postUrl)).text();
    await put(0);
    await operator.put(`/sources/${wired.source.id}/draft`, { ...wired.source.draft, title: 'By the new clock' });
    await operator.post(`/sources/${wired.source.id}/publish`);
    await expect
      .poll(async () => (await fetch(wired.source.postUrl)).text(), { timeout: 10_000 })
      .toContain('By the new clock');
  });

  it('far from the one that a service has, what it made for us is still known as ours', async () => {
    const services = await FiveServices.wire(world, operator);
    await put(2 * HOUR);
    // The record is made, and the look afterwards fails: the next try has to find it.
    await services.worsen(1, { kind: 'garbage', next: 1, method: 'GET', path: '/api/records' });
    await submitJson(services.source, services.visit('ours@hill.example', 'Quill', 3));
    await eventually(
      () =>
        world.rows<{ state: string; tries: number }>(
          `SELECT d.state, d.tries FROM deliveries d JOIN connections c ON c.id = d.connection_id WHERE c.profile = 'capstan'`,
        ),
      ([row]) => row?.state === 'delivered' && row.tries > 1,
    );
    expect((await services.there()).capstan).toEqual(['ours@hill.example 3']);
    services.receiver.stop();
  });
});
