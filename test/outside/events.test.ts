import { createParser } from 'eventsource-parser';
import fc from 'fast-check';
import { Hono } from 'hono';
import { describe, expect, it } from 'vitest';
import { readEvents } from '../../src/embed/events.ts';
import { sendEvents } from '../../src/server/http/sse.ts';

/** A text as it comes over the network, in pieces that are cut anywhere, also within a letter. */
function streamOf(text: string, cuts: number[] = []): ReadableStream<Uint8Array<ArrayBuffer>> {
  const bytes = new TextEncoder().encode(text);
  const places = [...new Set(cuts.map((cut) => cut % (bytes.length + 1)))].sort((one, other) => one - other);
  return new ReadableStream({
    start(controller) {
      let from = 0;
      for (const to of [...places, bytes.length]) {
        if (to > from) controller.enqueue(bytes.slice(from, to));
        from = Math.max(from, to);
      }
      controller.close();
    },
  });
}

async function read(text: string, cuts: number[] = []): Promise<string[]> {
  const told: string[] = [];
  await readEvents(streamOf(text, cuts), (data) => void told.push(data));
  return told;
}

describe('server-sent events as pages read them: the examples of the HTML standard, 9.2.6 (WHATWG, from memory)', () => {
  it.each<[string, string, string[]]>([
    ['lines of data are one text', 'data: one\ndata: +2\ndata: 10\n\n', ['one\n+2\n10']],
    [
      'a comment is nothing, an id is no data, and one space after the colon alone is left out',
      ': test stream\n\ndata: first event\nid: 1\n\ndata:second event\nid\n\ndata:  third event\n\n',
      ['first event', 'second event', ' third event'],
    ],
    ['a field without a colon is an empty one; what is not ended is none', 'data\n\ndata\ndata\n\ndata:', ['', '\n']],
    ['with a space or without it is the same', 'data:test\n\ndata: test\n\n', ['test', 'test']],
    ['a byte order mark before all is left out', '\uFEFFdata: one\n\n', ['one']],
  ])('%s', async (_, stream, told) => expect(await read(stream)).toEqual(told));
});

it('whatever comes, however its lines end and wherever it is cut, is read as the reference reader does (eventsource-parser)', () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(fc.constantFrom('data', 'id', 'event', 'retry', '', 'dato'), fc.string({ unit: 'grapheme' }))),
      fc.constantFrom('\n', '\r\n', '\r'),
      fc.array(fc.nat(500)),
      async (fields, end, cuts) => {
        const line = (text: string) => text.replace(/[\r\n]/g, ' ');
        const lines = fields.map(([name, text]) => (name === '' ? '' : `${name}: ${line(text)}`));
        // Something follows: a lone CR at the very end is read with what comes after it.
        const stream = [...lines, '', ': end', ''].map((one) => `${one}${end}`).join('');
        const reference: string[] = [];
        const parser = createParser({ onEvent: ({ data }) => void reference.push(data) });
        parser.feed(stream);
        expect(await read(stream, cuts)).toEqual(reference);
      },
    ),
    { numRuns: 500, seed: 9 },
  ));

it('what the server sends is read by the reference reader as it was meant, as the media type that the standard names', async () => {
  const all = [{ text: 'one\ntwo' }, { text: 'data: three\r\n\r\n' }, { text: 'é 🌒 \u2028' }];
  const left = all.map((data, at) => ({ id: `${at + 1}`, data }));
  let wake: () => void = () => undefined;
  const app = new Hono().get('/', (c) =>
    sendEvents(
      c,
      (asked) => {
        wake = asked;
        return () => undefined;
      },
      () => Promise.resolve(left.shift() ?? null),
    ),
  );
  const response = await app.request('/');
  expect(response.headers.get('content-type')).toMatch(/^text\/event-stream\b/);
  expect(response.headers.get('cache-control')).toBe('no-cache');
  const told: { id: string | undefined; data: unknown }[] = [];
  const parser = createParser({
    onEvent: ({ id, data }) => {
      told.push({ id, data: JSON.parse(data) });
      wake();
    },
  });
  const reader = (response.body as ReadableStream<Uint8Array<ArrayBuffer>>)
    .pipeThrough(new TextDecoderStream())
    .getReader();
  while (told.length < all.length) {
    const part = await reader.read();
    if (part.done) break;
    parser.feed(part.value);
  }
  await reader.cancel();
  expect(told).toEqual(all.map((data, at) => ({ id: `${at + 1}`, data })));
});
