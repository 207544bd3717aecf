import { describe, expect, it } from 'vitest';
import { readForms } from '../../src/core/formats/index.ts';

const one = (html: string) => {
  const [form] = readForms(html);
  if (!form) throw new Error('there is no form');
  return form;
};
const fields = (inside: string) =>
  one(`<form action="/x">${inside}</form>`).fields.map(({ key, label, type }) => [key, label, type]);

describe('labels, however they are given', () => {
  it.each([
    ['<label for="a">Email *</label><input id="a" name="e" type="email">', 'Email'],
    ['<label>Your name: <input name="e"></label>', 'Your name'],
    ['<span id="l">Town</span><input name="e" aria-labelledby="l">', 'Town'],
    ['<input name="e" aria-label="Street">', 'Street'],
    ['<input name="e" title="Post code">', 'Post code'],
    ['<input name="e" placeholder="How many?">', 'How many?'],
    ['<input name="first_name">', 'First name'],
    ['<input name="data[postCode]">', 'Data post code'],
  ])('%s', (html, label) => expect(fields(html)[0]?.[1]).toBe(label));
});

describe('controls', () => {
  it('give the types that they hold', () =>
    expect(
      fields(`<input name="a" type="email"><input name="b" type="tel"><textarea name="c"></textarea>
        <select name="d"><option value="">–</option><option>x</option></select><select name="e" multiple><option>y</option></select>
        <input type="radio" name="f" value="1"><input type="radio" name="f" value="2"><input type="checkbox" name="g">
        <input type="checkbox" name="h" value="1"><input type="checkbox" name="h" value="2"><input type="file" name="i">
        <input name="j" type="date"><input name="k" type="made-up"><input type="submit" name="l">`).map(
        ([key, , type]) => [key, type],
      ),
    ).toEqual([
      ['a', 'email'],
      ['b', 'text'],
      ['c', 'long text'],
      ['d', 'choice'],
      ['e', 'several choices'],
      ['f', 'choice'],
      ['g', 'yes/no'],
      ['h', 'several choices'],
      ['i', 'file'],
      ['j', 'date'],
      ['k', 'text'],
    ]));
  it('keep names as they are, with choices, first values and what is hidden', () => {
    const { fields: found } =
      one(`<form><fieldset><legend>Which?</legend><label><input type="radio" name="d[x]" value="1" checked>One</label>
      <label><input type="radio" name="d[x]" value="2">Two</label></fieldset><input type="hidden" name="list" value="L-1">
      <input type="checkbox" name="ok" checked></form>`);
    expect(found).toMatchObject([
      { key: 'd[x]', id: 'd_x', label: 'Which?', options: ['1', '2'], preset: '1', widget: 'buttons' },
      { key: 'list', widget: 'hidden', preset: 'L-1' },
      { key: 'ok', preset: '' },
    ]);
  });
});

describe('as a browser reads it', () => {
  // WHATWG HTML, 13.2.6: a form within a form is none, and tables put what is out of place before them.
  it('broken HTML too', () => {
    expect(readForms('<form><input name=a><form action=/no><input name=b></form>')).toHaveLength(1);
    expect(fields('<table><input name="a"><tr><td><input name="b"></table>').map(([key]) => key)).toEqual(['a', 'b']);
    expect(fields('<INPUT NAME=Mail TYPE=EMAIL><p>unclosed').map(([key, , type]) => [key, type])).toEqual([
      ['Mail', 'email'],
    ]);
  });
  it('controls that stand elsewhere and name the form', () =>
    expect(one('<form id="f"></form><input name="a" form="f"><input name="b">').fields.map(({ key }) => key)).toEqual([
      'a',
    ]));
  it('several forms, each with its action and name', () =>
    expect(
      readForms(
        '<form action="/a"><h2>Letter</h2><button>Go</button></form><form action="/b" aria-label="Search"></form>',
      ).map(({ name, action, button }) => [name, action, button]),
    ).toEqual([
      ['Letter', '/a', 'Go'],
      ['Search', '/b', ''],
    ]));
});

it('says what cannot be taken over', () => {
  const { unseen, fields: found } = one(
    '<form action="javascript:send()"><input type="password" name="p"><input placeholder="Who?"></form>',
  );
  expect(found).toEqual([]);
  expect(unseen).toEqual([
    '“p” asks for a password, which is nothing to be handed on.',
    '“Who?” has no name: browsers do not send it, so a script there does something with it.',
    'A script there sends it, and may add what cannot be seen here.',
    'It has no fields here: a script on the page makes them, which is not run.',
  ]);
});
