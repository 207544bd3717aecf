import { bad, good, type Result } from '../result.ts';

/** WHATWG HTML, "valid email address" (input type=email). */
const HTML_EMAIL =
  /^[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)*$/;

/** RFC 5321, 4.5.3.1.1 (local part) and 4.5.3.1.3 with erratum 1690 (whole address). */
const LOCAL_LIMIT = 64;
const ADDRESS_LIMIT = 254;
/** RFC 1035, 2.3.4, as text without the closing dot. */
const DOMAIN_LIMIT = 253;

/**
 * Reads an email address as typed by a person.
 *
 * The policy is the HTML pattern, narrowed to what mail systems on the internet deliver: a domain with at
 * least one dot and an ending of two letters or more (RFC 3696, 2; or xn-- and more), no dot at either end of the local part and no two in a row (RFC 5321, 4.1.2: Dot-string).
 * Quoted local parts and address literals are refused, as the HTML pattern does.
 * @returns the address with its domain in ASCII (UTS 46, as WHATWG URL applies it): user@münchen.de is user@xn--mnchen-3ya.de
 */
export function parseEmail(text: string): Result<string> {
  const typed = text.trim();
  if (typed === '') return bad('Enter an email address.');
  const at = typed.lastIndexOf('@');
  if (at < 0) return bad('An email address has an @ in it, like name@example.org.');
  const local = typed.slice(0, at);
  const domain = inAscii(typed.slice(at + 1));
  const address = `${local}@${domain}`;
  if (local.length > LOCAL_LIMIT) return bad(`The part before the @ is longer than ${LOCAL_LIMIT} characters.`);
  if (address.length > ADDRESS_LIMIT || domain.length > DOMAIN_LIMIT)
    return bad(`The address is longer than ${ADDRESS_LIMIT} characters.`);
  if (!domain.includes('.')) return bad('The part after the @ needs an ending, like .org.');
  if (!/\.([a-zA-Z]{2,63}|xn--[a-zA-Z0-9-]{2,59})$/.test(domain))
    return bad('The ending of the part after the @ is incomplete or wrong.');
  if (/^\.|\.$|\.\./.test(local)) return bad('There is a dot too many before the @.');
  if (!HTML_EMAIL.test(address)) return bad('This does not look like an email address. Check for a typing mistake.');
  return good(address);
}

/** A domain in ASCII; as it was typed where it is ASCII already, or cannot be one. */
function inAscii(domain: string): string {
  if (/^[\x21-\x7e]*$/.test(domain)) return domain;
  const whole = `https://${domain}`;
  return /[\s/?#:@\\]/u.test(domain) || !URL.canParse(whole) ? domain : new URL(whole).hostname;
}

/**
 * The form in which an address identifies a person: trimmed and in lower case throughout. RFC 5321 (2.4) lets the
 * local part be case-sensitive; no mailbox provider in use relies on it, and people type capitals by accident.
 */
export function normaliseEmail(address: string): string {
  return address.trim().toLowerCase();
}
