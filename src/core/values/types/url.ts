import { bad, good } from '../../result.ts';
import type { ValueType } from '../type.ts';

/** The address of a page: http or https (WHATWG URL), in its normal form. Without a scheme, https is meant. */
export const url: ValueType<string> = {
  parse: (written) => {
    const typed = written.trim();
    const whole = /^[a-z][a-z0-9+.-]*:/i.test(typed) && !/^[\w.-]+:\d+(\/|$)/.test(typed) ? typed : `https://${typed}`;
    const parsed = URL.canParse(whole) ? new URL(whole) : null;
    if (!parsed || !/^https?:$/.test(parsed.protocol) || !parsed.hostname.includes('.') || parsed.username !== '')
      return bad(`"${typed.slice(0, 60)}" is not the address of a page, like https://example.org.`);
    return parsed.href.length > 2_000 ? bad('This address is longer than 2000 characters.') : good(parsed.href);
  },
  print: (value) => value,
  same: (a, b) => a.replace(/\/$/, '') === b.replace(/\/$/, ''),
  edgeCases: ['example.org', 'https://bücher.example/a?b=c#d'],
};
