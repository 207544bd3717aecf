import { describe, expect, it } from 'vitest';
import { FIELD_TYPES, type FieldType, type SourceField } from '../values/index.ts';
import { escapeHtml, printFormHtml, TRAP_FIELD } from './index.ts';

const base = { required: false, options: [], several: false, help: '', preset: '', keepAs: '' };

it('escapes whatever an operator may have typed', () => {
  const html = printFormHtml({
    action: 'https://x.example/in/1?a=1&b=2',
    fields: [
      { ...base, key: 'a', label: '<b>"Name" & \'more\'</b>', type: 'text' },
      { ...base, key: 'c', label: 'Choice', type: 'choice', options: ['<script>alert(1)</script>'], several: true },
    ],
    button: '</button>',
    statement: '<img src=x>',
  });
  expect(html).toContain('&lt;b&gt;&quot;Name&quot; &amp; &#39;more&#39;&lt;/b&gt;');
  expect(html).not.toContain('<b>');
  expect(html).not.toContain('<img');
  expect(html).not.toContain('alert(1)</script>');
  expect(html).toContain('a=1&amp;b=2');
});

it('asks for what is required, hides the trap from people, and leaves boxes unticked', () => {
  const html = printFormHtml({
    action: '/in',
    fields: [
      { ...base, key: 'email', label: 'Email', type: 'email', required: true },
      { ...base, key: 'ok', label: 'Yes', type: 'tick' },
    ],
    button: 'Go',
    statement: '',
  });
  expect(html).toMatch(/type="email" name="email" autocomplete="email" required/);
  expect(html).toMatch(new RegExp(`aria-hidden="true">\\s*<label>.*name="${TRAP_FIELD}" tabindex="-1"`));
  expect(html).not.toContain('checked');
});

it('leaves plain text as it is', () => expect(escapeHtml('Zoë says 1 + 1 = 2')).toBe('Zoë says 1 + 1 = 2'));

describe('fields of other types', () => {
  const form = (type: FieldType, more: Partial<SourceField> = {}) =>
    printFormHtml({
      action: '/in',
      fields: [{ ...base, key: 'f', label: 'Field', type, required: true, ...more }],
      button: 'Go',
      statement: '',
    });
  // WHATWG HTML, 4.10.5 (types of input) and 4.10.18.7.1 (autofill tokens), from memory.
  it.each<[FieldType, RegExp]>([
    ['long text', /<textarea name="f" rows="5" required>/],
    ['phone', /<input type="tel" name="f" autocomplete="tel" [^>]*required>/],
    ['number', /<input type="number" name="f" step="any" inputmode="decimal" required>/],
    ['date', /<input type="date" name="f" required>/],
    ['time', /<input type="time" name="f" required>/],
    ['date-time', /<input type="datetime-local" name="f" required>/],
    ['URL', /<input type="url" name="f" autocomplete="url" [^>]*required>/],
    ['country', /<select name="f" autocomplete="country" required>.*<option value="GB">United Kingdom<\/option>/],
    [
      'person name',
      /name="f\.given" autocomplete="given-name" required[^]*name="f\.family" autocomplete="family-name">/,
    ],
    [
      'postal address',
      /name="f\.street" autocomplete="street-address" required[^]*name="f\.country" autocomplete="country"/,
    ],
  ])('%s', (type, html) => expect(form(type)).toMatch(html));

  it.each(FIELD_TYPES)('%s: every input has a label', (type) => {
    const html = form(type, { options: ['a', 'b'] });
    const inputs = html.match(/<(input|select|textarea)\b(?![^>]*type="hidden")/g)?.length ?? 0;
    expect(html.match(/<label>/g)?.length ?? 0).toBe(inputs);
  });
});
