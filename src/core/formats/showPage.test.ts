import { describe, expect, it } from 'vitest';
import { pageToShow, sheetsOf } from './index.ts';

const PAGE = `<!doctype html><html><head>
<meta http-equiv="Content-Security-Policy" content="default-src 'none'"><link rel="stylesheet" href="/main.css?a=1&amp;b=2">
<script src="x.js"></script></head><body onload="run()"><p style="color:red">A &amp; B</p><img src="moon.png"><iframe src="y"></iframe></body></html>`;
const AT = 'https://hill.example/a/page?x=1&y=2';

describe('a page as it is shown within another one', () => {
  const shown = pageToShow(PAGE, AT, (url) =>
    url === 'https://hill.example/main.css?a=1&b=2'
      ? 'p{background:url(../sky.png)}/* </style><script>x()</script> */'
      : '',
  );
  it('names its style sheets', () =>
    expect(sheetsOf(PAGE, AT)).toEqual([{ url: 'https://hill.example/main.css?a=1&b=2' }]));
  it('has its style in it, with whole addresses', () =>
    expect(shown).toContain('background:url(https://hill.example/sky.png)'));
  it('says where its pictures are', () => expect(shown).toContain('src="https://hill.example/a/moon.png"'));
  it('runs nothing and orders nothing', () => {
    expect(shown).not.toMatch(/<script|onload|<iframe|http-equiv|<link/i);
    expect(shown).toContain('A &amp; B');
  });
});
