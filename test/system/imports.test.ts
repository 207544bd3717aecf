import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ImportView } from '../../src/contract/imports.ts';
import type { SourceView } from '../../src/contract/source.ts';
import { SOURCE_FORMAT, type FileDocument } from '../../src/core/intake/index.ts';
import type { SourceField } from '../../src/core/values/index.ts';
import { skyLetterForm, skyLetterRoute } from '../../src/server/demo/documents.ts';
import { sourceField } from '../world/fields.ts';
import { fields, submitForm } from '../world/observatory.ts';
import type { LiveSource, Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { TERN_KEY, World } from '../world/world.ts';

let world: World;
let operator: Operator;
let source: LiveSource<FileDocument>;

const at = (key: string, type: SourceField['type'], path: string, more: Partial<SourceField> = {}) =>
  sourceField(key, type, { path, ...more });
const ofFiles = (own: SourceField[]): FileDocument => ({
  format: SOURCE_FORMAT,
  kind: 'file',
  fields: own,
  statement: '',
  trust: 'usual',
});
const MEMBERS = [
  at('email', 'email', '$["E-Mail"]', { required: true, keepAs: 'email' }),
  at('name', 'text', '$.Name', { keepAs: 'full_name' }),
  at('since', 'date', '$.Since'),
  at('paid', 'number', '$.Paid'),
];
const AGREED = {
  agreed: 'given' as const,
  words: 'Send me the sky letter.',
  where: 'the list at the gate',
  when: '2026-03-01',
};

const bring = (of: SourceView, name: string, content: string | Uint8Array<ArrayBuffer>) =>
  operator.bring<ImportView>(`/sources/${of.id}/imports`, name, content);
const stateOf = (of: SourceView, { id }: ImportView) =>
  operator
    .get<ImportView[]>(`/sources/${of.id}/imports`)
    .then((all) => all.find((one) => one.id === id) ?? Promise.reject(new Error('it is gone')));
const until = (of: SourceView, file: ImportView, ...states: ImportView['state'][]) =>
  eventually(
    () => stateOf(of, file),
    ({ state }) => states.includes(state),
  );
const act = (of: SourceView, { id }: ImportView, what: string, body: object = {}) =>
  operator.send('POST', `/sources/${of.id}/imports/${id}/${what}`, body);
const take = async (of: SourceView, file: ImportView, said: object = AGREED) => {
  expect((await act(of, file, 'begin', { ...said, perMinute: 60_000 })).status).toBe(200);
  return until(of, file, 'done');
};
const mails = () => world.letters('@');

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  source = await operator.source('Members', ofFiles(MEMBERS));
  const tern = await operator.connect(world.ternPost, TERN_KEY);
  const form = await operator.form('Sky letter', { ...skyLetterForm(world.site), minimumSeconds: 0 });
  const letter = skyLetterRoute(form.id, tern.id);
  await operator.route('Sky letter', letter);
  const [first] = letter.targets;
  if (!first) throw new Error('the letter has a target');
  await operator.route('Members', {
    ...letter,
    sourceIds: [source.id],
    targets: [{ ...first, lines: first.lines.slice(0, 3), tags: [], when: null }],
    consent: { ...letter.consent, asks: letter.consent.asks.map((ask) => ({ ...ask, tickField: '' })) },
  });
});
afterAll(() => world.stop());

const CSV = [
  'E-Mail;Name;Since;Paid',
  'ada@list.example;Ada Quill;13.02.2024;1.250,50',
  'mara@list.example;"Quill; Mara";01.03.2024;12,5',
  'nobody;Nobody;02.03.2024;1',
  'ada@list.example;Ada Q. Quill;13.02.2024;1.300,00',
  ';Nameless;;',
  'zoe@list.example;Zoë;31.12.2023;',
].join('\r\n');

describe('a file of people', () => {
  it('is judged over all of its rows, with what it is judged by, and nothing is taken', async () => {
    const latin = Uint8Array.from(CSV, (sign) => sign.charCodeAt(0));
    const file = await until(source, await bring(source, 'members.csv', latin), 'ready');
    expect(file.reading).toMatchObject({ format: 'text', encoding: 'windows-1252', delimiter: ';', header: true });
    expect(file.total).toBe(6);
    expect(file.columns.map(({ name, type, written }) => [name, type, written])).toEqual([
      ['E-Mail', 'text', 'as it is'],
      ['Name', 'text', 'as it is'],
      ['Since', 'date', 'day first'],
      ['Paid', 'number', 'decimal comma'],
    ]);
    expect(file.columns[2]?.because).toContain('row 2 has 13.02.2024');
    expect((await operator.submissions(`source=${source.id}`)).rows).toEqual([]);
    const rows = await operator.get<{ rows: { cells: Record<string, string> }[] }>(
      `/sources/${source.id}/imports/${file.id}/rows`,
    );
    expect(rows.rows.at(-1)?.cells.Name).toBe('Zoë');
  });

  it('is rehearsed as a whole, then taken row by row; what is refused comes back with why, and is taken once mended', async () => {
    const file = await until(source, await bring(source, 'members.csv', CSV), 'ready');
    expect((await act(source, file, 'rehearse', { ...AGREED, words: '' })).status).toBe(422);
    expect((await act(source, file, 'rehearse', AGREED)).status).toBe(200);
    const { rehearsed } = await eventually(
      () => stateOf(source, file),
      ({ state, rehearsed: counts }) => state === 'ready' && counts !== null,
    );
    expect(rehearsed).toMatchObject({ rows: 6, fresh: 3, known: 1, refused: 2, noConsent: 4 });
    expect((await operator.submissions(`source=${source.id}`)).rows).toEqual([]);

    const before = (await mails()).length;
    const done = await take(source, file);
    expect(done.counts).toEqual({ taken: 4, refused: 2 });
    const people = await eventually(
      () => operator.get<{ rows: { email: string; name: string }[] }>('/people?text=list.example'),
      ({ rows }) => rows.length === 3 && rows.some(({ name }) => name === 'Ada Q. Quill'),
    );
    expect(people.rows.map(({ email, name }) => [email, name]).sort()).toEqual([
      ['ada@list.example', 'Ada Q. Quill'],
      ['mara@list.example', 'Quill; Mara'],
      ['zoe@list.example', 'Zoë'],
    ]);
    const [newest] = (await operator.submissions(`source=${source.id}&text=mara`)).rows;
    const trail = await operator.trail(newest?.id ?? '');
    expect(trail.values).toMatchObject({ since: '2024-03-01', paid: 12.5 });

    // They agreed, and did not confirm: nobody is asked, and nothing goes where it needs a confirmation.
    expect((await mails()).length).toBe(before);
    expect((await operator.deliveries('text=list.example')).rows).toEqual([]);

    const csv = await (
      await operator.open(`${world.app}/api/sources/${source.id}/imports/${file.id}/rejects.csv`)
    ).text();
    const rejects = parse<Record<string, string>>(csv, { bom: true, columns: true });
    expect(rejects.map((row) => [row['E-Mail'], row.Name, row['Why it was not taken']])).toEqual([
      ['nobody', 'Nobody', expect.stringContaining('has an @ in it')],
      ['', 'Nameless', expect.stringContaining('needed')],
    ]);
    const mended = csv.replace('nobody,', 'mended@list.example,');
    const second = await until(source, await bring(source, 'mended.csv', mended), 'ready');
    expect((await take(source, second)).counts).toEqual({ taken: 1, refused: 1 });
  });

  it('is taken over as confirmed where somebody says so, and never where it was taken back here', async () => {
    const left = 'left@list.example';
    const form = (await operator.get<SourceView[]>('/sources')).find(({ name }) => name === 'Sky letter');
    if (!form) throw new Error('the form is missing');
    await submitForm(world, form, fields(left));
    await eventually(
      () => world.letters(left),
      (letters) => letters.length === 1,
    );
    // As a connected system tells it of somebody who leaves there.
    await world.rows(
      `INSERT INTO consent_events (id, contact_id, submission_id, purpose, channel, kind, at, wording, evidence)
        SELECT UUID(), contact_id, submission_id, purpose, channel, 'withdrawn', at + 1, '', '{}' FROM consent_events
        WHERE kind = 'given' AND contact_id = (SELECT id FROM contacts WHERE email = '${left}') LIMIT 1`,
    );
    const before = (await mails()).length;
    const csv = `E-Mail,Name\n${left},Left Before\nconfirmed@list.example,Con Firmed\n`;
    const file = await until(source, await bring(source, 'confirmed.csv', csv), 'ready');
    await take(source, file, { ...AGREED, agreed: 'confirmed' });
    const { rows } = await eventually(
      () => operator.deliveries('state=delivered&text=list.example'),
      (all) => all.rows.length > 0,
    );
    expect(rows.map(({ email }) => email)).toEqual(['confirmed@list.example']);
    const members = await world.members();
    expect(members.filter(({ email }) => email === left)).toEqual([]);
    expect((await mails()).length).toBe(before);
    const [evidence] = await world.rows<{ evidence: string; at: number; kind: string }>(
      "SELECT e.kind, e.at, e.evidence FROM consent_events e JOIN contacts c ON c.id = e.contact_id WHERE c.email = 'confirmed@list.example' AND e.kind = 'confirmed'",
    );
    expect(JSON.parse(evidence?.evidence ?? '{}')).toMatchObject({
      'imported from': 'confirmed.csv',
      row: '3',
      'agreed where': AGREED.where,
      'agreed when': AGREED.when,
    });
    expect(new Date(Number(evidence?.at)).toISOString()).toBe('2026-03-01T12:00:00.000Z');
  });

  it('goes on at the right row after its worker was killed, paused and resumed, and takes none twice', async () => {
    const many = await operator.source(
      'Many',
      ofFiles([at('email', 'email', '$.email', { required: true, keepAs: 'email' })]),
    );
    const rows = Array.from({ length: 2_000 }, (_, number) => `m${number}@many.example`);
    const file = await until(many, await bring(many, 'many.csv', `email,x\n${rows.join(',1\n')},1\n`), 'ready');
    expect((await act(many, file, 'begin', { agreed: 'no', perMinute: 15_000 })).status).toBe(200);
    await eventually(
      () => stateOf(many, file),
      ({ done }) => done > 200,
    );
    await world.kill('worker');
    await world.startWorker();
    await eventually(
      () => stateOf(many, file),
      ({ done }) => done > 900,
      60_000,
    );
    expect((await act(many, file, 'pause')).status).toBe(200);
    expect((await act(many, file, 'resume')).status).toBe(200);
    const { counts } = await eventually(
      () => stateOf(many, file),
      ({ state }) => state === 'done',
      90_000,
    );
    expect(counts.refused).toBe(0);
    const [stored] = await world.rows<{ count: number; addresses: number }>(
      `SELECT COUNT(*) AS count, COUNT(DISTINCT field_values) AS addresses FROM submissions WHERE source_id = '${many.id}'`,
    );
    expect([Number(stored?.count), Number(stored?.addresses)]).toEqual([2_000, 2_000]);
  }, 180_000);

  it('can be undone: nobody is known by it any more, what others said stays, and what had gone is counted', async () => {
    const known = 'stays@undo.example';
    const form = (await operator.get<SourceView[]>('/sources')).find(({ name }) => name === 'Sky letter');
    if (!form) throw new Error('the form is missing');
    await submitForm(world, form, fields(known));
    const peopleOf = async () =>
      (await operator.get<{ rows: { email: string; name: string }[] }>('/people?text=undo.example')).rows;
    const [before] = await eventually(peopleOf, (rows) => rows.length === 1);

    const csv = `E-Mail,Name\n${known},Another Name\ngone@undo.example,Gone\nsent@undo.example,Sent\n`;
    const file = await until(source, await bring(source, 'wrong.csv', csv), 'ready');
    await take(source, file, { ...AGREED, agreed: 'confirmed' });
    await eventually(
      () => operator.deliveries('state=delivered&text=undo.example'),
      ({ rows }) => rows.length >= 2,
    );
    // One of them had not gone yet.
    await world.rows(
      `UPDATE deliveries d JOIN contacts c ON c.id = d.contact_id SET d.state = 'held', d.cause = 'unavailable', d.ended_at = NULL WHERE c.email = 'gone@undo.example'`,
    );
    expect(await peopleOf()).toHaveLength(3);

    expect((await act(source, file, 'undo')).status).toBe(200);
    const undone = await until(source, file, 'undone');
    expect(undone.counts).toEqual({ taken: 3, refused: 0, undone: 3, gone: 1, stay: 2 });
    const people = await peopleOf();
    expect(people.map(({ email }) => email).sort()).toEqual(['sent@undo.example', known]);
    expect(people.find(({ email }) => email === known)?.name).toBe(before?.name);
    const consent = await world.rows<{ email: string; kind: string; undone: number }>(
      "SELECT c.email, e.kind, e.undone_at IS NOT NULL AS undone FROM consent_events e JOIN contacts c ON c.id = e.contact_id WHERE c.email = 'sent@undo.example'",
    );
    expect(consent.length).toBeGreaterThan(0);
    expect(consent.every(({ undone: mark }) => mark === 1)).toBe(true);
    const [newest] = (await operator.submissions(`source=${source.id}&text=sent@undo`)).rows;
    expect((await operator.trail(newest?.id ?? '')).undoneAt).not.toBeNull();
    // Once is enough; and what is over can be brought again.
    expect((await act(source, file, 'undo')).status).toBe(409);
    const again = await until(source, await bring(source, 'right.csv', csv), 'ready');
    expect((await take(source, again, { ...AGREED, agreed: 'confirmed' })).counts.taken).toBe(3);
    await eventually(peopleOf, (rows) => rows.length === 3);
  });

  it('is taken no quicker than was said', async () => {
    const slow = await operator.source(
      'Slow',
      ofFiles([at('email', 'email', '$.email', { required: true, keepAs: 'email' })]),
    );
    const rows = Array.from({ length: 40 }, (_, number) => `s${number}@slow.example`);
    const file = await until(slow, await bring(slow, 'slow.csv', `email,x\n${rows.join(',1\n')},1\n`), 'ready');
    const begun = Date.now();
    expect((await act(slow, file, 'begin', { agreed: 'no', perMinute: 600 })).status).toBe(200);
    await eventually(
      () => stateOf(slow, file),
      ({ state }) => state === 'done',
    );
    // Ten a second: the last of forty after at least three and a half seconds, however quick the machine is.
    expect(Date.now() - begun).toBeGreaterThan(3_400);
  });

  it('can be cancelled, read anew, and deleted', async () => {
    const file = await until(source, await bring(source, 'table.txt', 'a|b\n1|2\n3|4\n'), 'ready');
    expect(file.reading?.delimiter).toBe('|');
    await operator.put(`/sources/${source.id}/imports/${file.id}/reading`, {
      encoding: 'utf-8',
      delimiter: ',',
      header: false,
      written: {},
    });
    const anew = await until(source, file, 'ready');
    expect(anew.columns.map(({ name }) => name)).toEqual(['Column 1']);
    const wrong = await operator.send('PUT', `/sources/${source.id}/imports/${file.id}/reading`, {
      encoding: 'klingon',
      delimiter: ',',
      header: false,
      written: {},
    });
    expect(wrong.status).toBe(422);
    await act(source, file, 'begin', { agreed: 'no', perMinute: 1 });
    expect((await act(source, file, 'cancel')).status).toBe(200);
    expect((await operator.send('DELETE', `/sources/${source.id}/imports/${file.id}`)).status).toBe(204);
    expect((await operator.get<ImportView[]>(`/sources/${source.id}/imports`)).some(({ id }) => id === file.id)).toBe(
      false,
    );
  });

  it('is taken from nobody who is not signed in', async () => {
    const posted = await fetch(source.postUrl, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ 'E-Mail': 'outside@list.example' }),
    });
    expect(posted.status).toBe(404);
    const brought = await fetch(`${world.app}/api/sources/${source.id}/imports`, { method: 'POST', body: CSV });
    expect(brought.status).toBe(401);
  });

  it('says why it cannot be read', async () => {
    const broken = await until(source, await bring(source, 'broken.xlsx', 'PK\u0003\u0004 nothing'), 'unreadable');
    expect(broken.problem).toContain('damaged');
    const empty = await until(source, await bring(source, 'empty.csv', ''), 'unreadable');
    expect(empty.problem).toBe('There are no rows in it.');
  });

  it('may be lines of JSON, and cards', async () => {
    const lines = await until(
      source,
      await bring(
        source,
        'people.jsonl',
        '{"E-Mail":"json@list.example","Name":"Jay"}\n{"E-Mail":"two@list.example"}\n',
      ),
      'ready',
    );
    expect([lines.reading?.format, lines.total]).toEqual(['lines', 2]);
    const card = 'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Mara Quill\r\nEMAIL;PREF=1:card@list.example\r\nEND:VCARD\r\n';
    const cards = await until(source, await bring(source, 'people.vcf', card), 'ready');
    expect(cards.columns.map(({ name, type }) => [name, type])).toContainEqual(['Email', 'email']);
  });
});
