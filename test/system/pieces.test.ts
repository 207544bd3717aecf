import { createHash, randomBytes } from 'node:crypto';
import { readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { SourceView } from '../../src/contract/source.ts';
import { keptName } from '../../src/core/forms/index.ts';
import type { FileValue } from '../../src/core/values/index.ts';
import { formOf, sourceField } from '../world/fields.ts';
import { World } from '../world/world.ts';

const MOST = 3_000_000;
let world: World;
let source: SourceView;
beforeAll(async () => {
  world = await World.start({ IWASHI_UPLOAD_BYTES: String(MOST) });
  const operator = await world.operator();
  const email = sourceField('email', 'email', { required: true, keepAs: 'email' });
  source = await operator.form('With a file', formOf([email, sourceField('plan', 'file')], { origins: [world.site] }));
});
afterAll(() => world.stop());

const begin = (size: number, headers: Record<string, string> = {}) =>
  fetch(`${source.postUrl}/files`, {
    method: 'POST',
    headers: {
      origin: world.site,
      'upload-length': String(size),
      'upload-complete': '?0',
      'x-file-name': encodeURIComponent('Plan für den Hügel.bin'),
      ...headers,
    },
  });
const piece = (at: string, offset: number, content: Uint8Array<ArrayBuffer>) =>
  fetch(at, {
    method: 'PATCH',
    headers: { origin: world.site, 'content-type': 'application/partial-upload', 'upload-offset': String(offset) },
    body: content,
  });
const there = async (at: string) => (await fetch(at, { method: 'HEAD' })).headers.get('upload-offset');
const keptIn = async (response: Response) => ((await response.json()) as { kept?: string }).kept;
const send = (email: string, kept: string) =>
  fetch(source.postUrl, {
    method: 'POST',
    headers: { origin: world.site, accept: 'application/json' },
    body: new URLSearchParams({ email, [keptName('plan')]: kept }),
  });
const fileOf = async (email: string): Promise<FileValue | undefined> => {
  const rows = await world.rows<{ v: string }>('SELECT field_values AS v FROM submissions');
  const values = rows.map(({ v }) => JSON.parse(v) as { email: string; plan?: FileValue });
  return values.find((one) => one.email === email)?.plan;
};

describe('a file that comes in pieces', () => {
  const content = randomBytes(2_500_000);
  it('is the same in the end, though pieces were lost, came twice, and at the same time', async () => {
    const begun = await begin(content.length);
    expect([begun.status, begun.headers.get('upload-offset')]).toEqual([201, '0']);
    const at = begun.headers.get('location') ?? '';
    const part = (from: number, to: number) => piece(at, from, new Uint8Array(content.subarray(from, to)));
    await part(0, 1_000_000);
    expect(await there(at)).toBe('1000000');
    // One that left something out says how much is there.
    const ahead = await part(2_000_000, 2_500_000);
    expect([ahead.status, ahead.headers.get('upload-offset')]).toEqual([409, '1000000']);
    await Promise.all([part(0, 1_000_000), part(1_000_000, 2_000_000), part(1_000_000, 2_000_000)]);
    const last = await part(2_000_000, 2_500_000);
    expect(last.headers.get('upload-complete')).toBe('?1');
    const kept = (await keptIn(last)) ?? '';
    expect((await send('whole@hill.example', kept)).status).toBe(202);
    const value = await fileOf('whole@hill.example');
    expect(value).toMatchObject({
      name: 'Plan für den Hügel.bin',
      size: content.length,
      sha256: createHash('sha256').update(content).digest('hex'),
    });
    const place = path.join(world.env.IWASHI_UPLOADS ?? '', (value?.file ?? '').slice(-2), value?.file ?? '');
    expect(readFileSync(place).equals(content)).toBe(true);
    // It belongs to that submission now, and takes nothing more.
    expect((await part(0, 10)).status).toBe(404);
  });
  it('goes on after the server was killed', async () => {
    const at = (await begin(content.length)).headers.get('location') ?? '';
    await piece(at, 0, new Uint8Array(content.subarray(0, 1_500_000)));
    await world.kill('server');
    await world.startServer();
    const from = Number(await there(at));
    expect(from).toBe(1_500_000);
    const kept = (await keptIn(await piece(at, from, new Uint8Array(content.subarray(from))))) ?? '';
    await send('after@hill.example', kept);
    expect((await fileOf('after@hill.example'))?.sha256).toBe(createHash('sha256').update(content).digest('hex'));
  });
  it('is not changed any more once it is whole and was judged', async () => {
    const at = (await begin(100)).headers.get('location') ?? '';
    const kept = (await keptIn(await piece(at, 0, new Uint8Array(100).fill(65)))) ?? '';
    const again = await piece(at, 0, new Uint8Array(100).fill(66));
    expect([again.status, again.headers.get('upload-complete')]).toEqual([200, '?1']);
    await send('settled@hill.example', kept);
    const value = await fileOf('settled@hill.example');
    const place = path.join(world.env.IWASHI_UPLOADS ?? '', (value?.file ?? '').slice(-2), value?.file ?? '');
    expect(readFileSync(place, 'utf8')).toBe('A'.repeat(100));
    // Nobody else on the machine reads what visitors hand over.
    expect(statSync(place).mode & 0o077).toBe(0);
  });
  it('is no file before it is whole, nor under a token that somebody made up', async () => {
    const at = (await begin(100)).headers.get('location') ?? '';
    const half = await piece(at, 0, new Uint8Array(50));
    expect(await keptIn(half)).toBeUndefined();
    await send('half@hill.example', at.split('/').at(-1) ?? '');
    expect(await fileOf('half@hill.example')).toBeFalsy();
  });
  it('is taken away where there is more of it than it said', async () => {
    const at = (await begin(100)).headers.get('location') ?? '';
    expect((await piece(at, 0, new Uint8Array(101))).status).toBe(413);
    expect((await piece(at, 0, new Uint8Array(10))).status).toBe(404);
  });
  it.each<[string, number, Record<string, string>, number]>([
    ['larger than what is taken', MOST + 1, {}, 413],
    ['of no size', 0, {}, 400],
    ['from a site that the form is not on', 100, { origin: 'https://elsewhere.example' }, 404],
  ])('is refused where it is %s', async (_, size, headers, status) =>
    expect((await begin(size, headers)).status).toBe(status),
  );
  it('may be asked for by scripts of those sites alone', async () => {
    const asked = (origin: string) => fetch(`${source.postUrl}/files`, { method: 'OPTIONS', headers: { origin } });
    const allowed = await asked(world.site);
    expect(allowed.headers.get('access-control-allow-methods')).toBe('POST, PATCH, HEAD');
    expect(allowed.headers.get('access-control-allow-origin')).toBe(world.site);
    expect((await asked('https://elsewhere.example')).status).toBe(403);
  });
  it('takes so many bytes of one address in a minute, whatever is claimed', async () => {
    const claims = await Promise.all(Array.from({ length: 30 }, () => begin(MOST)));
    expect(claims.map(({ status }) => status)).toContain(429);
  });
});
