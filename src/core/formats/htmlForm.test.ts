import { describe, expect, it } from 'vitest';
import { formOf, sourceField } from '../../../test/world/fields.ts';
import { FIELD_TYPES, widgetsOf, type SourceField, type TypeName } from '../values/index.ts';
import { escapeHtml, printFormHtml, printFormToCopy, TRAP_FIELD } from './index.ts';

const copied = (fields: SourceField[], more: Parameters<typeof formOf>[1] = {}) =>
  printFormToCopy('https://x.example/in/one', formOf(fields, more));

it('has a button that resets it only where that is wanted, and never as the first', () => {
  expect(copied([sourceField('a', 'text')])).not.toContain('type="reset"');
  const html = copied([sourceField('a', 'text')], { resetLabel: 'Begin again' });
  expect(html).toContain('<button type="reset">Begin again</button>');
  expect(html.indexOf('type="submit"')).toBeLessThan(html.indexOf('type="reset"'));
});

it('escapes whatever an operator may have typed', () => {
  const html = printFormToCopy('https://x.example/in/1?a=1&b=2', {
    fields: [
      sourceField('a', 'text', { label: '<b>"Name" & \'more\'</b>', placeholder: '"><i>', preset: '<u>' }),
      sourceField('c', 'several choices', { label: 'Choice', options: ['<script>alert(1)</script>'] }),
    ],
    button: '</button>',
    resetLabel: '<reset>',
    statement: '<img src=x>',
  });
  expect(html).toContain('&lt;b&gt;&quot;Name&quot; &amp; &#39;more&#39;&lt;/b&gt;');
  for (const tag of ['<b>', '<img', '<i>', '<u>', 'alert(1)</script>']) expect(html).not.toContain(tag);
  expect(html).toContain('a=1&amp;b=2');
});

it('asks for what is required, hides the trap from people, and leaves boxes unticked', () => {
  const html = copied([
    sourceField('email', 'email', { required: true }),
    sourceField('ok', 'yes/no', { preset: 'yes' }),
  ]);
  expect(html).toMatch(/type="email" id="one-email" name="email" value="" autocomplete="email" required/);
  expect(html).toMatch(new RegExp(`aria-hidden="true">\\s*<label>.*name="${TRAP_FIELD}" tabindex="-1"`));
  expect(html).not.toContain('checked');
});

it('leaves plain text as it is', () => expect(escapeHtml('Zoë says 1 + 1 = 2')).toBe('Zoë says 1 + 1 = 2'));

describe('fields of other types', () => {
  const form = (type: TypeName, more: Partial<SourceField> = {}) =>
    copied([sourceField('f', type, { label: 'Field', required: true, ...more })]);
  // WHATWG HTML, 4.10.5 (types of input) and 4.10.18.7.1 (autofill tokens), from memory.
  it.each<[TypeName, RegExp]>([
    ['long text', /<textarea id="one-f" name="f" rows="5" required>/],
    ['phone', /<input type="tel" id="one-f" name="f" value="" autocomplete="tel" [^>]*required>/],
    ['number', /<input type="number" id="one-f" name="f" value="" step="any" inputmode="decimal" required>/],
    ['date', /<input type="date" id="one-f" name="f" value="" required>/],
    ['time', /<input type="time" id="one-f" name="f" value="" required>/],
    ['date-time', /<input type="datetime-local" id="one-f" name="f" value="" required>/],
    ['URL', /<input type="url" id="one-f" name="f" value="" autocomplete="url" [^>]*required>/],
    ['file', /enctype="multipart\/form-data"[^]*<input type="file" id="one-f" name="f" required>/],
    ['country', /<select id="one-f" name="f" autocomplete="country" required>.*<option value="GB">United Kingdom</],
    [
      'person name',
      /name="f\.given" value="" autocomplete="given-name" required[^]*name="f\.family" value="" autocomplete="family-name">/,
    ],
    [
      'postal address',
      /name="f\.street" value="" autocomplete="street-address" required[^]*name="f\.country" autocomplete="country"/,
    ],
  ])('%s', (type, html) => expect(form(type)).toMatch(html));

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
          html.includes(`<label>${input}`)
        );
      });
      // The trap stands in its label, which is not read aloud.
      expect(named).toHaveLength(inputs.length - 1);
    },
  );
});

describe('looks', () => {
  it('a label that is not seen is read aloud', () =>
    expect(copied([sourceField('a', 'text', { label: 'Name', labelShown: false })])).toMatch(
      /<label for="one-a" style="position:absolute;[^"]*">Name/,
    ));
  it('narrow fields stand beside one another', () => {
    const html = copied([sourceField('a', 'text', { width: 'half' }), sourceField('b', 'text', { width: 'third' })]);
    expect(html).toMatch(/<div class="fields" style="display:flex[^]*flex:1 1 45%[^]*flex:1 1 28%/);
    expect(copied([sourceField('a')])).not.toContain('display:flex');
  });
  it('shows a placeholder, a first value and a token that was chosen', () =>
    expect(
      copied([
        sourceField('a', 'text', { placeholder: 'as on your card', preset: 'Hill', autocomplete: 'organization' }),
      ]),
    ).toMatch(/value="Hill" autocomplete="organization" placeholder="as on your card"/));
});

describe('a form that is shown again', () => {
  const again = (field: SourceField, typed: [string, string][], wrong = 'Wrong.') =>
    printFormHtml({
      action: '/in/1',
      document: formOf([field]),
      filled: { prefix: 'f', typed, wrong: { a: wrong }, kept: { a: { name: 'map.pdf', size: 2_000, token: 'T' } } },
      carries: [['form_page', 'https://x.example/"']],
    });
  it('holds what was typed, says what is wrong and where, and brings along what it carried', () => {
    const html = again(sourceField('a', 'long text', { preset: 'first', help: 'Help.' }), [['a', 'one\ntwo <b>']]);
    expect(html).toMatch(
      /<textarea[^>]*aria-invalid="true" aria-describedby="f-a-wrong f-a-help"[^>]*>one\ntwo &lt;b&gt;<\/textarea>/,
    );
    expect(html).toContain('<p class="wrong" id="f-a-wrong">Wrong.</p>');
    expect(html).toContain('name="form_page" value="https://x.example/&quot;"');
    expect(html).not.toContain('<script');
  });
  it('describes what is entered in parts as well', () => {
    const html = again(sourceField('a', 'person name'), [['a.family', 'Quill']]);
    expect(html).toMatch(/<fieldset [^>]*aria-describedby="f-a-wrong"/);
    expect(html).toMatch(/name="a\.family" value="Quill"[^>]*aria-invalid="true"/);
  });
  it('leaves an answer out that nobody gave, also where there is a first value', () =>
    expect(again(sourceField('a', 'text', { preset: 'first' }), [['a', '']])).toContain('name="a" value=""'));
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
    expect(html).toMatch(/name="a\.0\.0" value="Mara" aria-label="Name, row 1"/);
    expect(html).toMatch(/name="a\.2\.1" value=""/);
  });
});

it('looks right where a page brings no style for it: labels above, answers below one another, room between fields', () => {
  const html = copied([
    sourceField('a', 'text', { label: 'Name' }),
    sourceField('b', 'several choices', { options: ['Moon', 'Sun'] }),
  ]);
  expect(html).toMatch(/margin:0 0 1rem[^]*<label for="one-a" style="display:block">Name[^]*margin:0 0 1rem/);
  expect(html.match(/<div><label><input type="checkbox"/g)).toHaveLength(2);
});
