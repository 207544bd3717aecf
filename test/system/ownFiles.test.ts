import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { InsightView } from '../../src/contract/insight.ts';
import { PICTURE_BYTES, type OwnFileView } from '../../src/contract/ownFiles.ts';
import type { SourceView } from '../../src/contract/source.ts';
import { ownPicture, PLAIN_LOOK, saying } from '../../src/core/forms/index.ts';
import type { FormDocument } from '../../src/core/intake/index.ts';
import { formOf, sourceField } from '../world/fields.ts';
import type { Operator } from '../world/operator.ts';
import { eventually, ROOT } from '../world/processes.ts';
import { World } from '../world/world.ts';

let world: World;
let operator: Operator;
beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
});
afterAll(() => world.stop());

const SHOT = readFileSync(path.join(ROOT, 'test/world/one-pixel.png'));
const email = sourceField('email', 'email', { required: true, keepAs: 'email' });
const askingFor = (more: Partial<FormDocument> = {}): FormDocument => formOf([email], more);

const add = async (name: string, content: Uint8Array<ArrayBuffer> | string): Promise<OwnFileView> => {
  const response = await operator.upload(name, content);
  expect(response.status).toBe(201);
  return (await response.json()) as OwnFileView;
};
const problemOf = async (response: Response) => (await response.json()) as { title: string };

/** Sends a form as a script on a page does. @returns what is put in its place */
async function send({ postUrl }: SourceView, address: string): Promise<{ html: string; taken: boolean }> {
  const body = new URLSearchParams({ email: address });
  const headers = { accept: 'application/json', origin: world.site };
  const response = await fetch(`${postUrl}?as=part`, { method: 'POST', body, headers });
  return (await response.json()) as { html: string; taken: boolean };
}
const linkOf = ({ html }: { html: string }): string => /href="([^"]*\/place\/download\/[^"]*)"/.exec(html)?.[1] ?? '';

describe('a picture of ours', () => {
  it('is known by what is in it, shown to anybody, and kept for good', async () => {
    const picture = await add('../../the Moon.txt', new Uint8Array(SHOT));
    expect(picture).toMatchObject({ name: 'the Moon.txt', mediaType: 'image/png', width: 1, height: 1, forms: [] });
    const shown = await fetch(`${world.app}/place/files/${picture.id}`);
    expect([shown.status, shown.headers.get('content-type')]).toEqual([200, 'image/png']);
    // RFC 9111, 5.2.2.1 and RFC 8246: it never changes at its address. CSP 3, 2.2: nothing in it runs, wherever it is opened.
    expect(shown.headers.get('cache-control')).toBe('public, max-age=31536000, immutable');
    expect(shown.headers.get('content-security-policy')).toBe("default-src 'none'; sandbox");
    expect(shown.headers.get('cross-origin-resource-policy')).toBe('cross-origin');
    expect(Buffer.from(await shown.arrayBuffer()).equals(SHOT)).toBe(true);
  });
  it('is refused where it is too heavy, with how heavy it may be', async () => {
    const heavy = Buffer.concat([SHOT, randomBytes(PICTURE_BYTES)]);
    const refused = await operator.upload('heavy.png', new Uint8Array(heavy));
    expect(refused.status).toBe(422);
    expect((await problemOf(refused)).title).toMatch(/501 kB; at most 500/);
  });
  it('is refused where it is cut off', async () => {
    const cut = await operator.upload('cut.jpg', new Uint8Array([0xff, 0xd8, 0xff, 0xe0, 0, 16]));
    expect([cut.status, (await problemOf(cut)).title]).toEqual([422, expect.stringMatching(/cannot be read/)]);
  });
  it('stands in a form by our own address, wherever the form is; and is not removed while a form shows it', async () => {
    const picture = await add('behind.png', new Uint8Array(SHOT));
    const look = { ...PLAIN_LOOK, picture: { url: ownPicture(picture.id), veil: 90 } };
    const source = await operator.form('With a picture', askingFor({ look }));
    const address = `${world.app}/place/files/${picture.id}`;
    const id = source.postUrl.split('/').at(-1);
    const part = await fetch(`${world.app}/place/${id}.json`, { headers: { origin: world.site } });
    expect(((await part.json()) as { css: string }).css).toContain(`url("${address}")`);
    expect(await (await fetch(source.postUrl)).text()).toContain(address);
    expect(source.html).toContain(address);
    const refused = await operator.send('DELETE', `/own-files/${picture.id}`);
    expect([refused.status, (await problemOf(refused)).title]).toEqual([409, expect.stringMatching(/^With a picture/)]);
    await operator.put(`/sources/${source.id}/draft`, askingFor());
    await operator.post(`/sources/${source.id}/publish`);
    expect((await operator.send('DELETE', `/own-files/${picture.id}`)).status).toBe(204);
    expect((await fetch(address)).status).toBe(404);
  });
});

describe('fonts', () => {
  // Fonts are asked for with CORS, whatever page they are for (CSS Fonts Level 4, 4.8.2).
  it('are shipped: a form names them, and any page may load them', async () => {
    const source = await operator.form('In serif', askingFor({ look: { ...PLAIN_LOOK, font: 'serif' } }));
    const page = await (await fetch(source.postUrl)).text();
    const [, file = ''] = /url\("(\/place\/fonts\/[\w.-]+)"\)/.exec(page) ?? [];
    const font = await fetch(world.app + file);
    expect([font.status, font.headers.get('access-control-allow-origin')]).toEqual([200, '*']);
    // The signature of WOFF2 (WOFF File Format 2.0, 4.1).
    expect(
      Buffer.from(await font.arrayBuffer())
        .subarray(0, 4)
        .toString('latin1'),
    ).toBe('wOF2');
  });
  it('are those alone', async () => {
    for (const name of ['..%2f..%2fpackage.json', 'other.woff2'])
      expect((await fetch(`${world.app}/place/fonts/${name}`)).status).toBe(404);
  });
});

describe('what is handed out to who sent a form', () => {
  const handing = (download: { file?: string; url?: string; days?: number }): Partial<FormDocument> => ({
    ending: saying('Here it is.', { download: { label: 'The star chart', file: '', url: '', days: 7, ...download } }),
  });
  const downloaded = async (id: string) =>
    (await operator.get<InsightView>(`/insight?source=${id}`)).sources[0]?.downloaded;

  it('comes by a link of their own, and is counted once a submission', async () => {
    const { id: file } = await add('Sternkarte für März.txt', 'the sky in March');
    const source = await operator.form('A star chart', askingFor(handing({ file })));
    const sent = await send(source, 'hand@hill.example');
    expect(sent.html).toContain('>The star chart</a>');
    const got = await fetch(linkOf(sent));
    expect(await got.text()).toBe('the sky in March');
    // RFC 6266, 4.3, and RFC 8187, 3.2: saved under its name, in any script.
    expect(got.headers.get('content-disposition')).toBe(
      'attachment; filename="file"; filename*=UTF-8\'\'Sternkarte%20f%C3%BCr%20M%C3%A4rz.txt',
    );
    // It waits for the submission to be counted itself.
    await eventually(
      async () => {
        await (await fetch(linkOf(sent))).text();
        return downloaded(source.id);
      },
      (count) => count === 1,
    );
    await fetch(linkOf(sent));
    await eventually(
      () => world.rows<{ n: number }>('SELECT COUNT(*) AS n FROM form_events WHERE counted_by IS NULL'),
      ([row]) => row?.n === 0,
    );
    expect(await downloaded(source.id)).toBe(1);
    // Whoever sends what somebody sent is handed it as well, by a link that does not say whose it was.
    const again = linkOf(await send(source, 'hand@hill.example'));
    const toldBy = (link: string) =>
      Buffer.from(link.split('/').at(-1)?.split('.')[0] ?? '', 'base64url').toString('utf8');
    const [{ id } = { id: 'none' }] = await world.rows<{ id: string }>(
      'SELECT id FROM submissions WHERE source_id = ?',
      [source.id],
    );
    expect([toldBy(linkOf(sent)).includes(id), toldBy(again).includes(id)]).toEqual([true, false]);
    expect(await (await fetch(again)).text()).toBe('the sky in March');
  });
  it('is on the page that a browser without script gets, and on no other one', async () => {
    const { id: file } = await add('plain.txt', 'plain');
    const source = await operator.form('Without script', askingFor(handing({ file })));
    const body = new URLSearchParams({ email: 'plain@hill.example' });
    const page = await fetch(source.postUrl, { method: 'POST', body, headers: { accept: 'text/html' } });
    expect(page.status).toBe(200);
    expect(await (await fetch(linkOf({ html: await page.text() }))).text()).toBe('plain');
    expect(await (await fetch(`${source.postUrl}/thanks`)).text()).not.toContain('/place/download/');
  });
  it('leads to an address, but to none that somebody made up', async () => {
    const source = await operator.form('At an address', askingFor(handing({ url: 'https://hill.example/chart.pdf' })));
    const link = linkOf(await send(source, 'away@hill.example'));
    const led = await fetch(link, { redirect: 'manual' });
    expect([led.status, led.headers.get('location')]).toEqual([302, 'https://hill.example/chart.pdf']);
    const token = link.split('/').at(-1) ?? '';
    const made = Buffer.from(
      JSON.stringify({ submissionId: 'x', until: Date.now() + 9e9, file: '', url: 'https://elsewhere.example/' }),
    ).toString('base64url');
    for (const forged of [`${made}.${token.split('.')[1]}`, `${made}.`, 'nonsense', `${token}0`])
      expect((await fetch(`${world.app}/place/download/${forged}`, { redirect: 'manual' })).status).toBe(410);
  });
  it('is gone after its days, and when the file is gone: said in the language of the visitor', async () => {
    const { id: file } = await add('gone.txt', 'gone');
    const source = await operator.form('For a while', askingFor(handing({ file })));
    const link = linkOf(await send(source, 'late@hill.example'));
    await operator.put(`/sources/${source.id}/draft`, askingFor());
    await operator.post(`/sources/${source.id}/publish`);
    await operator.send('DELETE', `/own-files/${file}`);
    const gone = await fetch(link, { headers: { 'accept-language': 'de' } });
    expect([gone.status, await gone.text()]).toEqual([410, expect.stringContaining('Er ist abgelaufen')]);
  });
  it('is no page to go on to besides, and says what it is', async () => {
    const { id } = await operator.post<SourceView>('/sources', { name: 'Both', kind: 'form' });
    await operator.put(
      `/sources/${id}/draft`,
      askingFor({
        ending: saying('', {
          next: 'https://hill.example/',
          download: { label: 'Chart', file: '', url: '', days: 7 },
        }),
      }),
    );
    const refused = await operator.send('POST', `/sources/${id}/publish`);
    const { errors } = (await refused.json()) as { errors: { pointer: string }[] };
    expect(errors.map(({ pointer }) => pointer)).toEqual(['/ending/download/file', '/ending/download']);
  });
});
