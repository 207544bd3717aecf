import { createInstance, type i18n } from 'i18next';
import { FORM_LANGUAGES, type FormLanguage } from '../../core/forms/index.ts';
import { isTick, neededMessage, type SourceField, type TypeName } from '../../core/values/index.ts';
import { de } from './de.ts';
import { en, type Words } from './en.ts';
import { es } from './es.ts';
import { fr } from './fr.ts';
import { it } from './it.ts';
import { nl } from './nl.ts';
import { pl } from './pl.ts';
import { pt } from './pt.ts';
import { sv } from './sv.ts';

const WORDS: Record<FormLanguage, Words> = { en, de, fr, es, it, nl, pl, pt, sv };

const instance: i18n = createInstance();
void instance.init({
  lng: 'en',
  supportedLngs: [...FORM_LANGUAGES],
  resources: Object.fromEntries(FORM_LANGUAGES.map((language) => [language, { translation: WORDS[language] }])),
  // React and Hono escape what they print.
  interpolation: { escapeValue: false },
  initAsync: false,
});

/** Says our own words in a language: by the path of a text in en.ts, such as again.check, and what is put into it. */
export type Say = (path: string, put?: Record<string, string | number>) => string;

/** Our own words in a language. */
export const wordsIn = (language: FormLanguage): Say => {
  const t = instance.getFixedT(language);
  return (path, put = {}) => t(path, put);
};

const UNFIT: Record<TypeName, keyof Words['unfit']> = {
  text: 'other',
  'long text': 'other',
  'list of records': 'other',
  'person name': 'other',
  email: 'email',
  phone: 'phone',
  number: 'number',
  money: 'money',
  date: 'date',
  time: 'time',
  'date-time': 'dateTime',
  country: 'country',
  language: 'language',
  URL: 'url',
  file: 'file',
  choice: 'answer',
  'several choices': 'answer',
  'yes/no': 'answer',
  'postal address': 'address',
  membership: 'other',
};

/** What is said of a required question that is empty. In English it is said as the readers of values do, by its label. */
export function neededIn(language: FormLanguage, field: Pick<SourceField, 'label' | 'type' | 'widget'>): string {
  const say = wordsIn(language);
  if (isTick(field)) return say('needed.tick');
  if (language === 'en') return neededMessage(field);
  return say(field.type === 'choice' || field.type === 'several choices' ? 'needed.answer' : 'needed.value');
}

/** What is said of something that cannot be read as a value of a type. */
export const unfitIn = (language: FormLanguage, type: TypeName): string => wordsIn(language)(`unfit.${UNFIT[type]}`);
