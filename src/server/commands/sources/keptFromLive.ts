import type { Result } from '../../../core/result.ts';
import type { SourceRecord } from '../../store/sources.ts';
import { archived, refused, type Refusal } from '../command.ts';
import { publishingIssues } from './publishingIssues.ts';

/** What keeps the draft of a source from going live; null where nothing does. */
export function keptFromLive({ archivedAt, draft }: SourceRecord): Result<never, Refusal> | null {
  if (archivedAt !== null) return archived();
  const issues = publishingIssues(draft);
  return issues.length > 0 ? refused('invalid', 'not-ready', 'It cannot go live yet.', issues) : null;
}
