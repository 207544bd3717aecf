import { html } from 'hono/html';
import type { RowbarnState } from './state.ts';

type Part = ReturnType<typeof html>;

/** The frame of Rowbarn's pages. */
export const page = (title: string, body: Part) =>
  html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>Rowbarn: ${title}</title>
        <style>
          body {
            font:
              15px/1.5 Verdana,
              sans-serif;
            margin: 0;
            background: #fff;
            color: #22252b;
          }
          header {
            border-bottom: 4px solid #b0561c;
            padding: 0.7rem 1.5rem;
          }
          main {
            padding: 1rem 1.5rem;
            overflow-x: auto;
          }
          table {
            border-collapse: collapse;
            margin-bottom: 2rem;
          }
          th,
          td {
            border: 1px solid #bbb;
            padding: 0.25rem 0.6rem;
            text-align: left;
          }
          th {
            background: #f6ede6;
          }
          button,
          input {
            font: inherit;
            padding: 0.3rem 0.8rem;
          }
          dt {
            color: #555;
          }
        </style>
      </head>
      <body>
        <header><a href="/">Rowbarn</a> · <a href="/apps">applications</a></header>
        <main>${body}</main>
      </body>
    </html>`;

export const sheetsPage = (state: RowbarnState) =>
  page(
    'sheets',
    html`<p>${state.person.workspace}</p>
      ${state.sheets.map(
        ({ title, columns, rows }) =>
          html`<h1>${title} <small>(${rows.length} rows)</small></h1>
            <table>
              <thead>
                <tr>
                  <th>#</th>
                  ${columns.map(({ heading }) => html`<th>${heading}</th>`)}
                </tr>
              </thead>
              <tbody>
                ${[...rows]
                  .reverse()
                  .slice(0, 100)
                  .map(
                    ({ number, cells }) =>
                      html`<tr>
                        <td>${number}</td>
                        ${columns.map(({ heading }) => html`<td>${cells[heading] ?? ''}</td>`)}
                      </tr>`,
                  )}
              </tbody>
            </table>`,
      )}`,
  );

export const appsPage = (state: RowbarnState, made: { id: string; secret: string } | null) =>
  page(
    'applications',
    html`<h1>Applications</h1>
      ${
        made
          ? html`<p role="status">Made. Copy the secret now; it is shown once.</p>
              <dl>
                <dt>Client id</dt>
                <dd><code>${made.id}</code></dd>
                <dt>Client secret</dt>
                <dd><code>${made.secret}</code></dd>
              </dl>`
          : ''
      }
      <ul>
        ${state.apps.map(({ name, id, returnUrl }) => html`<li>${name}: <code>${id}</code>, returns to ${returnUrl}</li>`)}
      </ul>
      <h2>Register one</h2>
      <form method="post" action="/apps">
        <p>
          <label>Name <input name="name" required /></label>
        </p>
        <p>
          <label>Return address <input name="returnUrl" size="60" required /></label>
        </p>
        <button>Register</button>
      </form>`,
  );
