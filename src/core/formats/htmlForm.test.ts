import { expect, it } from 'vitest';
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
