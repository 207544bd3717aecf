import { bad, good } from '../../result.ts';
import { inWords, isInForce, type FieldValue, type Membership } from '../../values/index.ts';
import { step } from './step.ts';

const PARTS = ['level', 'first day', 'last day', 'in force'] as const;

export const membershipPart = step({
  help: 'takes the level, a day, or whether it is in force today',
  takes: ['membership'],
  gives: ({ part }) => (part === 'level' ? 'text' : part === 'in force' ? 'yes/no' : 'date'),
  options: { part: { kind: 'choice', label: 'Take', preset: 'level', of: PARTS } },
  offers: [
    { name: 'level of the membership', options: { part: 'level' } },
    { name: 'first day of the membership', options: { part: 'first day' } },
    { name: 'last day of the membership', options: { part: 'last day' } },
    { name: 'whether the membership is in force', options: { part: 'in force' } },
  ],
  examples: [
    { from: { level: 'Patron', begins: '2026-01-01', ends: '2026-12-31' }, to: 'Patron' },
    {
      from: { level: 'Patron', begins: '2026-01-01', ends: '2026-12-31' },
      options: { part: 'last day' },
      to: '2026-12-31',
    },
    { from: { level: 'Patron', begins: '2001-01-01', ends: '2001-12-31' }, options: { part: 'in force' }, to: false },
    { from: { level: 'Friend', begins: '', ends: '' }, options: { part: 'in force' }, to: true },
  ],
  say: ({ part }) => (part === 'in force' ? 'whether it is in force' : part),
  apply: (value, { part }, { now }) => {
    if (!isMembership(value)) return bad(`"${inWords(value)}" is no membership`);
    switch (part) {
      case 'level':
        return good(value.level);
      case 'first day':
        return good(value.begins);
      case 'last day':
        return good(value.ends);
      case 'in force':
        return good(isInForce(value, now));
      default:
        return part satisfies never;
    }
  },
});

const isMembership = (value: FieldValue): value is Membership =>
  typeof value === 'object' && 'begins' in value && typeof value.begins === 'string';
