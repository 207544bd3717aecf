import { describe, expect, it } from 'vitest';
import { readForms } from '../../../core/formats/index.ts';
import { requestTo } from './requestTo.ts';

const formIn = (html: string) => readForms(html)[0] ?? { action: '', fields: [] };
const FORM = `<form action="/join?list=2" method="post"><label>Email <input type="email" name="mail"></label>
  <label>Your name <input name="who"></label><input type="hidden" name="origin" value="the hill's"><button>Go</button></form>`;

describe('the request that a form elsewhere makes', () => {
  it('is one example, with its fixed values as they are, to the whole address', () => {
    const line = requestTo(formIn(FORM), 'https://hill.example/letter');
    expect(line).toMatch(
      /^curl -X POST 'https:\/\/hill\.example\/join\?list=2' -H 'Content-Type: application\/x-www-form-urlencoded' -d '/,
    );
    const body = new URLSearchParams(/-d '([^']*)'$/.exec(line ?? '')?.[1]);
    expect(body.get('mail')).toMatch(/@/);
    expect([...body.keys()]).toEqual(['mail', 'who', 'origin']);
    expect(body.get('origin')).toBe("the hill's");
  });
  it.each([
    ['pasted, with an address that is not whole', FORM, ''],
    ['sent by a script', FORM.replace('/join?list=2', 'javascript:send()'), 'https://hill.example/'],
    ['without fields', '<form action="https://hill.example/"><button>Go</button></form>', ''],
  ])('is none where the form is %s', (_, html, page) => expect(requestTo(formIn(html), page)).toBeNull());
});
