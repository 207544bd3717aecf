import { html } from 'hono/html';
import type { CapstanState } from './state.ts';

/** A plain page to see the records of each kind. */
export function recordsPage(state: CapstanState) {
  const segments = new Map(state.segments.map(({ code, title }) => [code, title]));
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>Capstan: records</title>
        <style>
          body {
            font:
              15px/1.45 'Trebuchet MS',
              sans-serif;
            margin: 0;
            background: #eef2ee;
            color: #1c2a20;
          }
          header {
            background: #23422d;
            color: #fff;
            padding: 0.7rem 1.5rem;
          }
          main {
            padding: 1rem 1.5rem;
            overflow-x: auto;
          }
          table {
            border-collapse: collapse;
            background: #fff;
            width: 100%;
            margin-bottom: 2rem;
          }
          th,
          td {
            text-align: left;
            padding: 0.35rem 0.7rem;
            border: 1px solid #c9d5cb;
            vertical-align: top;
          }
        </style>
      </head>
      <body>
        <header><strong>Capstan</strong> · ${state.office.title}</header>
        <main>
          ${state.kinds.map((kind) => {
            const records = state.records.filter((record) => record.kind === kind.slug);
            return html`<h1>${kind.title} <small>(${records.length})</small></h1>
              <table>
                <thead>
                  <tr>
                    ${kind.columns.map(({ title, must }) => html`<th>${title}${must ? ' *' : ''}</th>`)}
                    <th>Segments</th>
                    <th>Made</th>
                  </tr>
                </thead>
                <tbody>
                  ${[...records]
                    .reverse()
                    .slice(0, 100)
                    .map(
                      (record) =>
                        html`<tr>
                          ${kind.columns.map(({ code }) => html`<td>${record.cells[code] ?? ''}</td>`)}
                          <td>${record.segments.map((code) => segments.get(code)).join(', ')}</td>
                          <td>${record.made.slice(0, 16).replace('T', ' ')}</td>
                        </tr>`,
                    )}
                </tbody>
              </table>`;
          })}
          <p>* must be filled</p>
        </main>
      </body>
    </html>`;
}
