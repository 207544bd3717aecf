import { fieldsUsedIn } from '../../../../mapping/index.ts';
import type { SourceField } from '../../../../values/index.ts';
import type { Check, Found } from '../../check.ts';

const PERSONAL = new Set(['email', 'phone', 'person name', 'postal address']);
const isPersonal = ({ type, keepAs }: SourceField): boolean =>
  PERSONAL.has(type) || ['email', 'first_name', 'last_name', 'full_name', 'phone'].includes(keepAs);

/** Addresses of pages in a text, with what is put into them. */
const addressesIn = (text: string): string[] => text.match(/https?:\/\/\S+/gi) ?? [];

export const personalInUrl: Check = {
  code: 'personal data in the address of a page',
  level: 'warning',
  why: 'Addresses of pages are kept in histories and logs, and are handed on to every site that is linked from there.',
  find: ({ document, source, lines }) => {
    const personal = source.fields.filter(isPersonal);
    const named = (text: string): string[] =>
      addressesIn(text).flatMap((address) =>
        fieldsUsedIn(address).flatMap((id) => personal.find((field) => field.id === id)?.label ?? []),
      );
    const said = (labels: string[], where: Omit<Found, 'message' | 'fix'>): Found[] =>
      labels.length === 0
        ? []
        : [
            {
              ...where,
              message: `The address of a page would have ${[...new Set(labels)].join(', ')} in it.`,
              fix: 'Leave it out of the address: a page can ask for it, or be opened by a link of its own.',
            },
          ];
    return [
      ...lines.flatMap(({ target, line, field }) =>
        line.from.kind === 'text' ? said(named(line.from.text), { part: 'mapping', target, line: field.key }) : [],
      ),
      ...document.mails.flatMap(({ body }) => said(named(body), { part: 'mails' })),
    ];
  },
};
