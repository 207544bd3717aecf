import { hasStep, lineCheck } from '../../check.ts';

/** Labels of one part of a name, in the languages of the interface's suggestions that are met most. */
const PART =
  /^(first|given|last|family|sur)[ _-]?name$|^(forename|surname|vorname|nachname|prénom|nombre|apellidos?|cognome|voornaam|achternaam|sobrenome|imię|nazwisko|förnamn|efternamn|名|姓)$/iu;

export const wholeName = lineCheck({
  code: 'a whole name goes into one part of it',
  level: 'warning',
  why: 'Mails greet people by their full name, or by their family name twice.',
  find: (checked) => {
    const { field, from } = checked;
    return from?.keepAs === 'full_name' && PART.test(field.label.trim()) && !hasStep(checked, 'part of a name')
      ? [
          {
            message: `${field.label} gets the whole of ${from.label}.`,
            fix: 'Add the step that takes the part.',
            mend: {
              kind: 'part of a name' as const,
              options: {
                part: /last|family|sur|nach|apell|cogn|achter|sobre|nazw|efter|姓/iu.test(field.label)
                  ? 'last name'
                  : 'first and middle names',
              },
            },
          },
        ]
      : [];
  },
});
