import { describe, expect, it } from 'vitest';
import { profileOf } from '../../server/connectors/registry.ts';
import { noticesDocument, readPayload, type NoticePaths } from './index.ts';

const reads = profileOf('tern-post').webhooks as NoticePaths;
const event = (more: object) => ({
  id: 'E-1',
  kind: 'member.left',
  at: '2026-11-24T10:00:00Z',
  member: { email: ' Mara@Hill.example' },
  ...more,
});
const read = (json: unknown, paths = reads) => {
  const readings = readPayload(noticesDocument('C', paths), { kind: 'json', json, files: [] }, { known: {}, now: 0 });
  return Array.isArray(readings) ? readings.map((reading) => reading.ok && reading.values) : readings;
};
const told = (...events: object[]) => read({ events });

describe('what a service tells', () => {
  it('is read with its meaning, whom it is about, and when it was', () =>
    expect(told(event({}))).toEqual([
      {
        id: 'E-1',
        event: 'member.left',
        meaning: 'unsubscribed',
        email: 'mara@hill.example',
        at: '2026-11-24T10:00:00.000Z',
      },
    ]));

  it('is a submission for each event, but for those that only try the address', () =>
    expect(told(event({}), event({ id: 'E-2', kind: 'hook.trial' }), event({ id: 'E-3' }))).toMatchObject([
      { id: 'E-1' },
      { id: 'E-3' },
    ]));

  it.each(['member.sang', '__proto__', 'constructor'])(
    'means nothing when the profile does not know it: %s',
    (kind) => {
      const [values] = told(event({ kind })) as Record<string, unknown>[];
      expect(values).toMatchObject({ event: kind });
      expect(values).not.toHaveProperty('meaning');
    },
  );

  it('is left out when it could not be told from its repetition', () =>
    expect(told(event({ id: undefined }), event({ id: 7 }))).toMatchObject([{ id: '7' }]));

  it('may be the whole body, and is none where the body is no JSON', () => {
    const { events: _, ...whole } = reads;
    expect(read(event({}), whole)).toHaveLength(1);
    const entries = { kind: 'entries' as const, entries: [], files: [] };
    expect(readPayload(noticesDocument('C', reads), entries, { known: {}, now: 0 })).toEqual({
      problem: 'The body is not JSON.',
    });
  });
});
