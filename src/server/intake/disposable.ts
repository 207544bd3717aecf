import { disposableEmailBlocklistSet } from 'disposable-email-domains-js';

let domains: Set<string> | null = null;

/** Whether a text is an address of a domain whose mailboxes last for minutes. The package makes its set anew whenever it is asked. */
export function isDisposable(text: string): boolean {
  const at = text.lastIndexOf('@');
  if (at < 0) return false;
  domains ??= disposableEmailBlocklistSet();
  return domains.has(
    text
      .slice(at + 1)
      .trim()
      .toLowerCase(),
  );
}
