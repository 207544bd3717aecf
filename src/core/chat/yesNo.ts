import type { FormLanguage } from '../forms/index.ts';

/** How yes and no are said in each language, also in short; written in small letters, without accents. */
export const YES_NO: Record<FormLanguage, { yes: string[]; no: string[] }> = {
  en: {
    yes: ['yes', 'y', 'yep', 'yeah', 'ok', 'okay', 'sure', 'please', 'of course'],
    no: ['no', 'n', 'nope', 'not', 'no thanks', 'never'],
  },
  de: {
    yes: ['ja', 'j', 'jawohl', 'gerne', 'klar', 'ok', 'sicher', 'bitte'],
    no: ['nein', 'n', 'ne', 'nee', 'nein danke', 'nicht'],
  },
  fr: {
    yes: ['oui', 'o', 'ouais', 'si', 'd accord', 'ok', 'bien sur', 'volontiers'],
    no: ['non', 'n', 'non merci', 'pas'],
  },
  es: { yes: ['si', 's', 'claro', 'vale', 'ok', 'por supuesto', 'de acuerdo'], no: ['no', 'n', 'no gracias', 'nunca'] },
  it: { yes: ['si', 's', 'certo', 'va bene', 'ok', 'volentieri', 'd accordo'], no: ['no', 'n', 'no grazie', 'mai'] },
  nl: {
    yes: ['ja', 'j', 'jawel', 'graag', 'ok', 'oke', 'prima', 'zeker'],
    no: ['nee', 'n', 'neen', 'nee dank je', 'niet'],
  },
  pl: { yes: ['tak', 't', 'jasne', 'ok', 'oczywiscie', 'pewnie', 'prosze'], no: ['nie', 'n', 'nie dziekuje', 'nigdy'] },
  pt: {
    yes: ['sim', 's', 'claro', 'ok', 'com certeza', 'esta bem'],
    no: ['nao', 'n', 'nao obrigado', 'nao obrigada', 'nunca'],
  },
  sv: {
    yes: ['ja', 'j', 'japp', 'gärna', 'garna', 'ok', 'visst', 'absolut'],
    no: ['nej', 'n', 'nepp', 'nej tack', 'inte'],
  },
};
