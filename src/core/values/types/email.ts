import { parseEmail, normaliseEmail } from '../email.ts';
import type { ValueType } from '../type.ts';

/** An email address; its domain in ASCII (UTS 46), its local part as typed. */
export const email: ValueType<string> = {
  parse: (written) => parseEmail(written),
  print: (value) => value,
  same: (a, b) => normaliseEmail(a) === normaliseEmail(b),
  edgeCases: ['user@münchen.example', "o'neill+letters@mail.hill.example", `${'a'.repeat(64)}@hill.example`],
};
