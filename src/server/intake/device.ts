import Bowser from 'bowser';
import { keeping } from '../../core/json/index.ts';

const WORDS: Record<string, string> = { mobile: 'phone', tablet: 'tablet', desktop: 'computer', tv: 'television' };

/** What kind of device a browser says that it runs on; '' when it does not say. */
export const deviceOf = keeping((userAgent: string): string =>
  userAgent === '' ? '' : (WORDS[Bowser.parse(userAgent).platform.type ?? ''] ?? ''),
);
