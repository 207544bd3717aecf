import { expect, it } from 'vitest';
import { printConfirmationMail } from './index.ts';

const mail = { subject: 'Please <confirm>', body: 'Hello,\nyou & you.\n\n{link}\n\nBye', button: 'Yes, "me"' };
const { subject, text, html } = printConfirmationMail(mail, 'https://x.example/confirm/abc?a=1&b=2');

it('puts the link where it belongs, in both parts', () => {
  expect(text).toBe('Hello,\nyou & you.\n\nYes, "me":\nhttps://x.example/confirm/abc?a=1&b=2\n\nBye\n');
  expect(html).toContain('<a href="https://x.example/confirm/abc?a=1&amp;b=2"');
  expect(html.match(/<p>/g)).toHaveLength(3);
});

it("escapes the operator's words, and keeps their lines", () => {
  expect(subject).toBe('Please <confirm>');
  expect(html).toContain('<title>Please &lt;confirm&gt;</title>');
  expect(html).toContain('Hello,<br>you &amp; you.');
  expect(html).toContain('>Yes, &quot;me&quot;</a>');
});
