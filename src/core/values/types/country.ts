import { bad, good } from '../../result.ts';
import type { ValueType } from '../type.ts';

/** The codes of ISO 3166-1 alpha-2 that are assigned: 249 (as of 2026; checked against Debian's iso-codes). */
const CODES =
  'AD AE AF AG AI AL AM AO AQ AR AS AT AU AW AX AZ BA BB BD BE BF BG BH BI BJ BL BM BN BO BQ BR BS BT BV BW BY BZ CA CC CD CF CG CH CI CK CL CM CN CO CR CU CV CW CX CY CZ DE DJ DK DM DO DZ EC EE EG EH ER ES ET FI FJ FK FM FO FR GA GB GD GE GF GG GH GI GL GM GN GP GQ GR GS GT GU GW GY HK HM HN HR HT HU ID IE IL IM IN IO IQ IR IS IT JE JM JO JP KE KG KH KI KM KN KP KR KW KY KZ LA LB LC LI LK LR LS LT LU LV LY MA MC MD ME MF MG MH MK ML MM MN MO MP MQ MR MS MT MU MV MW MX MY MZ NA NC NE NF NG NI NL NO NP NR NU NZ OM PA PE PF PG PH PK PL PM PN PR PS PT PW PY QA RE RO RS RU RW SA SB SC SD SE SG SH SI SJ SK SL SM SN SO SR SS ST SV SX SY SZ TC TD TF TG TH TJ TK TL TM TN TO TR TT TV TW TZ UA UG UM US UY UZ VA VC VE VG VI VN VU WF WS YE YT ZA ZM ZW'.split(
    ' ',
  );

export const COUNTRY_CODES: readonly string[] = CODES;

/** A country, by its code of ISO 3166-1 alpha-2. Read also by its name in English or in the writer's language (CLDR). */
export const country: ValueType<string> = {
  parse: (written, { locale }) => {
    const typed = written.trim();
    const code = typed.toUpperCase();
    if (CODES.includes(code)) return good(code);
    const name = plain(typed);
    const found = byName('en').get(name) ?? (locale === null ? undefined : byName(locale).get(name));
    return found ? good(found) : bad(`"${typed.slice(0, 40)}" is not a country that we know by this name.`);
  },
  print: (value, locale) => (locale === undefined ? value : nameOf(value, locale)),
  same: (a, b) => a === b,
  edgeCases: ['GB', 'France', 'Côte d’Ivoire'],
};

const names = new Map<string, Intl.DisplayNames>();
function nameOf(code: string, locale: string): string {
  const all = names.get(locale) ?? new Intl.DisplayNames(locale, { type: 'region' });
  names.set(locale, all);
  return all.of(code) ?? code;
}

const known = new Map<string, Map<string, string>>();

/** The code of each country by its name in a language. */
function byName(locale: string): Map<string, string> {
  const kept = known.get(locale) ?? new Map(CODES.map((code) => [plain(nameOf(code, locale)), code]));
  known.set(locale, kept);
  return kept;
}

/** Letters only, without accents and capitals. */
const plain = (name: string): string =>
  name
    .normalize('NFD')
    .replace(/[^\p{L}]/gu, '')
    .toLowerCase();
