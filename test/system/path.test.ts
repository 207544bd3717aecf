import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PersonView } from '../../src/contract/people.ts';
import { fields, observatory, submitForm, submitJson } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { linkIn, World } from '../world/world.ts';

let world: World;
let operator: Operator;
let wired: Awaited<ReturnType<typeof observatory>>;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  wired = await observatory(world, operator);
});
afterAll(() => world.stop());

const newestOf = async (email: string) => (await operator.submissions(`text=${encodeURIComponent(email)}`)).rows;
const memberOf = async (email: string) => (await world.members()).filter((member) => member.email === email);
const oneLetter = (email: string) =>
  eventually(
    () => world.letters(email),
    (letters) => letters.length > 0,
  );

describe('one person, from the form to the list', () => {
  const email = 'mara.quill@hill.example';

  it('is thanked on the site, and finds one mail', async () => {
    const response = await submitForm(world, wired.source, fields(email));
    expect([response.status, response.headers.get('location')]).toEqual([303, `${world.site}/thank-you`]);
    const [letter, ...others] = await oneLetter(email);
    expect(others).toEqual([]);
    expect(letter).toMatchObject({ to: email, subject: 'One more click for the Sky letter' });
    expect(letter?.html).toContain('Yes, send me the Sky letter');
    expect(letter?.headers['auto-submitted']).toBe('auto-generated');
  });

  it('is not confirmed by a scanner that opens the link, and not delivered before', async () => {
    const link = linkIn((await oneLetter(email))[0]);
    const page = await fetch(link);
    expect([page.status, (await page.text()).includes('Please confirm'), page.headers.get('referrer-policy')]).toEqual([
      200,
      true,
      'same-origin',
    ]);
    expect((await newestOf(email))[0]?.progress).toBe('waiting');
    expect(await memberOf(email)).toEqual([]);
  });

  it('confirms, twice without harm, and arrives complete', async () => {
    const link = linkIn((await oneLetter(email))[0]);
    expect(await (await fetch(link, { method: 'POST' })).text()).toContain('that is confirmed');
    expect(await (await fetch(link, { method: 'POST' })).text()).toContain('confirmed');
    const [row] = await newestOf(email);
    await operator.trailWhen(row?.id ?? '', 'delivered');
    expect(await memberOf(email)).toMatchObject([
      {
        state: 'active',
        changes: 1,
        lists: ['L-100'],
        groups: ['G-110'],
        tags: ['newsletter', 'astrophotography'],
        fields: { given: 'Mara', family: 'Quill', signup_page: 'sky-letter', has_telescope: 1 },
      },
    ]);
  });

  it('leaves a whole trail', async () => {
    const [row] = await newestOf(email);
    const trail = await operator.trail(row?.id ?? '');
    expect(trail.raw.payload).toMatchObject({ kind: 'entries' });
    expect(trail.raw.payload?.kind === 'entries' && trail.raw.payload.entries).toContainEqual(['name', 'Mara Quill']);
    expect(trail.plan?.contact).toMatchObject({ match: 'new', key: { value: email } });
    expect(trail.consent.map(({ kind }) => kind)).toEqual(['given', 'asked', 'confirmed']);
    expect(trail.consent[0]?.wording).toContain('send me the Sky letter of Pellam Ridge Observatory once a month');
    expect(trail.confirmations[0]).toMatchObject({ state: 'confirmed', mails: [{ state: 'sent' }] });
    const [delivery] = trail.deliveries;
    expect(delivery?.readBack?.every(({ same }) => same)).toBe(true);
    expect(delivery?.readBack?.map(({ what }) => what)).toEqual([
      'Email',
      'First name',
      'Last name',
      'Sign-up page',
      'Has a telescope',
      'List',
      'Group',
      'Tag',
      'Tag',
    ]);
    // The answer to the write proves it, but for one in sixteen that is looked at all the same.
    const exchanges = delivery?.attempts[0]?.exchanges?.map(({ method, status }) => [method, status]);
    const look = ['POST', 200];
    expect(exchanges).toEqual([['PUT', 201], ...(delivery?.provedBy === 'answer' ? [] : [look])]);
    expect(['answer', 'look']).toContain(delivery?.provedBy);
    expect(JSON.stringify(trail)).not.toContain('tern-key-for-tests');
    expect(JSON.stringify(trail)).not.toContain('/confirm/');
  });
});

describe('the same person again', () => {
  const email = 'twice@hill.example';
  const confirmIt = async () => fetch(linkIn((await oneLetter(email))[0]), { method: 'POST' });

  it('by a double click, and by a repeated request, is taken once', async () => {
    await Promise.all([1, 2, 3].map(() => submitForm(world, wired.source, fields(email))));
    await submitForm(world, wired.source, fields(email));
    const rows = await newestOf(email).then(async (found) =>
      found.length > 0
        ? found
        : eventually(
            () => newestOf(email),
            (later) => later.length > 0,
          ),
    );
    expect(rows).toHaveLength(1);
    expect(rows[0]?.repeats).toBe(3);
    await confirmIt();
    await operator.trailWhen(rows[0]?.id ?? '', 'delivered');
    expect(await world.letters(email)).toHaveLength(1);
    expect(await memberOf(email)).toMatchObject([{ changes: 1 }]);
  });

  const people = () => operator.get<{ rows: { id: string }[] }>(`/people?text=${email}`);
  const nameOf = async () => {
    const { values } = await operator.get<PersonView>(`/people/${(await people()).rows[0]?.id ?? ''}`);
    return values.find(({ name }) => name === 'full_name')?.value;
  };

  it('with capitals and a changed answer, is the same person, who is asked before anything is changed', async () => {
    await submitForm(world, wired.source, fields('TWICE@Hill.Example', { name: 'Mara Quill-Vale' }));
    const rows = await eventually(
      () => newestOf(email),
      (found) => found.length === 2,
    );
    await operator.trailWhen(rows[0]?.id ?? '', 'waiting');
    expect(await memberOf(email)).toMatchObject([{ fields: { family: 'Quill' }, changes: 1 }]);
    expect(await nameOf()).toBe('Mara Quill');
    const letters = await eventually(
      () => world.letters(email),
      (all) => all.length === 2,
    );
    await fetch(linkIn(letters.at(-1)), { method: 'POST' });
    await operator.trailWhen(rows[0]?.id ?? '', 'delivered');
    expect(await memberOf(email)).toMatchObject([{ fields: { family: 'Quill-Vale' }, changes: 2 }]);
    expect(await nameOf()).toBe('Mara Quill-Vale');
    expect((await people()).rows).toHaveLength(1);
  });
});

it('the same request on both sides of a stretch of time is taken once all the same', async () => {
  const email = 'stretch@hill.example';
  const id = await submitJson(wired.source, fields(email));
  await operator.trailWhen(id, 'waiting');
  // As if it had come at the end of the ten minutes before.
  await world.rows(
    "UPDATE submissions SET received_at = received_at - 60000, repeat_key = CONCAT(SUBSTRING_INDEX(repeat_key, '.', 1), '.', SUBSTRING_INDEX(repeat_key, '.', -1) - 1) WHERE id = ?",
    [id],
  );
  await submitJson(wired.source, fields(email));
  await eventually(
    () => newestOf(email),
    (rows) => rows.length === 1 && rows[0]?.repeats === 1,
  );
});

it('two new submissions of one person at the same moment make one contact and one mail', async () => {
  const email = 'rush@hill.example';
  await Promise.all(
    ['A B', 'C D', 'E F', 'G H'].map((name) => submitForm(world, wired.source, fields(email, { name }))),
  );
  await eventually(
    () => newestOf(email),
    (rows) => rows.length === 4 && rows.every(({ progress }) => progress === 'waiting'),
  );
  expect(await world.rows('SELECT contact_id FROM contact_keys WHERE value = ?', [email])).toHaveLength(1);
  expect(await oneLetter(email)).toHaveLength(1);
});

it('a form post with files and umlauts arrives as typed', async () => {
  const body = new FormData();
  Object.entries(fields('zoe@hill.example', { name: 'Zoë Ångström' })).forEach(([name, value]) =>
    body.append(name, value),
  );
  body.append('interests', 'The Moon and planets');
  const response = await fetch(wired.source.postUrl, {
    method: 'POST',
    body,
    redirect: 'manual',
    headers: { origin: world.site },
  });
  expect(response.status).toBe(303);
  const [row] = await eventually(
    () => newestOf('zoe@hill.example'),
    (rows) => rows[0]?.progress === 'waiting',
  );
  expect((await operator.trail(row?.id ?? '')).values).toMatchObject({
    name: 'Zoë Ångström',
    interests: ['Taking pictures', 'The Moon and planets'],
  });
});

it('what nobody confirms in time expires, and is dropped with a reason', async () => {
  const email = 'late@hill.example';
  await submitForm(world, wired.source, fields(email));
  const letter = (await oneLetter(email))[0];
  await world.rows("UPDATE confirmations SET expires_at = 1 WHERE sent_to = ? AND state = 'pending'", [email]);
  expect((await fetch(linkIn(letter), { method: 'POST' })).status).toBe(410);
  const [row] = await newestOf(email);
  const trail = await operator.trailWhen(row?.id ?? '', 'dropped');
  expect(trail.consent.at(-1)?.kind).toBe('expired');
  expect(trail.deliveries[0]?.causeDetail).toContain('Never confirmed');
});

it('a mail server that refuses for now gets the mail later, once', async () => {
  await fetch(`${world.mailbox}/faults`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ next: 2, kind: 'status', status: 451 }),
  });
  await submitForm(world, wired.source, fields('slowmail@hill.example'));
  expect(await oneLetter('slowmail@hill.example')).toHaveLength(1);
});

it('a confirmation can be sent again, but not at once', async () => {
  const email = 'again@hill.example';
  await submitForm(world, wired.source, fields(email));
  await oneLetter(email);
  const [row] = await newestOf(email);
  const confirmation = (await operator.trail(row?.id ?? '')).confirmations[0];
  expect((await operator.send('POST', `/confirmations/${confirmation?.id}/resend`, {})).status).toBe(409);
  await world.rows('UPDATE confirmations SET last_sent_at = 1 WHERE sent_to = ?', [email]);
  await operator.post(`/confirmations/${confirmation?.id}/resend`);
  const letters = await eventually(
    () => world.letters(email),
    (found) => found.length === 2,
  );
  // Both links are good, and each confirms once.
  expect(await (await fetch(linkIn(letters[0]), { method: 'POST' })).text()).toContain('that is confirmed');
});

it('a mailbox is not flooded, whatever is written behind a plus in its address', async () => {
  for (let at = 0; at < 14; at += 1)
    expect((await submitForm(world, wired.source, fields(`Flood+${at}@hill.example`))).status).toBe(303);
  const states = await eventually(
    () =>
      world.rows<{ state: string; error: string | null }>(
        "SELECT state, error FROM mails WHERE kind = 'ask' AND sent_to LIKE '%flood+%' OR kind = 'ask' AND sent_to LIKE '%Flood+%'",
      ),
    (rows) => rows.length === 14 && rows.every(({ state }) => state === 'sent' || state === 'held'),
  );
  expect(states.filter(({ state }) => state === 'sent')).toHaveLength(12);
  expect(states.find(({ state }) => state === 'held')?.error).toContain('this mailbox got 12 mails from here today');
  expect(await world.letters('flood+')).toHaveLength(12);
});
