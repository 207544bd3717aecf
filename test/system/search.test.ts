import { execFile } from 'node:child_process';
import path from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DeliveryView } from '../../src/contract/deliveries.ts';
import type { InsightView } from '../../src/contract/insight.ts';
import type { Page } from '../../src/contract/pages.ts';
import type { PersonRow } from '../../src/contract/people.ts';
import type { SubmissionRow, TrailView } from '../../src/contract/submissions.ts';
import { fields, observatory, sendJson } from '../world/observatory.ts';
import type { LiveSource, Operator } from '../world/operator.ts';
import type { FormDocument } from '../../src/core/intake/index.ts';
import { eventually, ROOT } from '../world/processes.ts';
import { World } from '../world/world.ts';

let world: World;
let operator: Operator;
let source: LiveSource<FormDocument>;
beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  ({ source } = await observatory(world, operator, 'single'));
  for (const [name, email] of [
    ['Zoë Starling-Müller', 'zoe.starling@mail.hill.example'],
    ['Zora Quill', 'zora@other.example'],
    ['Олена Вітер', 'olena@hill.example'],
  ] as const)
    expect((await sendJson(source, { ...fields(email), name })).status).toBe(202);
  await eventually(
    () => operator.get<Page<PersonRow>>('/people'),
    ({ rows }) => rows.length === 3,
  );
});
afterAll(() => world.stop());

const text = (words: string) => encodeURIComponent(words);
const people = async (words: string) =>
  (await operator.get<Page<PersonRow>>(`/people?text=${text(words)}`)).rows.map(({ name }) => name).sort();

describe('search', () => {
  it.each<[string, string[]]>([
    ['zo', ['Zora Quill', 'Zoë Starling-Müller']],
    ['ZOE', ['Zoë Starling-Müller']],
    ['mull', ['Zoë Starling-Müller']],
    ['zo quill', ['Zora Quill']],
    ['@mail.hill', ['Zoë Starling-Müller']],
    ['hill', ['Zoë Starling-Müller', 'Олена Вітер']],
    ['віт', ['Олена Вітер']],
    ['zoe.starling@mail.hill.example', ['Zoë Starling-Müller']],
    ['uill', []],
    ['100%', []],
    ['  ', []],
  ])('finds people by %j', async (words, names) => expect(await people(words)).toEqual(names));

  it('finds what they sent, and what was sent for them', async () => {
    const submissions = await operator.get<Page<SubmissionRow>>(`/submissions?text=${text('müll')}`);
    expect(submissions.rows.map(({ email }) => email)).toEqual(['zoe.starling@mail.hill.example']);
    const deliveries = await operator.get<Page<DeliveryView>>(`/deliveries?text=${text('müll')}`);
    expect(new Set(deliveries.rows.map(({ email }) => email))).toEqual(new Set(['zoe.starling@mail.hill.example']));
    const none = await operator.get<Page<DeliveryView>>(`/deliveries?text=nobody`);
    expect(none).toEqual({ rows: [], next: null });
  });

  it('looks through a part of a long list at a time where many have each of the words and few have both', async () => {
    // 6,000 people of whom each has one of two words, changed later than the one who has both.
    const at = Date.now();
    const both = 'f0000000-0000-7000-8000-000000000000';
    const id = (n: string) => `CONCAT('f0000000-0000-7000-9000-', LPAD(${n}, 12, '0'))`;
    await world.rows(
      `INSERT INTO contacts (id, person_id, email, name, created_at, updated_at) SELECT ${id('seq')}, ${id('seq')}, CONCAT('of', seq, '@many.example'), 'Of Many', ${at}, ${at} + seq FROM seq_1_to_6000`,
    );
    await world.rows(
      `INSERT INTO search_words (contact_id, word) SELECT ${id('seq')}, IF(seq % 2, 'fennimore', 'garnet') FROM seq_1_to_6000`,
    );
    await world.rows(
      `INSERT INTO contacts (id, person_id, email, name, created_at, updated_at) VALUES ('${both}', '${both}', 'both@many.example', 'Fennimore Garnet', ${at}, ${at})`,
    );
    await world.rows(
      `INSERT INTO search_words (contact_id, word) VALUES ('${both}', 'fennimore'), ('${both}', 'garnet')`,
    );
    const ask = (before = '') =>
      operator.get<Page<PersonRow>>(`/people?text=${text('fennimore garnet')}&before=${before}`);
    const first = await ask();
    expect(first).toMatchObject({ rows: [], looked: 5_000 });
    const second = await ask(first.next ?? '');
    expect(second.rows.map(({ email }) => email)).toEqual(['both@many.example']);
    expect(second).toMatchObject({ next: null });
    expect('looked' in second).toBe(false);
    await world.rows("DELETE FROM search_words WHERE contact_id LIKE 'f0000000-%'");
    await world.rows("DELETE FROM contacts WHERE id LIKE 'f0000000-%'");
  });

  it('goes by the name that a person has now', async () => {
    expect((await sendJson(source, { ...fields('zora@other.example'), name: 'Zora Penhallowe' })).status).toBe(202);
    await eventually(
      () => people('penhal'),
      (names) => names.length === 1,
    );
    expect(await people('quill')).toEqual([]);
  });

  it('finds those who were there before words were kept, once they have theirs', async () => {
    await world.rows('DELETE FROM search_words');
    await world.rows("DELETE FROM facts WHERE name = 'search words'");
    expect(await people('zo')).toEqual([]);
    await eventually(
      () => people('zo'),
      (names) => names.length === 2,
    );
  });
});

describe('many people, made out of those who are there', () => {
  it('have names and histories of their own, are found and counted, and nothing of them is done again', async () => {
    const settled = () =>
      world.rows<{ n: number }>("SELECT COUNT(*) AS n FROM deliveries WHERE state NOT IN ('delivered', 'dropped')");
    await eventually(settled, ([row]) => row?.n === 0);
    await eventually(
      () => operator.get<InsightView>('/insight'),
      ({ sources }) => (sources[0]?.counts.delivered ?? 0) >= 3,
    );
    const [before] = await world.rows<{ n: number }>('SELECT COUNT(*) AS n FROM submissions');
    const sentBefore = (await world.members()).length;
    const program = path.join(ROOT, 'dist/server/seed.js');
    await promisify(execFile)(process.execPath, [program, '300'], { env: { ...process.env, ...world.env } });
    const [made] = await world.rows<Record<string, number>>(`SELECT
      (SELECT COUNT(*) FROM contacts) AS contacts, (SELECT COUNT(DISTINCT email) FROM contacts) AS addresses,
      (SELECT COUNT(*) FROM contact_keys WHERE is_owner = 1) AS owned, (SELECT COUNT(*) FROM submissions) AS submissions,
      (SELECT COUNT(*) FROM submissions s LEFT JOIN contacts c ON c.id = s.contact_id WHERE c.id IS NULL) AS lost,
      (SELECT COUNT(*) FROM deliveries d LEFT JOIN submissions s ON s.id = d.submission_id AND s.contact_id = d.contact_id WHERE s.id IS NULL) AS loose,
      (SELECT COUNT(*) FROM submissions s JOIN contacts c ON c.id = s.contact_id WHERE s.field_values NOT LIKE CONCAT('%', c.email, '%')) AS strangers`);
    expect(made).toEqual({
      contacts: 303,
      addresses: 303,
      owned: 303,
      submissions: (before?.n ?? 0) + 300,
      lost: 0,
      loose: 0,
      strangers: 0,
    });
    const { rows } = await operator.get<Page<PersonRow>>('/people?text=hilltop.example');
    expect(rows.length).toBeGreaterThan(5);
    const [one] = rows;
    expect(await people(one?.email ?? '')).toEqual([one?.name]);
    const found = await operator.get<Page<SubmissionRow>>(`/submissions?text=${text(one?.email ?? '')}`);
    const trail = await operator.get<TrailView>(`/submissions/${found.rows[0]?.id}`);
    expect(trail.values.email).toBe(one?.email);
    expect(trail.deliveries[0]?.state).toBe('delivered');
    const whole = await operator.get<InsightView>(
      `/insight?from=${new Date(Date.now() - 360 * 24 * 3_600_000).toISOString().slice(0, 10)}&zone=UTC`,
    );
    const [counted] = await world.rows<{ n: number }>(
      "SELECT COUNT(*) AS n FROM form_events WHERE what = 'completed' AND at >= ?",
      [whole.fromMs],
    );
    expect(whole.sources[0]?.counts.completed).toBe(counted?.n);
    expect(await settled()).toEqual([{ n: 0 }]);
    expect((await world.members()).length).toBe(sentBefore);
  });
});
