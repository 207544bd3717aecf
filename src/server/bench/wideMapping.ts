import type { Condition } from '../../core/conditions/index.ts';
import { chainOf, plainLine, type DestinationField, type MapLine, type ToldStep } from '../../core/mapping/index.ts';
import { plainField, type FieldValues, type SourceField, type TypeName } from '../../core/values/index.ts';

/*
 * A mapping of 25 lines, as a wide form for a visit has it: steps, look-ups, conditions, texts with fields in them; and the
 * function that somebody would write who needs just this one, with the same checks.
 */

const field = (id: string, type: TypeName): SourceField => ({ ...plainField(id, type), label: id });

export const WIDE_SOURCE: SourceField[] = [
  field('email', 'email'),
  field('first', 'text'),
  field('last', 'text'),
  field('phone', 'phone'),
  field('mobile', 'phone'),
  field('street', 'text'),
  field('postcode', 'text'),
  field('town', 'text'),
  field('country', 'country'),
  field('school', 'text'),
  field('role', 'choice'),
  field('visits', 'choice'),
  field('interests', 'several choices'),
  field('heads', 'number'),
  field('day', 'date'),
  field('born', 'date'),
  field('telescope', 'yes/no'),
  field('letter', 'yes/no'),
  field('note', 'long text'),
  field('code', 'text'),
];

const there = (key: string, type: TypeName = 'text', more: Partial<DestinationField> = {}): DestinationField => ({
  key,
  label: key,
  type,
  required: false,
  choices: [],
  maxLength: type === 'text' ? 120 : null,
  ...more,
});

const LEVELS = ['seldom', 'now and then', 'often'];

export const WIDE_DESTINATION: DestinationField[] = [
  there('mail', 'email', { required: true }),
  there('given', 'text', { required: true }),
  there('family', 'text', { required: true }),
  there('full'),
  there('salutation'),
  there('call', 'phone'),
  there('street'),
  there('postcode', 'text', { maxLength: 12 }),
  there('town'),
  there('country', 'country'),
  there('school', 'text', { maxLength: 40 }),
  there('role', 'text', { maxLength: 20 }),
  there('level', 'choice', { choices: LEVELS }),
  there('topics'),
  there('heads', 'number'),
  there('size', 'choice', { choices: ['small', 'large'] }),
  there('day', 'date'),
  there('days_left', 'number'),
  there('born'),
  there('age', 'number'),
  there('has_telescope'),
  there('wants_letter'),
  there('note', 'text', { maxLength: 200 }),
  there('code'),
  there('came_by'),
];

const from = (id: string) => ({ kind: 'field' as const, field: id });
const line = (to: string, origin: MapLine['from'], steps: ToldStep[] = [], more: Partial<MapLine> = {}): MapLine =>
  plainLine({ id: to, to, from: origin, steps: chainOf(...steps), ...more });
const TRIM: ToldStep = { kind: 'trim', options: {} };
const LOWER: ToldStep = { kind: 'case', options: { form: 'lower case' } };
const lookUp = (pairs: [string, string][], unknown: string): ToldStep => ({
  kind: 'look-up',
  options: { pairs, unknown },
});
const ROLES: [string, string][] = [
  ['teacher', 'T'],
  ['parent', 'P'],
  ['pupil', 'S'],
  ['friend of the observatory', 'F'],
];
const VISITS: [string, string][] = [
  ['first time', 'seldom'],
  ['every year', 'seldom'],
  ['now and then', 'now and then'],
  ['every month', 'often'],
  ['every week', 'often'],
];
const TOPICS: [string, string][] = [
  ['Taking pictures', 'photo'],
  ['Planets', 'planets'],
  ['The Moon', 'moon'],
  ['Telescopes', 'tools'],
];
const test = (id: string, asked: 'is' | 'is filled' | 'is more than', value = ''): Condition => ({
  kind: 'test',
  id: `${id} ${asked}`,
  field: id,
  test: asked,
  value,
});

export const WIDE_LINES: MapLine[] = [
  line('mail', from('email'), [TRIM, LOWER]),
  line('given', from('first'), [TRIM]),
  line('family', from('last'), [TRIM]),
  line('full', { kind: 'text', text: '{first} {last}' }, [TRIM]),
  line('salutation', { kind: 'text', text: 'Dear {first},' }, [TRIM], { when: test('letter', 'is', 'yes') }),
  line('call', { kind: 'first', fields: ['mobile', 'phone'] }),
  line('street', from('street'), [TRIM]),
  line('postcode', from('postcode'), [TRIM]),
  line('town', from('town'), [TRIM]),
  line('country', from('country')),
  line('school', from('school'), [{ kind: 'cut', options: { length: 40 } }], { when: test('school', 'is filled') }),
  line('role', from('role'), [lookUp(ROLES, 'is left out')], { whenEmpty: { kind: 'value', value: '-' } }),
  line('level', from('visits'), [lookUp(VISITS, 'is an error')]),
  line('topics', from('interests'), [lookUp(TOPICS, 'is kept'), { kind: 'join', options: { by: ', ' } }]),
  line('heads', from('heads')),
  line('size', { kind: 'fixed', value: 'large' }, [], { when: test('heads', 'is more than', '20') }),
  line('day', from('day')),
  line('days_left', { kind: 'fixed', value: '14' }, [], {
    when: { kind: 'all', of: [test('day', 'is filled'), test('letter', 'is', 'yes')] },
  }),
  line('born', from('born')),
  line('age', { kind: 'fixed', value: '0' }, [], { when: { kind: 'none', of: [test('born', 'is filled')] } }),
  line('has_telescope', from('telescope'), [{ kind: 'yes/no', options: { yes: '1', no: '0' } }]),
  line('wants_letter', from('letter'), [{ kind: 'yes/no', options: { yes: 'Y', no: 'N' } }]),
  line('note', from('note'), [{ kind: 'cut', options: { length: 200 } }], { overwrite: 'fill gaps' }),
  line('code', from('code'), [TRIM, LOWER]),
  line('came_by', { kind: 'fixed', value: 'site' }),
];

/** What an invented visitor says. @param index never the same twice */
export const wideVisitor = (index: number): FieldValues => ({
  email: `Bench${index}@Hill.example`,
  first: 'Mara',
  last: `Quill${index}`,
  phone: '+441632960123',
  mobile: index % 3 === 0 ? '+447700900123' : '',
  street: '4 Lantern Row',
  postcode: 'LH1 2AB',
  town: 'Lantern Hill',
  country: 'GB',
  school: index % 2 === 0 ? 'Lantern Hill School' : '',
  role: ['teacher', 'pupil', 'guest'][index % 3] ?? '',
  visits: VISITS[index % VISITS.length]?.[0] ?? '',
  interests: index % 4 === 0 ? [] : ['Planets', 'Comets', 'The Moon'].slice(0, index % 4),
  heads: index % 40,
  day: '2026-06-12',
  born: index % 5 === 0 ? '' : '1990-05-31',
  telescope: index % 2 === 0,
  letter: index % 3 !== 0,
  note: 'We would like to see the Moon, if the sky is clear.',
  code: `RIDGE-${index % 7}`,
});

const ROLE_OF = new Map(ROLES);
const LEVEL_OF = new Map(VISITS);
const TOPIC_OF = new Map(TOPICS);
const ADDRESS = /^[^\s@]{1,64}@[^\s@]+\.[^\s@]{2,}$/;
const DAY = /^\d{4}-\d{2}-\d{2}$/;
const NUMBER = /^\+[1-9]\d{6,14}$/;
const COUNTRY = /^[A-Z]{2}$/;

const text = (value: unknown): string => (typeof value === 'string' ? value.trim().replace(/\s+/g, ' ') : '');

/** What somebody would write by hand. @returns what is sent, by the fields there; null where something required is missing or wrong */
export function wideByHand(values: FieldValues): Record<string, string | number> | null {
  const sent: Record<string, string | number> = {};
  const put = (key: string, value: string, most = 120): boolean => {
    if (value.length > most) return false;
    if (value !== '') sent[key] = value;
    return true;
  };
  const mail = text(values.email).toLowerCase();
  if (!ADDRESS.test(mail) || mail.length > 254) return null;
  sent.mail = mail;
  const first = text(values.first);
  const last = text(values.last);
  if (first === '' || last === '' || !put('given', first) || !put('family', last)) return null;
  put('full', `${first} ${last}`);
  if (values.letter === true) put('salutation', `Dear ${first},`);
  const call = text(values.mobile) || text(values.phone);
  if (NUMBER.test(call)) sent.call = call;
  put('street', text(values.street));
  put('postcode', text(values.postcode), 12);
  put('town', text(values.town));
  const country = text(values.country);
  if (COUNTRY.test(country)) sent.country = country;
  const school = text(values.school);
  if (school !== '') put('school', school.length > 40 ? school.slice(0, 40).replace(/\s\S*$/, '') : school);
  put('role', ROLE_OF.get(text(values.role)) ?? '-', 20);
  const level = LEVEL_OF.get(text(values.visits));
  if (level !== undefined && LEVELS.includes(level)) sent.level = level;
  if (Array.isArray(values.interests)) {
    const chosen = values.interests.filter((one) => typeof one === 'string');
    put('topics', chosen.map((one) => TOPIC_OF.get(one) ?? one).join(', '));
  }
  const { heads } = values;
  if (typeof heads === 'number' && Number.isFinite(heads)) {
    sent.heads = heads;
    if (heads > 20) sent.size = 'large';
  }
  const day = text(values.day);
  if (DAY.test(day)) {
    sent.day = day;
    if (values.letter === true) sent.days_left = 14;
  }
  const born = text(values.born);
  if (born === '') sent.age = 0;
  else put('born', born);
  put('has_telescope', values.telescope === true ? '1' : '0');
  put('wants_letter', values.letter === true ? 'Y' : 'N');
  const note = typeof values.note === 'string' ? values.note.trim() : '';
  put('note', note.length > 200 ? note.slice(0, 200).replace(/\s\S*$/, '') : note, 200);
  put('code', text(values.code).toLowerCase());
  put('came_by', 'site');
  return sent;
}
