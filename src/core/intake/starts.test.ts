import 'reflect-metadata';
import { describe, expect, it } from 'vitest';
import { publishingIssues } from '../../server/commands/sources/publishingIssues.ts';
import { check } from '../../contract/checks.ts';
import { FormDocumentInput } from '../../contract/source.ts';
import { isTick } from '../values/index.ts';
import { exampleValues, readSource, STARTS } from './index.ts';

describe.each(STARTS.map((start) => [start.id, start] as const))('the start "%s"', (_, { document }) => {
  it('can go live as it is', () => {
    expect(publishingIssues(document)).toEqual([]);
    const checked = check(FormDocumentInput, JSON.parse(JSON.stringify(document)));
    expect(checked.ok || checked.issues).toBe(true);
    expect(readSource(JSON.parse(JSON.stringify(document)))).toEqual({ ok: true, value: document });
  });
  it('says what people agree to: a tick that nobody is made to set for a second thing, or a sentence', () => {
    const ticks = document.fields.filter(isTick);
    expect(
      ticks.length > 0 ||
        document.statement !== '' ||
        !document.fields.some(({ type, required }) => type === 'email' && required),
    ).toBe(true);
    if (document.statement !== '') expect(ticks.filter(({ required }) => required)).toEqual([]);
    expect(Object.keys(exampleValues(document.fields))).not.toEqual([]);
  });
  it('promises no mail but where one has to be confirmed', () =>
    expect(/mailbox/.test(document.ending.message) && !document.fields.some(isTick)).toBe(false));
});
