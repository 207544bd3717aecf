const plain = (text: string): string => text.normalize('NFC').trim().toLowerCase();

/** Whether a text is like a pattern: * stands for any characters, ? for one. Takes no longer than both are long together, squared. */
function isLike(text: string, pattern: string): boolean {
  const [own, like] = [Array.from(plain(text)), Array.from(plain(pattern))];
  let [at, to, star, back] = [0, 0, -1, 0];
  while (at < own.length) {
    if (like[to] === '*') {
      star = to;
      to += 1;
      back = at;
    } else if (like[to] === '?' || like[to] === own[at]) {
      at += 1;
      to += 1;
    } else if (star >= 0) {
      back += 1;
      at = back;
      to = star + 1;
    } else return false;
  }
  return like.slice(to).every((sign) => sign === '*');
}

const any = (given: string[], is: (text: string) => boolean): boolean => given.some(is);

const isSame = (given: string[], asked: string) => any(given, (text) => plain(text) === plain(asked));
const contains = (given: string[], asked: string) => any(given, (text) => plain(text).includes(plain(asked)));
const isAmong = (given: string[], asked: string) => {
  const among = new Set(asked.split(',').map(plain));
  return any(given, (text) => among.has(plain(text)));
};
const opposite = (holds: typeof isSame) => (given: string[], asked: string) => !holds(given, asked);

/** The tests of what is written: any one of several answers is enough. */
export const WRITTEN_TESTS = {
  is: isSame,
  'is not': opposite(isSame),
  'is one of': isAmong,
  'is none of': opposite(isAmong),
  contains,
  'does not contain': opposite(contains),
  'begins with': (given, asked) => any(given, (text) => plain(text).startsWith(plain(asked))),
  'ends with': (given, asked) => any(given, (text) => plain(text).endsWith(plain(asked))),
  matches: (given, asked) => any(given, (text) => isLike(text, asked)),
} satisfies Record<string, typeof isSame>;

/** What a text has an order by: only where it is written as a date or a time (RFC 3339), or is a number. */
export function orderOf(text: string): 'date' | 'date-time' | 'number' | 'time' | null {
  if (/^\d{4}-\d{2}-\d{2}$/.test(text)) return 'date';
  if (/^\d{4}-\d{2}-\d{2}T/.test(text)) return 'date-time';
  if (/^-?\d+(\.\d+)?$/.test(text)) return 'number';
  return /^\d{2}:\d{2}/.test(text) ? 'time' : null;
}

/** The tests of what has an order, by how one stands to the other: below 0 before it. */
export const ORDERED_TESTS = {
  'is more than': (difference) => difference > 0,
  'is less than': (difference) => difference < 0,
  'is before': (difference) => difference < 0,
  'is after': (difference) => difference > 0,
} satisfies Record<string, (difference: number) => boolean>;

const DAY = 86_400_000;

/** Whether a date is within some days of now; null when it is no date. @param sign 1 for those that are over, -1 for those to come */
export function isWithinDays(given: string, asked: string, now: number, sign: 1 | -1): boolean | null {
  const days = Number(asked);
  const at = /^\d{4}-\d{2}-\d{2}/.test(given) ? Date.parse(given) : NaN;
  if (asked.trim() === '' || !Number.isFinite(days) || Number.isNaN(at)) return null;
  // A day without a time is over when its last moment is, in whatever zone.
  const isDay = given.length === 10;
  const since = isDay ? (Math.floor(now / DAY) - Math.floor(at / DAY)) * sign : ((now - at) * sign) / DAY;
  return since >= 0 && since <= days;
}
