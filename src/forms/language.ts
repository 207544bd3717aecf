import { languageFor, type FormLanguage } from '../core/forms/index.ts';
import type { FormDocument } from '../core/intake/index.ts';

/**
 * The language in which a form speaks to a visitor.
 * @param header what the browser asks for (Accept-Language); '' where nobody asks
 */
export const languageOf = ({ language }: Pick<FormDocument, 'language'>, header: string): FormLanguage =>
  language === 'visitor' ? languageFor(header) : language;
