import { html, raw } from 'hono/html';

type Html = ReturnType<typeof html>;

const STYLE = `
:root{--night:#111a33;--dusk:#263a6b;--star:#ffd98a;--paper:#fbfaf6;--ink:#1c2233}
*{box-sizing:border-box}body{margin:0;font:17px/1.6 Georgia,'Times New Roman',serif;color:var(--ink);background:var(--paper)}
header{background:linear-gradient(var(--night),var(--dusk));color:#fff;padding:1.2rem 1.5rem}
header .wide{display:flex;flex-wrap:wrap;gap:.5rem 2rem;align-items:baseline;justify-content:space-between}
header a{color:#fff;text-decoration:none}header nav a{margin-right:1.2rem;border-bottom:2px solid transparent}header nav a[aria-current]{border-color:var(--star)}
.wide{max-width:64rem;margin:0 auto}main{padding:2rem 1.5rem 4rem}h1{font-size:2.1rem;line-height:1.2}h2{font-size:1.35rem;margin-top:2rem}
.hero{background:var(--night);color:#e9ecf7;padding:3rem 1.5rem;background-image:radial-gradient(#fff 1px,transparent 1.5px),radial-gradient(#ffd98a 1px,transparent 1.5px);background-size:97px 83px,151px 131px;background-position:0 0,40px 60px}
.hero h1{margin:0 0 .5rem}.columns{display:grid;grid-template-columns:repeat(auto-fit,minmax(15rem,1fr));gap:1.5rem}.card{background:#fff;border:1px solid #d9d5c8;padding:1.2rem;border-radius:6px}
table{border-collapse:collapse;width:100%}td,th{text-align:left;padding:.5rem .6rem;border-bottom:1px solid #d9d5c8}
form{background:#fff;border:1px solid #d9d5c8;border-radius:6px;padding:1.5rem;max-width:32rem}form p{margin:0 0 1rem}form input:not([type=checkbox]),form select,form textarea{width:100%;font:inherit;padding:.5rem;border:1px solid #7d7a70;border-radius:4px}
form fieldset{border:0;padding:0;margin:0 0 1rem}form legend{padding:0}form small{color:#55524a}form button{font:inherit;font-weight:bold;background:var(--dusk);color:#fff;border:0;border-radius:4px;padding:.7rem 1.5rem;cursor:pointer}
footer{border-top:1px solid #d9d5c8;padding:1.2rem 1.5rem;color:#55524a;font-size:.9rem}`;

const LINKS = [
  ['/', 'Home'],
  ['/evenings', 'Stargazing evenings'],
  ['/sky-letter', 'Sky letter'],
] as const;

function sitePage(path: string, title: string, body: Html) {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>${title} · Pellam Ridge Observatory</title>
        <style>
          ${raw(STYLE)}
        </style>
      </head>
      <body>
        <header>
          <div class="wide">
            <a href="/"><strong>Pellam Ridge Observatory</strong></a>
            <nav aria-label="Pages">
              ${LINKS.map(([href, label]) => html`<a href="${href}" ${raw(href === path ? 'aria-current="page"' : '')}>${label}</a>`)}
            </nav>
          </div>
        </header>
        ${body}
        <footer>
          <div class="wide">Pellam Ridge Observatory, up the hill road past the reservoir. An invented place.</div>
        </footer>
      </body>
    </html>`;
}

export const home = () =>
  sitePage(
    '/',
    'Welcome',
    html`<div class="hero">
        <div class="wide">
          <h1>The sky is open on Friday</h1>
          <p>A public observatory with a 50 cm telescope, a warm kitchen and people who like questions.</p>
        </div>
      </div>
      <main class="wide">
        <div class="columns">
          <section class="card">
            <h2>Stargazing evenings</h2>
            <p>Every clear Friday from dusk. No booking, no telescope needed.</p>
            <a href="/evenings">What is on</a>
          </section>
          <section class="card">
            <h2>The Sky letter</h2>
            <p>Once a month: what to see, when to come, and one good story.</p>
            <a href="/sky-letter">Sign up</a>
          </section>
          <section class="card">
            <h2>School visits</h2>
            <p>Classes are welcome on weekday mornings. We bring the Sun to the desk.</p>
          </section>
        </div>
      </main>`,
  );

export const evenings = () =>
  sitePage(
    '/evenings',
    'Stargazing evenings',
    html`<main class="wide">
      <h1>Stargazing evenings</h1>
      <p>We open at dusk when the sky is clear, and put the kettle on when it is not.</p>
      <table>
        <thead>
          <tr>
            <th>Evening</th>
            <th>What we look at</th>
            <th>Who tells</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <td>First Friday</td>
            <td>The Moon, crater by crater</td>
            <td>Wren Ashdown</td>
          </tr>
          <tr>
            <td>Second Friday</td>
            <td>Double stars and their colours</td>
            <td>Idris Vale</td>
          </tr>
          <tr>
            <td>Third Friday</td>
            <td>Faint things far away</td>
            <td>Wren Ashdown</td>
          </tr>
          <tr>
            <td>Last Friday</td>
            <td>Bring your own telescope</td>
            <td>Everybody</td>
          </tr>
        </tbody>
      </table>
      <p><a href="/sky-letter">The Sky letter</a> says in time which evenings will be worth the walk.</p>
    </main>`,
  );

/** @param form the HTML that the observatory copied from its form source; empty before it is placed */
export const skyLetter = (form: string) =>
  sitePage(
    '/sky-letter',
    'Sky letter',
    html`<main class="wide">
      <h1>The Sky letter</h1>
      <p>
        Once a month, in plain words: what is up, which evenings to come, and one good story. Leave whenever you like.
      </p>
      ${form === '' ? html`<p><em>The form is not placed yet.</em></p>` : raw(form)}
    </main>`,
  );

export const thankYou = () =>
  sitePage(
    '/thank-you',
    'Thank you',
    html`<main class="wide">
      <h1>Thank you</h1>
      <p>
        One more step: we have sent you a mail. Please open it and confirm your address, so that nobody can sign you up
        but you.
      </p>
      <p><a href="/evenings">Meanwhile: what is on this month</a></p>
    </main>`,
  );
