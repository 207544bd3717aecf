import type { ChildProcess } from 'node:child_process';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { DeliveryView } from '../../src/contract/deliveries.ts';
import { FiveServices } from '../world/fiveServices.ts';
import { sendJson } from '../world/observatory.ts';
import { OwnDatabase } from '../world/ownDatabase.ts';
import { endProgram, eventually } from '../world/processes.ts';
import { World } from '../world/world.ts';

/** People, and how often each asks; every submission goes to five connections. */
const PEOPLE = 250;
const TIMES = 4;
const DELIVERIES = PEOPLE * TIMES * 5;
const AT_ONCE = 10;

let world: World;
let services: FiveServices;
let database: OwnDatabase;
let second: ChildProcess;

beforeAll(async () => {
  database = await OwnDatabase.start();
  world = await World.start({ DATABASE_URL: database.url });
  services = await FiveServices.wire(world, await world.operator());
  second = await world.oneMoreWorker();
});
afterAll(async () => {
  await endProgram(second);
  await world.stop();
  services.receiver.stop();
  await database.stop();
});

it(`${DELIVERIES} deliveries to five failing services, with workers and the database killed: none lost, none twice, in order`, async () => {
  await services.fail();
  const accepted = new Set<string>();
  const email = (person: number) => `chaos${person}@hill.example`;
  const people = Array.from({ length: PEOPLE }, (_, person) => person);
  const visitor = async () => {
    for (let person = people.shift(); person !== undefined; person = people.shift()) {
      for (let time = 1; time <= TIMES; time += 1) {
        const values = services.visit(email(person), `Quill${person}`, time);
        for (;;) {
          const response = await sendJson(services.source, values).catch(() => null);
          if (response?.status === 202) {
            accepted.add(((await response.json()) as { submission: string }).submission);
            break;
          }
          await new Promise((resolve) => setTimeout(resolve, 100));
        }
      }
    }
  };
  const visitors = Promise.all(Array.from({ length: AT_ONCE }, visitor));

  const ended = async () => {
    const [row] = await world.rows<{ count: number }>(
      "SELECT COUNT(*) AS count FROM deliveries WHERE state = 'delivered'",
    );
    return row?.count ?? 0;
  };
  const until = (share: number) =>
    eventually(
      () => ended().catch(() => 0),
      (count) => count >= DELIVERIES * share,
      180_000,
    );

  // Kill a worker again and again, and the database once, while all of it goes on.
  for (const share of [0.1, 0.25, 0.55, 0.75]) {
    await until(share);
    await endProgram(second, 'SIGKILL');
    second = await world.oneMoreWorker();
    if (share === 0.25) {
      await world.kill('worker');
      await world.startWorker();
    }
    if (share === 0.55) database.crash();
  }
  await visitors;
  await services.recover();
  await services.settled(240_000);

  expect(accepted.size).toBe(PEOPLE * TIMES);
  const states = await world.rows<{ state: DeliveryView['state']; count: number }>(
    'SELECT state, COUNT(*) AS count FROM deliveries GROUP BY state',
  );
  expect(states.map(({ state, count }) => [state, count])).toEqual([['delivered', DELIVERIES]]);
  // The figures that were kept as deliveries arrived are the ones that are counted afterwards.
  expect(
    await world.rows(
      `SELECT day, route_id, source_id, connection_id, CAST(SUM(delivered) AS INT) AS count FROM delivery_counts
        GROUP BY 1, 2, 3, 4 ORDER BY 1, 2, 3, 4`,
    ),
  ).toEqual(
    await world.rows(
      `SELECT CAST(FLOOR(d.ended_at / 86400000) AS INT) AS day, d.route_id, s.source_id, d.connection_id, COUNT(*) AS count
        FROM deliveries d JOIN submissions s ON s.id = d.submission_id WHERE d.state = 'delivered'
        GROUP BY 1, 2, 3, 4 ORDER BY 1, 2, 3, 4`,
    ),
  );

  // Each person's four visits, in their order, once each, at every service.
  const expected = Array.from({ length: PEOPLE }, (_, person) =>
    Array.from({ length: TIMES }, (__, time) => `${email(person)} ${time + 1}`),
  );
  const perPerson = (found: string[]) =>
    Array.from({ length: PEOPLE }, (_, person) => found.filter((text) => text.startsWith(`${email(person)} `)));
  for (const found of Object.values(await services.there())) expect(perPerson(found)).toEqual(expected);
  const members = await world.members();
  expect(members).toHaveLength(PEOPLE);
  expect(members.filter(({ fields }) => fields.has_telescope !== TIMES)).toEqual([]);
  expect(members.filter(({ changes }) => changes !== TIMES)).toEqual([]);
}, 400_000);
