import { describe, expect, it } from 'vitest';
import { formOf, sourceField } from '../../test/world/fields.ts';
import { FORM_LANGUAGES, TRAP_FIELD, type FormItem, type FormLanguage } from '../core/forms/index.ts';
import { plainFace } from '../core/intake/index.ts';
import { FIELD_TYPES, widgetsOf, type SourceField, type TypeName } from '../core/values/index.ts';
import { printForm, printFormToCopy, wordsIn } from './index.ts';

/** Attributes in no order: what an element says, not how it is printed. */
function element(html: string, tag: string, more: RegExp = /./): Record<string, string> {
  const found = (html.match(new RegExp(`<${tag}\\b[^>]*>`, 'g')) ?? []).find((one) => more.test(one));
  if (found === undefined) throw new Error(`there is no ${tag} like ${more}`);
  return Object.fromEntries(
    [...found.matchAll(/([\w-]+)="([^"]*)"/g)].map(([, name = '', value = '']) => [name, value]),
  );
}

const printed = (fields: SourceField[], more: Parameters<typeof formOf>[1] = {}) =>
  printForm({
    action: '/in/1',
    face: formOf(fields, more),
    language: 'en',
    filled: { prefix: 'p', typed: null, wrong: {}, kept: {} },
    carries: [],
  });

const copied = (fields: SourceField[], more: Parameters<typeof formOf>[1] = {}) =>
  printFormToCopy('https://x.example/in/one', formOf(fields, more));

it('has a button that resets it only where that is wanted, and never as the first', () => {
  expect(copied([sourceField('a', 'text')])).not.toContain('type="reset"');
  const html = copied([sourceField('a', 'text')], { resetLabel: 'Begin again' });
  expect(html).toMatch(/<button type="reset"[^>]*>Begin again<\/button>/);
  expect(html.indexOf('type="submit"')).toBeLessThan(html.indexOf('type="reset"'));
});

it('escapes whatever an operator may have typed', () => {
  const fields = [
    sourceField('a', 'text', { label: '<b>"Name" & \'more\'</b>', placeholder: '"><i>', preset: '<u>' }),
    sourceField('c', 'several choices', { label: 'Choice', options: ['<script>alert(1)</script>'] }),
  ];
  const html = printFormToCopy('https://x.example/in/1?a=1&b=2', {
    ...formOf(fields, { button: '</button>', resetLabel: '<reset>', statement: '<img src=x>', title: '<h9>' }),
    items: [{ kind: 'text', id: 't', shownIf: null, text: '<em>' }, ...plainFace(fields).items],
  });
  expect(html).toContain('&lt;b&gt;&quot;Name&quot; &amp; &#x27;more&#x27;&lt;/b&gt;');
  for (const tag of ['<b>', '<img', '<i>', '<u>', '<em>', '<h9>', 'alert(1)</script>']) expect(html).not.toContain(tag);
  expect(html).toContain('a=1&amp;b=2');
});

it('asks for what is required, hides the trap from people also where no style counts, and leaves boxes unticked', () => {
  const html = copied([
    sourceField('email', 'email', { required: true }),
    sourceField('ok', 'yes/no', { preset: 'yes' }),
  ]);
  expect(element(html, 'input', /name="email"/)).toEqual({
    type: 'email',
    id: 'f-one-email',
    name: 'email',
    value: '',
    autocomplete: 'email',
    required: '',
  });
  expect(html).toMatch(new RegExp(`<div hidden="">\\s*<label>[^<]*<input[^>]*name="${TRAP_FIELD}"`));
  expect(html).not.toContain('checked=');
});

describe('fields of other types', () => {
  const form = (type: TypeName, more: Partial<SourceField> = {}) =>
    copied([sourceField('f', type, { label: 'Field', required: true, ...more })]);
  // WHATWG HTML, 4.10.5 (types of input) and 4.10.18.7.1 (autofill tokens), from memory.
  it.each<[type: TypeName, tag: string, name: string, says: Record<string, string>]>([
    ['long text', 'textarea', 'f', { rows: '5', required: '' }],
    ['phone', 'input', 'f', { type: 'tel', autocomplete: 'tel', required: '' }],
    ['number', 'input', 'f', { type: 'number', step: 'any', inputmode: 'decimal', required: '' }],
    ['date', 'input', 'f', { type: 'date', required: '' }],
    ['time', 'input', 'f', { type: 'time', required: '' }],
    ['date-time', 'input', 'f', { type: 'datetime-local', required: '' }],
    ['URL', 'input', 'f', { type: 'url', autocomplete: 'url', required: '' }],
    ['file', 'input', 'f', { type: 'file', required: '' }],
    ['country', 'select', 'f', { autocomplete: 'country', required: '' }],
    ['person name', 'input', 'f.given', { autocomplete: 'given-name', required: '' }],
    ['person name', 'input', 'f.family', { autocomplete: 'family-name' }],
    ['postal address', 'input', 'f.street', { autocomplete: 'street-address', required: '' }],
    ['postal address', 'select', 'f.country', { autocomplete: 'country' }],
  ])('%s: %s %s', (type, tag, name, says) =>
    expect(element(form(type), tag, new RegExp(`name="${name}"`))).toMatchObject(says),
  );
  it('a form with a file is sent in parts, and countries are in the language of the form', () => {
    expect(element(form('file'), 'form')).toMatchObject({ enctype: 'multipart/form-data' });
    expect(form('country')).toContain('<option value="GB">United Kingdom<');
  });

  it.each(FIELD_TYPES.flatMap((type) => widgetsOf(type).map((widget) => [type, widget] as const)))(
    '%s, %s: every input has a name that is read aloud',
    (type, widget) => {
      const html = form(type, { widget, options: ['a', 'b'] });
      const inputs = html.match(/<(input|select|textarea)\b(?![^>]*type="hidden")[^>]*>/g) ?? [];
      const named = inputs.filter((input) => {
        const id = /id="([^"]+)"/.exec(input)?.[1];
        return (
          /aria-label="./.test(input) ||
          (id !== undefined && html.includes(`for="${id}"`)) ||
          new RegExp(`<label[^>]*>\\s*${input.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}`).test(html)
        );
      });
      // The trap stands in its label, which is not read aloud.
      expect(named).toHaveLength(inputs.length - 1);
    },
  );
});

describe('looks', () => {
  it('a label that is not seen is read aloud', () => {
    const html = copied([sourceField('a', 'text', { label: 'Name', labelShown: false })]);
    expect(element(html, 'input', /name="a"/)).toMatchObject({ 'aria-label': 'Name' });
    expect(html).not.toContain('>Name<');
  });
  it('a label can stand where one types, and is read aloud there as well', () => {
    const { look } = plainFace([]);
    const html = copied([sourceField('a', 'text', { label: 'Name', required: true })], {
      look: { ...look, labels: 'inside' },
    });
    expect(element(html, 'input', /name="a"/)).toMatchObject({ 'aria-label': 'Name', placeholder: 'Name' });
  });
  it('narrow fields stand beside one another', () => {
    const html = copied([sourceField('a', 'text', { width: 'half' }), sourceField('b', 'text', { width: 'third' })]);
    expect(html).toMatch(/class="question entered half"[^]*class="question entered third"/);
  });
  it('shows a placeholder, a first value and a token that was chosen', () =>
    expect(
      element(
        copied([
          sourceField('a', 'text', { placeholder: 'as on your card', preset: 'Hill', autocomplete: 'organization' }),
        ]),
        'input',
        /name="a"/,
      ),
    ).toMatchObject({ value: 'Hill', autocomplete: 'organization', placeholder: 'as on your card' }));
  it('nothing of its style touches anything outside it', () => {
    const { css } = printed([sourceField('a')]);
    const selectors = css
      .replace(/@media[^{]*\{/g, '')
      .split('}')
      .flatMap((rule) => (rule.includes('{') ? (rule.split('{')[0] ?? '').split(/,(?![^(]*\))/) : []));
    expect(selectors.length).toBeGreaterThan(50);
    for (const selector of selectors) expect(selector.trim()).toMatch(/^#p-form( |$)/);
  });
});

describe('what stands between questions', () => {
  it('stands where it was put, with the questions around it', () => {
    const fields = [sourceField('a'), sourceField('b')];
    const html = copied(fields, {
      title: 'Come and see',
      items: [
        { kind: 'question', id: 'b', shownIf: null },
        { kind: 'heading', id: 'h', shownIf: null, text: 'About you' },
        { kind: 'text', id: 't', shownIf: null, text: 'One.\n\nTwo.' },
        { kind: 'divider', id: 'd', shownIf: null },
        {
          kind: 'picture',
          id: 'p',
          shownIf: null,
          url: 'https://x.example/moon.png',
          alt: 'The Moon',
          width: 0,
          height: 0,
        },
        { kind: 'question', id: 'a', shownIf: null },
      ],
    });
    const order = [
      '>Come and see<',
      'name="b"',
      '>About you<',
      '<p>One.</p>',
      '<p>Two.</p>',
      '<hr',
      'alt="The Moon"',
      'name="a"',
    ];
    const places = order.map((part) => html.indexOf(part));
    expect(places).toEqual(places.toSorted((one, other) => one - other));
    expect(places[0]).toBeGreaterThan(0);
  });
  it('no question is lost: what has no place stands at the end, and what is hidden has none', () => {
    const html = copied([sourceField('a'), sourceField('h', 'text', { widget: 'hidden', preset: 'x' })], {
      items: [
        { kind: 'question', id: 'gone', shownIf: null },
        { kind: 'question', id: 'h', shownIf: null },
      ],
    });
    expect(element(html, 'input', /name="a"/)).toMatchObject({ type: 'text' });
    expect(element(html, 'input', /name="h"/)).toMatchObject({ type: 'hidden', value: 'x' });
  });
});

describe('a form that is shown again', () => {
  const again = (field: SourceField, typed: [string, string][], wrong = 'Wrong.', language: FormLanguage = 'en') =>
    printForm({
      action: '/in/1',
      face: formOf([field]),
      language,
      filled: { prefix: 'f', typed, wrong: { a: wrong }, kept: { a: { name: 'map.pdf', size: 2_000, token: 'T' } } },
      carries: [['form_page', 'https://x.example/"']],
    }).html;
  it('holds what was typed, says what is wrong and where, and brings along what it carried', () => {
    const html = again(sourceField('a', 'long text', { preset: 'first', help: 'Help.' }), [['a', 'one\ntwo <b>']]);
    expect(element(html, 'textarea')).toMatchObject({
      'aria-invalid': 'true',
      'aria-describedby': 'f-a-wrong f-a-help',
    });
    expect(html).toContain('>one\ntwo &lt;b&gt;</textarea>');
    expect(html).toContain('<p class="wrong" id="f-a-wrong">Wrong.</p>');
    expect(html).toContain('<a href="#f-a">');
    expect(html).toContain('name="form_page" value="https://x.example/&quot;"');
    expect(html).not.toContain('<script');
  });
  it('describes what is entered in parts as well', () => {
    const html = again(sourceField('a', 'person name'), [['a.family', 'Quill']]);
    expect(element(html, 'fieldset')).toMatchObject({ 'aria-describedby': 'f-a-wrong' });
    expect(element(html, 'input', /name="a\.family"/)).toMatchObject({ value: 'Quill', 'aria-invalid': 'true' });
  });
  it('leaves an answer out that nobody gave, also where there is a first value', () =>
    expect(element(again(sourceField('a', 'text', { preset: 'first' }), [['a', '']]), 'input', /name="a"/).value).toBe(
      '',
    ));
  it('keeps a file, which need not be chosen again', () => {
    const html = again(sourceField('a', 'file', { required: true }), []);
    expect(html).toContain('map.pdf (2 kB) is kept');
    expect(html).toContain('name="a.kept" value="T"');
    expect(/<input type="file"[^>]*>/.exec(html)?.[0]).not.toContain('required');
  });
  it('shows the rows of a list that were filled in', () => {
    const html = again(sourceField('a', 'list of records', { options: ['Name', 'Age'] }), [
      ['a.0.0', 'Mara'],
      ['a.0.1', '7'],
    ]);
    expect(element(html, 'input', /name="a\.0\.0"/)).toMatchObject({ value: 'Mara', 'aria-label': 'Name, row 1' });
    expect(element(html, 'input', /name="a\.2\.1"/)).toMatchObject({ value: '' });
  });
  it.each(FORM_LANGUAGES)('in %s', (language) => {
    const html = again(sourceField('a', 'postal address'), [['a.city', 'Fennmoor']], 'Wrong.', language);
    const say = wordsIn(language);
    expect(element(html, 'div').lang).toBe(language);
    expect(html).toContain(say('again.one'));
    expect(html).toContain(`>${say('parts.city')}<`);
    // Countries are named in the language too (CLDR, through Intl).
    expect(html).toContain(`<option value="DE">${new Intl.DisplayNames([language], { type: 'region' }).of('DE')}<`);
  });
});

describe('steps', () => {
  it('a number can be stars, each read aloud, or figures with what the ends mean', () => {
    const range = { from: 1, to: 4, low: 'no', high: 'very much' };
    const stars = copied([sourceField('n', 'number', { widget: 'stars', range })]);
    expect(stars.match(/type="radio"/g)).toHaveLength(4);
    expect(element(stars, 'input', /value="3"/)).toMatchObject({ 'aria-label': '3 of 4' });
    const scale = copied([sourceField('n', 'number', { widget: 'scale', range: { ...range, from: 0 } })]);
    expect(scale.match(/type="radio"/g)).toHaveLength(5);
    expect(scale).toContain('<span>no</span><span>very much</span>');
  });
  it('an answer among many is found by typing', () => {
    const html = copied([sourceField('c', 'choice', { widget: 'search', options: ['Fennmoor', 'Hilltop'] })]);
    expect(element(html, 'input', /name="c"/)).toMatchObject({ list: 'f-one-c-answers' });
    expect(html).toMatch(/<datalist id="f-one-c-answers">\s*<option value="Fennmoor"/);
  });
});

describe('answers with pictures', () => {
  const field = sourceField('dome', 'choice', {
    label: 'Which dome?',
    options: ['East', 'West'],
    widget: 'pictures',
    pictures: ['https://pics.example/east.jpg'],
    required: true,
  });
  it('are chosen like buttons, said by their answer, and shown where there is one', () => {
    const { html } = printed([field]);
    expect(element(html, 'input', /value="East"/)).toMatchObject({ type: 'radio', name: 'dome' });
    expect(element(html, 'img')).toMatchObject({ src: 'https://pics.example/east.jpg', alt: '' });
    expect(html.match(/<img/g)).toHaveLength(1);
  });
  it('are several where several can be chosen', () =>
    expect(element(printed([{ ...field, type: 'several choices' }]).html, 'input', /value="West"/).type).toBe(
      'checkbox',
    ));
});

describe('a form of several pages', () => {
  const page: FormItem = { kind: 'page', id: 'two', title: 'More', shownIf: null, skips: [] };
  const question = (id: string): FormItem => ({ kind: 'question', id, shownIf: null });
  const items = [question('a'), page, question('b')];
  const { html } = printed([sourceField('a', 'text', { required: true }), sourceField('b')], { items });
  it('stands there whole, and says to the script what belongs where', () => {
    expect(html).toMatch(/data-page="start"[^]*data-question="a"[^]*data-page="two"[^]*data-question="b"/);
    expect(element(html, 'div', /data-question="a"/)).toMatchObject({ 'data-needed': 'a is needed.' });
  });
  it('has nothing to press that does nothing without script, and is not stopped by the browser', () => {
    expect(html.match(/<button[^>]*data-go[^>]*>/g)?.every((one) => one.includes('hidden'))).toBe(true);
    expect(html).toMatch(/<form[^>]*novalidate/);
  });
});
