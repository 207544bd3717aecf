import type { ExchangeView } from '../../contract/deliveries.ts';
import type { Profile } from '../../contract/profile/index.ts';
import { classifyAnswer, type HeldPerson } from '../../core/delivery/index.ts';
import { call, errorReading, type Line } from './call.ts';
import type { PersonChange, Reply, Together } from './connector.ts';
import { all, one, textAt } from '../../core/json/index.ts';
import { ANOTHER_PERSON, isOfPerson, recordOf } from './reading.ts';
import { fillBody } from './template.ts';
import { writtenValues } from './written.ts';

type Batch = NonNullable<Profile['batch']>;

/** Writes several people by one request, where the profile says how. */
export function togetherFor(line: Line): Together | null {
  const { batch } = line.access.profile;
  if (!batch) return null;
  return {
    most: batch.size,
    answersProve: batch.write.record !== undefined && batch.write.proves === true,
    write: (changes, records) => writeAll(line, batch, changes, records),
    find: batch.find ? findAll(line, batch.find) : null,
  };
}

async function writeAll(
  line: Line,
  { write }: Batch,
  changes: Parameters<Together['write']>[0],
  records: ExchangeView[][],
): Promise<Reply<HeldPerson | null>[]> {
  const { profile } = line.access;
  const people = changes.map(({ change, idempotencyKey }) =>
    fillBody(write.each, { ...writtenValues(profile, change, null), idempotencyKey }),
  );
  const exchanges: ExchangeView[] = [];
  const reply = await call({ ...line, record: exchanges }, write.request, { people });
  const results = reply.ok ? all(reply.value, write.results) : [];
  const byEmail = new Map(results.map((result) => [textAt(result, write.email).toLowerCase(), result]));
  const own = changes.map(({ change }, index) =>
    write.email === undefined ? results[index] : byEmail.get(change.email),
  );
  keepParts(exchanges, records, (index) => ({ sent: people[index], answered: own[index] }));
  return own.map((result, index) => (reply.ok ? outcomeOf(line, write, result, changes[index]?.change) : reply));
}

/** A result reads as an answer of its own: its status, and its part of the body. */
function outcomeOf(
  line: Line,
  { status, record }: Batch['write'],
  result: unknown,
  change: PersonChange | undefined,
): Reply<HeldPerson | null> {
  const { profile } = line.access;
  const given = Number(one(result, status));
  if (!Number.isInteger(given))
    return {
      ok: false,
      fault: { cause: 'answer unreadable', said: 'It says nothing about this person.', waitMs: null },
    };
  const answer = { kind: 'answered' as const, status: given, headers: {}, body: result, readable: true };
  // Its status is what it is; where success stands in a whole answer says nothing of one of its parts.
  const { accepts: _, ...reading } = errorReading(profile);
  const fault = classifyAnswer(answer, reading, line.now());
  if (fault) return { ok: false, fault };
  const written = record ? recordOf(profile, one(result, record)) : null;
  if (written && change && written.email !== '' && !isOfPerson(written, change))
    return { ok: false, fault: ANOTHER_PERSON };
  return { ok: true, value: written };
}

const findAll =
  (line: Line, { request, records: found }: NonNullable<Batch['find']>): NonNullable<Together['find']> =>
  async (emails, records) => {
    const exchanges: ExchangeView[] = [];
    const reply = await call({ ...line, record: exchanges }, request, { emails });
    const { profile } = line.access;
    const byEmail = new Map(
      (reply.ok ? all(reply.value, found) : []).map((own) => [textAt(own, profile.record.email).toLowerCase(), own]),
    );
    keepParts(exchanges, records, (index) => ({ sent: emails[index], answered: byEmail.get(emails[index] ?? '') }));
    if (!reply.ok) return reply;
    return {
      ok: true,
      value: new Map(
        [...byEmail].flatMap(([email, own]) => {
          const held = recordOf(profile, own);
          return held ? [[email, held] as const] : [];
        }),
      ),
    };
  };

/** Keeps for each person their own part of what was said, and nobody else's. */
function keepParts(
  exchanges: ExchangeView[],
  records: ExchangeView[][],
  partOf: (index: number) => { sent: unknown; answered?: unknown },
): void {
  for (const exchange of exchanges) {
    const isRefused = exchange.status === null || exchange.status >= 400;
    records.forEach((record, index) => {
      const { sent, answered } = partOf(index);
      record.push({
        ...exchange,
        requestBody: sent,
        responseBody: isRefused ? exchange.responseBody : (answered ?? null),
        together: records.length,
      });
    });
  }
}
