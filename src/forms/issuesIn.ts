import type { FormLanguage } from '../core/forms/index.ts';
import type { Entries, FieldIssue, SourceDocument } from '../core/intake/index.ts';
import { isTick, sentFor } from '../core/values/index.ts';
import { neededIn, unfitIn } from './words/index.ts';

/**
 * What is wrong, in the visitor's language. In English it is said as the readers of values do, which know best; in others, by
 * the type of the field. What an operator wrote for a field is said in any case.
 */
export function issuesIn(
  language: FormLanguage,
  { fields }: Pick<SourceDocument, 'fields'>,
  typed: Entries,
  issues: FieldIssue[],
): FieldIssue[] {
  if (language === 'en') return issues;
  return issues.map((issue) => {
    const field = fields.find(({ key }) => key === issue.field);
    if (!field || field.errorText !== '') return issue;
    const isEmpty = field.type !== 'file' && sentFor(field, typed).every((text) => text.trim() === '');
    const message = isTick(field) || isEmpty ? neededIn(language, field) : unfitIn(language, field.type);
    return { ...issue, message };
  });
}
