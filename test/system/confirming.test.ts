import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PersonView } from '../../src/contract/people.ts';
import type { FormDocument } from '../../src/core/intake/index.ts';
import { skyLetterForm, skyLetterRoute } from '../../src/server/demo/documents.ts';
import { submitJson } from '../world/observatory.ts';
import type { LiveSource, Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { linkIn, TERN_KEY, World } from '../world/world.ts';

let world: World;
let operator: Operator;
let source: LiveSource<FormDocument>;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  const connection = await operator.connect(world.ternPost, TERN_KEY);
  source = await operator.form('Sky letter sign-up', { ...skyLetterForm(world.site), minimumSeconds: 0 });
  await operator.route('Letters', skyLetterRoute(source.id, connection.id));
});
afterAll(() => world.stop());

describe('a confirmation belongs to its sign-up', () => {
  it('confirms nothing that was taken back since, says so, and sends nothing', async () => {
    const email = 'mara@hill.example';
    const submission = await submitJson(source, { email, name: 'Mara Quill', consent: 'yes' });
    const [letter] = await eventually(
      () => world.letters(email),
      (letters) => letters.length > 0,
    );
    const [asked] = await world.rows<{ contact_id: string; purpose: string; kind: string }>(
      "SELECT contact_id, purpose, kind FROM consent_events WHERE kind = 'asked' ORDER BY id DESC LIMIT 1",
    );
    const [person] = await operator.get<{ rows: { id: string }[] }>(`/people?text=${email}`).then(({ rows }) => rows);
    // Until they confirm, nobody says that they agreed.
    const standing = async () =>
      (await operator.get<PersonView>(`/people/${person?.id}`)).consent.map(({ state }) => state);
    expect(await standing()).toContain('waiting');
    await world.rows(
      `INSERT INTO consent_events (id, contact_id, channel, purpose, kind, at, wording, evidence)
       VALUES (UUID(), ?, 'email', ?, 'withdrawn', ?, 'Rang us up.', '{}')`,
      [asked?.contact_id, asked?.purpose, Date.now()],
    );
    const pressed = await fetch(linkIn(letter), { method: 'POST', headers: { 'accept-language': 'en' } });
    expect([pressed.status, await pressed.text()]).toEqual([410, expect.stringContaining('You have taken this back')]);
    expect(await standing()).toContain('withdrawn');
    expect((await world.members()).some((member) => member.email === email)).toBe(false);
    expect((await operator.trail(submission)).deliveries).not.toMatchObject([{ state: 'delivered' }]);
  });
});
