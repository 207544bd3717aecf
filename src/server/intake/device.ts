import Bowser from 'bowser';
import { memoize } from '../../core/json/index.ts';

const WORDS: Record<string, string> = { mobile: 'phone', tablet: 'tablet', desktop: 'computer', tv: 'television' };

/** Which browser it is, as it says itself, such as "Firefox on Linux"; '' when it does not say. */
export function browserOf(userAgent: string): string {
  if (userAgent === '') return '';
  const { browser, os } = Bowser.parse(userAgent);
  return [browser.name ?? '', os.name ?? ''].filter((name) => name !== '').join(' on ');
}

/** What kind of device a browser says that it runs on; '' when it does not say. */
export const deviceOf = memoize((userAgent: string): string =>
  userAgent === '' ? '' : (WORDS[Bowser.parse(userAgent).platform.type ?? ''] ?? ''),
);
