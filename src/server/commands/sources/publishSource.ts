import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findSource, publishSource as store } from '../../store/sources.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';
import { publishingIssues } from './publishingIssues.ts';

/** Freezes the draft as the next version and makes it live, unless something in it keeps it from that. */
export async function publishSource(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const source = await findSource(db, id);
    if (!source) return unknown('source');
    const issues = publishingIssues(source.draft);
    if (issues.length > 0) return refused('invalid', 'not-ready', 'It cannot go live yet.', issues);
    await store(db, source, context.now());
    const detail = `Version ${(source.liveVersion ?? 0) + 1}.`;
    return done(undefined, { act: 'published', subject: { kind: 'source', id, name: source.name }, detail });
  });
}
