import { afterAll, beforeAll, expect, it } from 'vitest';
import { fields, observatory, sendJson } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { World } from '../world/world.ts';

const SUBMISSIONS = 500;
const AT_ONCE = 12;

let world: World;
let operator: Operator;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
});
afterAll(() => world.stop());

it(`${SUBMISSIONS} submissions survive kill -9 of worker and server while the destination fails at random: none lost, none twice`, async () => {
  const { source } = await observatory(world, operator, 'single');
  // Low enough that no delivery fails so often in a row that its next try is minutes away.
  await world.faults({ kind: 'status', status: 500, share: 0.06 });
  await world.faults({ kind: 'drop', share: 0.03 });
  await world.faults({ kind: 'status', status: 429, share: 0.01 });

  // Each visitor tries again until the answer says that it was accepted, as people do.
  const accepted = new Map<string, string>();
  const waiting = Array.from({ length: SUBMISSIONS }, (_, index) => `crash${index}@hill.example`);
  const visitor = async () => {
    for (let email = waiting.shift(); email; email = waiting.shift()) {
      while (!accepted.has(email)) {
        const response = await sendJson(source, fields(email)).catch(() => null);
        if (response?.status === 202)
          accepted.set(email, ((await response.json()) as { submission: string }).submission);
        else await new Promise((resolve) => setTimeout(resolve, 50));
      }
    }
  };
  const visitors = Promise.all(Array.from({ length: AT_ONCE }, visitor));
  const after = (share: number) =>
    eventually(
      () => Promise.resolve(accepted.size),
      (size) => size >= SUBMISSIONS * share,
      60_000,
    );

  await after(0.2);
  await world.kill('worker');
  await world.startWorker();
  await after(0.5);
  await world.kill('server');
  await world.startServer();
  await after(0.8);
  await world.kill('worker');
  await world.kill('server');
  await world.startServer();
  await world.startWorker();
  await visitors;

  const open = () =>
    world.rows<{ count: number }>(
      "SELECT (SELECT COUNT(*) FROM submissions WHERE state = 'received') + (SELECT COUNT(*) FROM deliveries WHERE state NOT IN ('delivered', 'held')) AS count",
    );
  await eventually(open, ([row]) => Number(row?.count) === 0, 100_000);
  await world.noFaults();

  expect(accepted.size).toBe(SUBMISSIONS);
  const stored = await world.rows<{ id: string; state: string }>('SELECT id, state FROM submissions');
  const ids = new Set(stored.map(({ id }) => id));
  expect([...accepted.values()].filter((id) => !ids.has(id))).toEqual([]);
  expect(stored.filter(({ state }) => state !== 'planned')).toEqual([]);
  const deliveries = await world.rows<{ submission_id: string; state: string }>(
    'SELECT submission_id, state FROM deliveries',
  );
  expect(new Set(deliveries.map(({ submission_id }) => submission_id)).size).toBe(deliveries.length);
  expect(deliveries).toHaveLength(stored.length);
  expect(stored).toHaveLength(SUBMISSIONS);

  const members = await world.members();
  const delivered = deliveries.filter(({ state }) => state === 'delivered').length;
  expect(new Set(members.map(({ email }) => email)).size).toBe(members.length);
  expect(members.length).toBeGreaterThanOrEqual(delivered);
  expect(members.filter(({ changes }) => changes !== 1)).toEqual([]);
  const contacts = await world.rows<{ count: number }>('SELECT COUNT(*) AS count FROM contacts');
  expect(contacts).toEqual([{ count: SUBMISSIONS }]);
}, 240_000);
