import { describe, expect, it } from 'vitest';
import { sourceField } from '../../../test/world/fields.ts';
import { FORM_LANGUAGES, PLAIN_LOOK } from '../forms/index.ts';
import {
  afterColleague,
  answerChat,
  awaited,
  beginChat,
  chatFaceOf,
  checkChat,
  fieldsOfFaces,
  isWithin,
  printScript,
  readScript,
  toldColleague,
  understand,
  understandChoice,
  understandYesNo,
  type ChatFacts,
  type ChatInput,
  type ChatParts,
  type ChatTurn,
  type Scripted,
} from './index.ts';

const SCRIPT = `Welcome
  say "Clear skies!"
  choose topic "What brings you here?"
    "An evening" > Evenings
    "The Sky letter" > Letter
    "Something else"
  ask question (long text) "What would you like to know?"
  tell desk@pellam-ridge.example "A question" : "Somebody asks: {question}"
  if 09:00-17:00 Mon-Fri Europe/London > Desk
  go > Letter

Evenings
  look up topic into price otherwise "free"
    "An evening" = "12.50 EUR"
  end "An evening is {price}." https://pellam-ridge.example/evenings "What is on"

Desk
  hand over "One moment, somebody is coming." 60 s > Letter

Letter
  ask email (email) "Where can we write to you?" > Bye
  agree letter "May we write once a month?" : "Yes, send me the Sky letter."
  if letter is "yes" > Details
  go > Bye

Details
  form "A little more about you" name (text), visits (number)
  go > Bye

Bye
  end "See you under the stars, {name}."
`;

let made = 0;
const newId = () => `n${(made += 1)}`;
const NOTHING: Scripted = { parts: [], fields: [] };
const read = (text: string, before = NOTHING) => readScript(text, before, newId);
const { scripted } = read(SCRIPT);
const chat = (of: Scripted = scripted): ChatParts => ({ parts: of.parts, unfinished: 'keep', breaksOffMinutes: 30 });
const SUNDAY = Date.parse('2026-11-29T12:00:00Z');
const MONDAY = Date.parse('2026-11-30T12:00:00Z');
const facts = (more: Partial<ChatFacts> = {}): ChatFacts => ({
  fields: scripted.fields,
  language: 'en',
  known: {},
  knowledge: [],
  now: SUNDAY,
  ...more,
});
/** Says several things one after the other. */
function talk(said: (string | ChatInput)[], more: Partial<ChatFacts> = {}): { last: ChatTurn; heard: string[] } {
  let last = beginChat(chat(), facts(more));
  const heard = last.lines.map(({ text, saying }) => saying ?? text);
  for (const one of said) {
    const input: ChatInput = typeof one === 'string' ? { kind: 'text', text: one } : one;
    last = answerChat(chat(), last.state, input, facts(more));
    heard.push(...last.lines.filter(({ by }) => by === 'us').map(({ text, saying }) => saying ?? text));
  }
  return { last, heard };
}
const valuesOf = ({ state }: ChatTurn, of = scripted) =>
  Object.fromEntries(of.fields.flatMap(({ id, key }) => (id in state.values ? [[key, state.values[id]]] : [])));

describe('a script of a conversation', () => {
  it('reads without trouble, and what it reads prints as the same text', () => {
    const { scripted: first, issues } = read(SCRIPT);
    expect(issues).toEqual([]);
    expect(printScript(first)).toBe(SCRIPT);
    const again = read(printScript(first), first);
    expect(again.scripted).toEqual(first);
  });

  it('keeps what stays under its ids, with what is said of fields elsewhere', () => {
    const before = {
      ...scripted,
      fields: scripted.fields.map((field) => (field.key === 'email' ? { ...field, keepAs: 'email' } : field)),
    };
    const { scripted: after } = read(SCRIPT.replace('Clear skies!', 'Good evening!'), before);
    expect(after.parts.map(({ id }) => id)).toEqual(scripted.parts.map(({ id }) => id));
    expect(after.fields.find(({ key }) => key === 'email')).toMatchObject({ keepAs: 'email', type: 'email' });
    const ids = (of: Scripted) => of.parts.flatMap(({ steps }) => steps.map(({ id }) => id));
    expect(ids(after)).toEqual(ids(scripted));
  });

  it('forgets the fields of steps that are gone', () =>
    expect(read('Welcome\n  say "Hello"\n', scripted).scripted.fields).toEqual([]));

  it.each([
    ['  say "Hello"', 1, 'needs the name of a part'],
    ['Welcome\n  shout "Hello"', 2, '“shout” is no step'],
    ['Welcome\n  say "Hello', 2, 'not closed'],
    ['Welcome\n  go > Nowhere', 2, 'no part “Nowhere”'],
    ['Welcome\n  ask a (colour) "What?"', 2, 'no type “colour”'],
    ['Welcome\n\nWelcome\n  say "x"', 3, 'two parts'],
    ['Welcome\n  "An answer"', 2, 'stands below'],
    ['Welcome\n  end "Bye" javascript:alert(1) "x"', 2, 'begins with https'],
    ['Welcome\n  if topic glows', 2, 'no test'],
    ['Welcome\n  if 09:00-17:00 Moonday Europe/London', 2, 'no days'],
    ['Welcome\n  hand over "Wait" 1 s', 2, 'from 5 to 3600'],
    ['Welcome\n  say "a" "b"', 2, 'Nothing more'],
    ['Welcome\n  ask spa ce "What?"', 2, 'text in quotes'],
  ])('says where it cannot be read: %j', (text, line, said) =>
    expect(read(text).issues).toEqual([{ line, text: expect.stringContaining(said) as string }]),
  );

  it('holds quotes, backslashes and new lines', () => {
    const parts = [
      { id: 'p', name: 'One', steps: [{ id: 's', kind: 'say' as const, text: 'He said "\\o/"\nand left > so.' }] },
    ];
    const { scripted: after, issues } = read(printScript({ parts, fields: [] }), { parts, fields: [] });
    expect([after.parts, issues]).toEqual([parts, []]);
  });
});

describe('what is found in the ways of a conversation', () => {
  const codes = (text: string) => {
    const { scripted: of, issues } = read(text);
    expect(issues).toEqual([]);
    return checkChat(of.parts, of.fields).map(({ code, blocks }) => `${code}${blocks ? '!' : ''}`);
  };
  it('is nothing where all is well', () => expect(checkChat(scripted.parts, scripted.fields)).toEqual([]));
  it.each([
    ['', ['empty!']],
    ['A\n  end "x"\n\nB\n  end "y"', ['unreachable']],
    ['A\n  end "x"\n  say "never"\n  end ""', ['unreachable']],
    ['A\n  say "x"', ['dead end']],
    ['A\n  say "x"\n  go > A', ['no way out!']],
    ['A\n  ask n (text) "Name?" > A\n  end ""', []],
    ['A\n  ask n (text) "Name?"\n  ask n (text) "Your name, please?"\n  end ""', ['asked twice']],
    ['A\n  choose t "?"\n  end ""', ['empty!']],
    ['A\n  go > B\n\nB', ['empty']],
    [
      'A\n  if 09:00-17:00 Mon-Fri Europe/London\n  if nothing else > B\n  say "in hours"\n  go > B\n\nB\n  end "x"',
      [],
    ],
  ])('%j', (text, found) => expect(codes(text)).toEqual(found));
  it('is a part that is not there, and a field that is not there', () => {
    const parts = [{ id: 'p', name: 'A', steps: [{ id: 's', kind: 'jump' as const, to: 'gone' }] }];
    expect(checkChat(parts, []).map(({ code }) => code)).toContain('nowhere');
    const asks = [{ id: 'p', name: 'A', steps: [{ id: 's', kind: 'consent' as const, text: '', field: 'gone' }] }];
    expect(checkChat(asks, []).map(({ code }) => code)).toContain('no field');
  });
});

describe('what is typed is understood only as far as is said', () => {
  const field = (type: Parameters<typeof sourceField>[1], options: string[] = []) =>
    sourceField('f', type, { options });
  const known = (type: Parameters<typeof sourceField>[1], typed: string) => {
    const found = understand(field(type), typed, 'en');
    return found.ok ? found.value : null;
  };
  it.each<[Parameters<typeof sourceField>[1], string, unknown]>([
    ['email', 'It is mara@quill.example, thanks!', 'mara@quill.example'],
    ['email', 'mara@quill.example or ada@quill.example', null],
    ['email', 'mara at quill', null],
    ['phone', 'call me on +44 1632 960001 please', '+441632960001'],
    ['phone', 'tomorrow', null],
    ['number', 'we are 12 people', 12],
    ['number', '12 or 13', null],
    ['number', 'a dozen', null],
    ['date', '24.12.2026', '2026-12-24'],
    ['date', 'some day', null],
    ['text', '  Mara  ', 'Mara'],
    ['text', '   ', null],
  ])('%s: %j', (type, typed, value) => expect(known(type, typed)).toBe(value));

  it.each([
    ['the moon', 'The Moon'],
    ['The Mon', 'The Moon'],
    ['stargasing', 'Stargazing'],
    ['2', 'Stargazing'],
    ['The Moon, please', 'The Moon'],
    ['both', null],
    ['moon stargazing the moon', null],
    ['', null],
  ])('one of two answers by %j', (typed, meant) =>
    expect(understandChoice(['The Moon', 'Stargazing'], typed)).toBe(meant),
  );
  it('answers that are near each other need to be written out', () => {
    expect(understandChoice(['Mars', 'Mark'], 'Marx')).toBeNull();
    expect(understandChoice(['Mars', 'Mark'], 'mars')).toBe('Mars');
  });

  it.each([
    ['en', 'Yes please', 'No thanks'],
    ['de', 'Ja', 'Nein danke'],
    ['fr', 'Oui', 'Non merci'],
    ['es', 'Sí', 'No gracias'],
    ['it', 'Certo', 'No grazie'],
    ['nl', 'Graag', 'Nee'],
    ['pl', 'Tak', 'Nie'],
    ['pt', 'Sim', 'Não'],
    ['sv', 'Ja', 'Nej tack'],
  ] as const)('yes and no in %s', (language, yes, no) => {
    expect([understandYesNo(yes, language), understandYesNo(no, language)]).toEqual([true, false]);
    expect(understandYesNo('perhaps', language)).toBeNull();
  });
  it('every language that forms speak has its words', () =>
    expect(FORM_LANGUAGES.every((language) => understandYesNo('ok', language) === true)).toBe(true));
});

describe('a conversation', () => {
  it('goes the way of the answers, remembers them and says them again', () => {
    const { last, heard } = talk(['An evening']);
    expect(heard).toEqual(['Clear skies!', 'What brings you here?', 'An evening is 12.50 EUR.']);
    expect(last.lines.at(-1)?.link).toEqual({ url: 'https://pellam-ridge.example/evenings', text: 'What is on' });
    expect(last.state.at).toBeNull();
    expect(valuesOf(last)).toEqual({ topic: 'An evening', price: '12.50 EUR' });
  });

  it('tells colleagues, and goes by the time of day', () => {
    const said = ['Something else', 'Do you have stairs?'];
    const closed = talk(said);
    expect(closed.last.effects).toEqual([
      {
        kind: 'notify',
        to: ['desk@pellam-ridge.example'],
        subject: 'A question',
        text: 'Somebody asks: Do you have stairs?',
      },
    ]);
    expect(awaited(chat(), closed.last.state, scripted.fields)).toEqual({ kind: 'text', type: 'email' });
    const open = talk(said, { now: MONDAY });
    expect(open.last.effects.at(-1)).toEqual({ kind: 'hand over', seconds: 60 });
    expect(awaited(chat(), open.last.state, scripted.fields)).toEqual({ kind: 'colleague', seconds: 60 });
    const nobody = talk([...said, { kind: 'nobody came' }], { now: MONDAY });
    expect(nobody.heard.at(-1)).toBe('Where can we write to you?');
  });

  it('asks again kindly, twice at most, and goes on without', () => {
    const { heard, last } = talk(['The Sky letter', 'no idea', 'still none', 'none']);
    expect(heard.slice(2)).toEqual([
      'Where can we write to you?',
      'again',
      'again, last',
      'never mind',
      'See you under the stars, .',
    ]);
    expect(valuesOf(last)).toEqual({ topic: 'The Sky letter' });
  });

  it('takes a consent by a button or a word, and a small form whole or not at all', () => {
    const agreed = talk(['The Sky letter', 'mara@quill.example', { kind: 'consent', yes: true }]);
    expect(awaited(chat(), agreed.last.state, scripted.fields)).toMatchObject({ kind: 'form' });
    const wrong = answerChat(
      chat(),
      agreed.last.state,
      { kind: 'form', entries: { name: 'Mara', visits: 'often' } },
      facts(),
    );
    expect([wrong.issues.map(({ field }) => field), wrong.state]).toEqual([['visits'], agreed.last.state]);
    const right = answerChat(
      chat(),
      agreed.last.state,
      { kind: 'form', entries: { name: 'Mara', visits: '3' } },
      facts(),
    );
    expect(right.lines.at(-1)?.text).toBe('See you under the stars, Mara.');
    expect(valuesOf(right)).toMatchObject({ email: 'mara@quill.example', letter: true, name: 'Mara', visits: 3 });
    expect(valuesOf(talk(['The Sky letter', 'mara@quill.example', 'no thanks']).last)).toMatchObject({ letter: false });
  });

  it('asks for one of the answers until there is one', () => {
    const { heard } = talk(['pardon?', 'what?', 'hm', 'An evening']);
    expect(heard.filter((one) => one === 'answer one of these')).toHaveLength(3);
    expect(heard.at(-1)).toBe('An evening is 12.50 EUR.');
  });

  it('that goes round by itself ends', () => {
    const { scripted: round } = read('A\n  say "x"\n  go > A');
    const turn = beginChat(chat(round), facts({ fields: [] }));
    expect(turn.state.at).toBeNull();
    expect(turn.lines.length).toBeLessThan(200);
  });
});

it.each([
  ['2026-11-30T09:00:00Z', true],
  ['2026-11-30T17:00:00Z', false],
  ['2026-11-29T12:00:00Z', false],
  // In summer London is an hour ahead.
  ['2026-07-06T08:30:00Z', true],
])('hours of the week by the clock of their zone: %s', (at, open) =>
  expect(isWithin({ days: [1, 2, 3, 4, 5], from: '09:00', to: '17:00', zone: 'Europe/London' }, Date.parse(at))).toBe(
    open,
  ),
);
it('a night belongs to the day on which it began', () => {
  const hours = { days: [5], from: '20:00', to: '02:00', zone: 'UTC' };
  expect(isWithin(hours, Date.parse('2026-11-27T23:00Z'))).toBe(true);
  expect(isWithin(hours, Date.parse('2026-11-28T01:00Z'))).toBe(true);
  expect(isWithin(hours, Date.parse('2026-11-28T21:00Z'))).toBe(false);
});

describe('the fields of a chat with variants', () => {
  const field = (id: string, options: string[] = []) => ({ ...sourceField(id, 'choice'), options });
  const asks = (id: string, ...labels: string[]): ChatParts['parts'] => [
    {
      id: 'part',
      name: 'Part',
      steps: [{ id, kind: 'choose', text: '?', field: id, choices: labels.map((label) => ({ label, to: '' })) }],
    },
  ];

  it('stay as long as any face asks for them, with the answers that are offered in any', () => {
    const faces = [{ parts: asks('topic', 'Yes', 'No') }, { parts: asks('mood', 'Well') }];
    const before = [field('topic', ['Yes', 'No']), field('mood', ['Well']), field('gone', ['x'])];
    expect(fieldsOfFaces(faces, { before, after: [field('mood', ['Well'])] })).toEqual([before[1], before[0]]);
    const more = [faces[0], { parts: asks('topic', 'Maybe') }].flatMap((face) => face ?? []);
    expect(fieldsOfFaces(more, { before, after: [field('topic', ['Maybe'])] })).toEqual([
      field('topic', ['Maybe', 'Yes', 'No']),
    ]);
  });

  it('are not of a face, which is what else a visitor meets', () => {
    const chat = { title: 'T', launcher: 'L', look: PLAIN_LOOK, parts: asks('topic', 'Yes'), fields: [field('topic')] };
    expect(Object.keys(chatFaceOf(chat))).toEqual(['title', 'launcher', 'look', 'parts']);
  });
});

describe('a question for a file', () => {
  const photo = { ...sourceField('photo', 'file'), options: ['image/*'] };
  const asks: ChatParts = {
    parts: [
      {
        id: 'part',
        name: 'Part',
        steps: [
          { id: 'ask', kind: 'ask', text: 'A photo of it?', field: 'photo', otherwise: '' },
          { id: 'bye', kind: 'end', text: 'Thank you!', link: '', linkText: '' },
        ],
      },
    ],
    unfinished: 'keep',
    breaksOffMinutes: 30,
  };
  const facts = (field = photo): ChatFacts => ({ fields: [field], language: 'en', known: {}, knowledge: [], now: 0 });
  const file = (mediaType: string) => ({ file: 'f1', name: 'moon.png', mediaType, size: 9, sha256: 'x', link: 'y' });
  const begun = () => beginChat(asks, facts()).state;

  it('is awaited as one, with the kinds that are taken', () =>
    expect(awaited(asks, begun(), [photo])).toEqual({ kind: 'file', kinds: ['image/*'], required: false }));

  it('takes one of those kinds, and none of others', () => {
    const turn = answerChat(asks, begun(), { kind: 'file', file: file('image/png') }, facts());
    expect([turn.state.values.photo, turn.lines[0]]).toEqual([file('image/png'), { by: 'visitor', text: 'moon.png' }]);
    expect(turn.state.at).toBeNull();
    const refused = answerChat(asks, begun(), { kind: 'file', file: file('text/plain') }, facts());
    expect([refused.issues.length, refused.lines, refused.state.at]).toEqual([1, [], 'ask']);
  });

  it('may be gone on from without one, unless one is needed; words are none', () => {
    const without: ChatInput = { kind: 'file', file: null };
    expect(answerChat(asks, begun(), without, facts()).state).toMatchObject({ at: null, values: {} });
    const needed = facts({ ...photo, required: true });
    expect(answerChat(asks, begun(), without, needed)).toMatchObject({ state: { at: 'ask', misses: 1 } });
    expect(answerChat(asks, begun(), { kind: 'text', text: 'here it is' }, facts()).lines.at(-1)?.saying).toBe('again');
  });
});

describe('a colleague who comes in', () => {
  const asks: ChatParts = {
    parts: [
      {
        id: 'part',
        name: 'Part',
        steps: [
          { id: 'name', kind: 'ask', text: 'Your name?', field: 'name', otherwise: '' },
          { id: 'desk', kind: 'hand over', text: 'One moment.', seconds: 60, otherwise: '' },
          { id: 'bye', kind: 'end', text: 'See you!', link: '', linkText: '' },
        ],
      },
    ],
    unfinished: 'keep',
    breaksOffMinutes: 30,
  };
  const facts: ChatFacts = { fields: [sourceField('name', 'text')], language: 'en', known: {}, knowledge: [], now: 0 };

  it('is told what is said, and it answers no step', () => {
    const { state } = beginChat(asks, facts);
    const turn = toldColleague(state, { kind: 'text', text: 'Who are you?' });
    expect(turn).toMatchObject({ state, lines: [{ by: 'visitor', text: 'Who are you?' }] });
    expect(toldColleague(state, { kind: 'consent', yes: true }).lines).toEqual([]);
  });

  it('leaves the chat to ask once more what they came in on, or to go on behind the step that fetched them', () => {
    const { state } = beginChat(asks, facts);
    const again = afterColleague(asks, state, facts);
    expect([again.state.at, again.lines]).toEqual(['name', [{ by: 'us', text: 'Your name?' }]]);
    const fetched = answerChat(asks, state, { kind: 'text', text: 'Mara' }, facts);
    expect(fetched.state.at).toBe('desk');
    const left = afterColleague(asks, fetched.state, facts);
    expect([left.state.at, left.lines.map(({ text }) => text)]).toEqual([null, ['See you!']]);
  });
});
