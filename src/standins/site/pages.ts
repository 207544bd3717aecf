import { html, raw } from 'hono/html';

import type { Order } from './boxOffice.ts';
import { BOX, LEVELS, type Member } from './members.ts';

type Html = ReturnType<typeof html>;

const STYLE = `
:root{--night:#111a33;--dusk:#263a6b;--star:#ffd98a;--paper:#fbfaf6;--ink:#1c2233}
*{box-sizing:border-box}body{margin:0;font:17px/1.6 Georgia,'Times New Roman',serif;color:var(--ink);background:var(--paper)}
header{background:linear-gradient(var(--night),var(--dusk));color:#fff;padding:1.2rem 1.5rem}
header .wide{display:flex;flex-wrap:wrap;gap:.5rem 2rem;align-items:baseline;justify-content:space-between}
header a{color:#fff;text-decoration:none}header nav a{display:inline-block;padding:4px 0;margin-right:1.2rem;border-bottom:2px solid transparent}header nav a[aria-current]{border-color:var(--star)}
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
  ['/stories', 'Stories'],
  ['/visit', 'Your visit'],
  ['/sky-letter', 'Sky letter'],
  ['/join', 'Join us'],
] as const;

/** @param head what was pasted into the head of every page */
function sitePage(head: string, path: string, title: string, body: Html) {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>${title} · Pellam Ridge Observatory</title>
        <style>
          ${raw(STYLE)}
        </style>
        ${raw(head)}
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

export const home = (head: string) =>
  sitePage(
    head,
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

export const evenings = (head: string) =>
  sitePage(
    head,
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
      <p><a href="/book">Book your seats</a>, and bring a coat.</p>
      <p><a href="/sky-letter">The Sky letter</a> says in time which evenings will be worth the walk.</p>
    </main>`,
  );

/** @param form what the observatory pasted in the place of its form; empty before that */
export const skyLetter = (head: string, form: string) =>
  sitePage(
    head,
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

export const visit = (head: string) =>
  sitePage(
    head,
    '/visit',
    'Your visit',
    html`<main class="wide">
      <h1>Your visit</h1>
      <p>Four questions, and we know which evening and which chair are yours.</p>
      <div data-iwashi-form="visit-planner" style="min-height: 22rem"></div>
    </main>`,
  );

/** Where an evening is booked: what is known of it already comes in the address. */
export const book = (head: string, { evening, name, email }: Record<'evening' | 'name' | 'email', string>) =>
  sitePage(
    head,
    '/book',
    'Choose your seats',
    html`<main class="wide">
      <h1>Choose your seats</h1>
      <p>Row by the dome, row by the wall, or the bench with the blanket: we keep it until dusk.</p>
      ${/^\d{4}-\d\d-\d\d$/.test(evening) || evening === '' ? '' : html`<p>You asked for: ${evening}.</p>`}
      <form method="post" action="/book">
        <p>
          <label>Evening <input type="date" name="evening" required value="${evening}" /></label>
        </p>
        <p>
          <label>Name <input name="name" required autocomplete="name" value="${name}" /></label>
        </p>
        <p>
          <label
            >Phone <input type="tel" name="phone" required autocomplete="tel" placeholder="+44 1632 960 100"
          /></label>
          <small>By booking you agree that we call you about your evening.</small>
        </p>
        <p>
          <label
            >Email, if you have one <input type="email" name="email" autocomplete="email" value="${email}"
          /></label>
        </p>
        <p>
          <label>Tickets <input type="number" name="tickets" min="1" max="40" value="2" required /></label>
        </p>
        <p>
          <label><input type="checkbox" name="chart" value="yes" /> and a star chart</label>
        </p>
        <button>Book</button>
      </form>
    </main>`,
  );

/** After an evening was booked. */
export const booked = (head: string, number: number, { evening, name, tickets }: Order) =>
  sitePage(
    head,
    '/book',
    'Booked',
    html`<main class="wide">
      <h1>Booked</h1>
      <p>Order ${number}: ${tickets} for ${evening}, in the name of ${name}. The box office has it.</p>
    </main>`,
  );

export const thankYou = (head: string) =>
  sitePage(
    head,
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

const STORIES = [
  {
    slug: 'the-night-of-the-long-shadow',
    title: 'The night of the long shadow',
    text: 'When the Moon rose behind the dome, its shadow reached down to the reservoir, and everybody walked along it.',
  },
  {
    slug: 'a-comet-for-breakfast',
    title: 'A comet for breakfast',
    text: 'At five in the morning it stood over the ridge with a tail as long as a hand at arm’s length. The kettle was on.',
  },
  {
    slug: 'how-we-polished-the-mirror',
    title: 'How we polished the mirror',
    text: 'Eleven weeks, three people and a great deal of rouge. Then somebody breathed on it.',
  },
];

export const stories = (head: string) =>
  sitePage(
    head,
    '/stories',
    'Stories',
    html`<main class="wide">
      <h1>Stories</h1>
      <ul>
        ${STORIES.map(({ slug, title }) => html`<li><a href="/stories/${slug}">${title}</a></li>`)}
      </ul>
    </main>`,
  );

/** @returns null where there is no such story */
export function story(head: string, slug: string) {
  const found = STORIES.find((one) => one.slug === slug);
  if (!found) return null;
  const more = Array.from({ length: 8 }, (_, at) => html`<p>${found.text} ${at === 7 ? 'And so to bed.' : ''}</p>`);
  return sitePage(
    head,
    '/stories',
    found.title,
    html`<main class="wide">
      <article class="story">
        <h1>${found.title}</h1>
        ${more}
      </article>
    </main>`,
  );
}

/** A page without a style or a script of its own. */
export const strict = (head: string, form: string) =>
  html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <title>Strict · Pellam Ridge Observatory</title>
        ${raw(head)}
      </head>
      <body>
        <h1>Nothing gets in here</h1>
        ${raw(form)}
      </body>
    </html>`;

const LOUD = `*{color:#f0f!important;font:italic 40px cursive!important;text-transform:uppercase!important}
input,button,label,div{display:inline!important;border:9px dashed lime!important;background:yellow!important;width:90px!important;position:static!important;float:right!important}
form{display:none!important}dialog{display:none!important}.frame,.question{opacity:.1!important}`;

export const loud = (head: string, form: string) =>
  html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <title>Loud · Pellam Ridge Observatory</title>
        <style>
          ${raw(LOUD)}
        </style>
        ${raw(head)}
      </head>
      <body>
        <h1>Everything at once</h1>
        ${raw(form)}
      </body>
    </html>`;

const agreeBox = html`<p>
  <label><input type="checkbox" name="agree" value="yes" /> ${BOX}</label>
</p>`;

/** Where people register, and become members. @param done what they have just done; '' for nothing */
export const join = (head: string, done: string) =>
  sitePage(
    head,
    '/join',
    'Join us',
    html`<main class="wide">
      <h1>Join us</h1>
      ${done === '' ? '' : html`<p role="status">${done}</p>`}
      <form method="post" action="/join">
        <p>
          <label>First name <input name="given" required /></label>
        </p>
        <p>
          <label>Last name <input name="family" required /></label>
        </p>
        <p>
          <label>Email <input name="email" type="email" required /></label>
        </p>
        <p>
          <label
            >Membership
            <select name="level">
              <option value="">just register, for nothing</option>
              ${LEVELS.map((level) => html`<option value="${level}">${level}, a year</option>`)}
            </select></label
          >
        </p>
        ${agreeBox}
        <p>
          <label><input type="checkbox" name="test" value="yes" /> Pay with the trial card</label>
        </p>
        <button>Join</button>
      </form>
      <p><a href="/membership">Your membership</a></p>
    </main>`,
  );

/** Where members look after their membership. */
export const membershipPage = (head: string, member: Member | null, email: string) =>
  sitePage(
    head,
    '/join',
    'Your membership',
    html`<main class="wide">
      <h1>Your membership</h1>
      <form>
        <p>
          <label>Email <input name="email" type="email" value="${email}" /></label>
        </p>
        <button>Show it</button>
      </form>
      ${
        member === null
          ? email === ''
            ? ''
            : html`<p>Nobody is registered with this address.</p>`
          : html`<p>
                ${member.given} ${member.family}:
                ${member.level === '' ? 'registered, no member' : `${member.level} from ${member.begins} to ${member.ends}`}.
                The letter: ${member.agrees.says ?? 'not asked'}.
              </p>
              <form method="post" action="/membership?email=${encodeURIComponent(member.email)}">
                <p>
                  <button name="act" value="renew">Renew for a year</button>
                  ${LEVELS.map((level) => html`<button name="act" value="${level}">Become a ${level}</button> `)}
                </p>
                <p>
                  <button name="act" value="end">End it</button>
                  <button name="act" value="${member.agrees.says === 'yes' ? 'no' : 'yes'}">
                    ${member.agrees.says === 'yes' ? 'Stop the letter' : 'Start the letter'}
                  </button>
                </p>
              </form>`
      }
    </main>`,
  );
