import { Hono } from 'hono';
import { html } from 'hono/html';
import { Faults } from '../faults.ts';
import { insideRoutes, type Inside } from '../inside.ts';

export interface BellbuoyState {
  /** The secret parts of the addresses that messages are sent to, and the room each rings in. */
  hooks: { secret: string; room: string }[];
  messages: { room: string; text: string; at: string }[];
  /** How many messages a room takes in a minute. */
  perMinute: number;
}

const LONGEST = 2000;

export const newState = (secret: string): BellbuoyState => ({
  hooks: [{ secret, room: 'front desk' }],
  messages: [],
  perMinute: 600,
});

/** Team messages: one address to send plain text to, and a limit. There is no asking what was said. */
export function bellbuoyApp(inside: Inside<BellbuoyState>): Hono {
  const faults = new Faults();
  const app = new Hono();
  app.route('/', faults.routes());
  app.route('/', insideRoutes(inside));
  app.use('/ring/*', faults.middleware());
  app.get('/ring/:secret', (c) => {
    const hook = inside.state.hooks.find(({ secret }) => secret === c.req.param('secret'));
    return hook ? c.text(`the ${hook.room} bell`) : c.text('no such bell', 404);
  });
  app.post('/ring/:secret', async (c) => {
    const hook = inside.state.hooks.find(({ secret }) => secret === c.req.param('secret'));
    if (!hook) return c.text('no such bell', 404);
    const text = await c.req.text();
    if (text.trim() === '') return c.text('say something', 400);
    if (text.length > LONGEST) return c.text(`at most ${LONGEST} characters`, 413);
    const minuteAgo = new Date(Date.now() - 60_000).toISOString();
    const lately = inside.state.messages.filter(({ room, at }) => room === hook.room && at > minuteAgo);
    const left = Math.max(0, inside.state.perMinute - lately.length - 1);
    const limits = { 'x-rate-limit-remaining': String(left), 'x-rate-limit-reset': '60' };
    if (lately.length >= inside.state.perMinute)
      return c.text('too much ringing', 429, { ...limits, 'retry-after': '2' });
    inside.state.messages.push({ room: hook.room, text, at: new Date().toISOString() });
    inside.changed();
    return c.text('rung', 200, limits);
  });
  app.get('/', (c) => c.html(messagesPage(inside.state)));
  return app;
}

const messagesPage = ({ messages }: BellbuoyState) =>
  html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>Bellbuoy: messages</title>
        <style>
          body {
            font:
              16px/1.5 system-ui,
              sans-serif;
            margin: 0;
            background: #10222e;
            color: #e8f0f3;
          }
          main {
            max-width: 44rem;
            margin: 0 auto;
            padding: 1rem 1.5rem;
          }
          li {
            list-style: none;
            border-left: 3px solid #e0a33a;
            padding: 0.1rem 0.8rem;
            margin: 0.8rem 0;
            white-space: pre-wrap;
          }
          small {
            color: #a9bcc6;
          }
          ul {
            padding: 0;
          }
        </style>
      </head>
      <body>
        <main>
          <h1>Bellbuoy: ${messages.length} messages</h1>
          <ul>
            ${[...messages]
              .reverse()
              .slice(0, 100)
              .map(
                ({ room, text, at }) =>
                  html`<li><small>${room}, ${at.slice(0, 16).replace('T', ' ')}</small><br />${text}</li>`,
              )}
          </ul>
        </main>
      </body>
    </html>`;
