import { describe, expect, it } from 'vitest';
import { contrastsOf } from '../contrast/index.ts';
import { readLook, sheetsOf } from './index.ts';

const PAGE = `<html><body class="site"><main><p>Words</p><a href="/">A link</a>
  <form><input type="email" id="mail"><button class="go" type="submit">Go</button></form></main></body></html>`;

const coloursOf = (css: string, html = PAGE) => readLook(html, [css]).look.colours;

describe('the look of a page', () => {
  it('is read from its ground, words, inputs and button', () => {
    const { look, found } = readLook(PAGE, [
      `body { background: #fdf6e3 url(paper.png); color: #222; font: 18px/1.5 serif }
       input { border: 1px solid rgb(90 90 90); border-radius: 8px }
       .go { background-color: rebeccapurple; color: white; border-radius: .5rem }`,
    ]);
    expect(look.colours).toMatchObject({
      ground: '#fdf6e3',
      ink: '#222222',
      line: '#5a5a5a',
      action: '#663399',
      onAction: '#ffffff',
    });
    expect(look).toMatchObject({ size: 18, radius: 8, font: 'site' });
    expect(found).toContain('the button is #663399');
  });
  it('goes by what weighs more, then by what comes later (CSS Cascading Level 4, 6.1)', () => {
    expect(coloursOf('form .go { background: #111111 } .go { background: #222222 }').action).toBe('#111111');
    expect(coloursOf('.go { background: #111111 } .go { background: #222222 }').action).toBe('#222222');
    expect(coloursOf('.go { background: #111111 !important } form button.go { background: #222222 }').action).toBe(
      '#111111',
    );
    const inline = PAGE.replace('class="go"', 'class="go" style="background: #333333"');
    expect(coloursOf('.go { background: #111111 }', inline).action).toBe('#333333');
  });
  it('is what an element inherits, with variables put in', () => {
    expect(coloursOf(':root { --brand: #123456; --ink: var(--brand) } main { color: var(--ink) }').ink).toBe('#123456');
    expect(coloursOf('body { color: var(--gone, #654321) }').ink).toBe('#654321');
  });
  it('leaves out what is for paper, or conditional, or no style at all', () => {
    expect(coloursOf('@media print { .go { background: #111111 } } .go { background: #222222 }').action).toBe(
      '#222222',
    );
    expect(coloursOf('.go { background: #222222 } @media screen { .go { background: #333333 } }').action).toBe(
      '#333333',
    );
    expect(coloursOf('.go { background: nonsense } %%% {{{', PAGE).action).toBe(coloursOf('').action);
    expect(coloursOf('body:has(::weird()) { color: red }')).toEqual(coloursOf(''));
  });
  it('takes links for the button where the page has none', () =>
    expect(coloursOf('a { color: #0b5394 } p { color: #333 }', '<p>Words <a href="/">link</a></p>').action).toBe(
      '#0b5394',
    ));
  it('is read from a style alone, too', () =>
    expect(coloursOf('button { background: #7a1f3d }', '').action).toBe('#7a1f3d'));
  it.each([
    'body { background: #fff; color: #bbb } .go { background: #fe8; color: #fff }',
    'body { background: #101010; color: #222 }',
    '',
  ])('can be read by everybody, whatever the page does (WCAG 2.2, 1.4.3, 1.4.11): %s', (css) => {
    const { look, changed } = readLook(PAGE, [css]);
    for (const { has, needs } of contrastsOf(look.colours)) expect(has).toBeGreaterThanOrEqual(needs);
    expect(changed.length > 0).toBe(css !== '');
  });
  it('names its style sheets in their order, by whole addresses', () =>
    expect(
      sheetsOf(
        '<link rel="stylesheet" href="/a.css"><style>b{}</style><link rel="icon" href="i.png"><link rel="preload stylesheet" href="c.css">',
        'https://hill.example/blog/',
      ),
    ).toEqual([{ url: 'https://hill.example/a.css' }, { css: 'b{}' }, { url: 'https://hill.example/blog/c.css' }]));
});
