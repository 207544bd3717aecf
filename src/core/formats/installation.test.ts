import { describe, expect, it } from 'vitest';
import { judgeInstallation } from './index.ts';

const SERVER = 'https://iwashi.example';
const LINE = `<script async src="${SERVER}/place/script.js"></script>`;
const PLACE = '<div data-iwashi-form="letter"></div>';
const judge = (html: string, policy = '', form = 'letter') =>
  judgeInstallation({ html, policy }, { server: SERVER, form });
const troubles = (...given: Parameters<typeof judge>) =>
  judge(...given)
    .filter(({ ok }) => !ok)
    .map(({ found }) => found);

describe('a page', () => {
  it('that has what it needs', () => expect(troubles(LINE + PLACE)).toEqual([]));
  it('without the script, and what to put there', () => {
    const [finding] = judge(PLACE);
    expect(finding?.found).toBe('The script is not there.');
    expect(finding?.fix).toContain(LINE);
  });
  it('with the script twice', () => expect(troubles(LINE + LINE + PLACE)).toEqual(['The script is there 2 times.']));
  it('with the script of another installation', () =>
    expect(troubles(PLACE + LINE.replace(SERVER, 'https://other.example'))).toEqual([
      'The script is there from another address: https://other.example.',
    ]));
  it('without the place of the form, or with it twice', () => {
    expect(troubles(LINE)).toEqual(['The place of the form is not there.']);
    expect(troubles(LINE + PLACE + PLACE)).toEqual(['The place of the form is there 2 times.']);
    expect(troubles(LINE, '', '')).toEqual([]);
  });
  it('on which the form is not to show itself', () => {
    const meant = (isMeant: boolean) =>
      judgeInstallation({ html: LINE, policy: '' }, { server: SERVER, form: '', isMeant }).filter(({ ok }) => !ok);
    expect(meant(true)).toEqual([]);
    expect(meant(false).map(({ found }) => found)).toEqual([
      'It is not to show itself on this page: its pages, under Show it, leave this one out.',
    ]);
  });
  it('with the form as plain HTML, which needs no script', () =>
    expect(troubles(`<form action="${SERVER}/in/letter"></form>`)).toEqual([]));
});

describe('a policy', () => {
  // Content Security Policy Level 3, 6.7: directives fall back on default-src, but form-action does not.
  it.each([
    ["default-src 'self'", ['the script', 'its requests']],
    [`default-src 'self'; script-src ${SERVER}; connect-src ${SERVER}`, []],
    [`script-src 'self'; script-src-elem ${SERVER}`, []],
    ['script-src https:; connect-src *', []],
    ['script-src http:', ['the script']],
    ["form-action 'self'", ['sending']],
    ['script-src *.example; connect-src iwashi.example', []],
    ['script-src *.other.example', ['the script']],
    [`default-src *, script-src 'none'`, ['the script']],
    ['', []],
  ])('%s blocks %j', (policy, blocked) => {
    const said = troubles(LINE + PLACE, policy);
    expect(said).toEqual(
      blocked.length === 0 ? [] : [`The page's Content Security Policy keeps ${blocked.join(' and ')} from working.`],
    );
  });
  it('that stands in the page counts as well', () =>
    expect(
      troubles(`<meta http-equiv="Content-Security-Policy" content="connect-src 'none'">${LINE}${PLACE}`),
    ).toHaveLength(1));
});
