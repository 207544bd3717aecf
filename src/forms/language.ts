import { languageFor, type FormLanguage } from '../core/forms/index.ts';
import type { ChatDocument, FormDocument } from '../core/intake/index.ts';

/**
 * The language in which a form, or a chat, speaks to a visitor.
 * @param header what the browser asks for (Accept-Language); '' where nobody asks
 */
export const languageOf = (
  { language }: Pick<FormDocument | ChatDocument, 'language'>,
  header: string,
): FormLanguage => (language === 'visitor' ? languageFor(header) : language);
