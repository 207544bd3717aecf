import { html } from 'hono/html';
import type { TernPostState } from './state.ts';

/** A plain page to see who is in, and to play the part of somebody who leaves. */
export function membersPage(state: TernPostState, wanted: string) {
  const lists = new Map(state.lists.map(({ id, name }) => [id, name]));
  const groups = new Map(state.lists.flatMap((list) => list.groups).map(({ id, name }) => [id, name]));
  const members = state.members
    .filter((member) =>
      `${member.email} ${Object.values(member.fields).join(' ')}`.toLowerCase().includes(wanted.toLowerCase()),
    )
    .sort((a, b) => b.joinedAt.localeCompare(a.joinedAt));
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>Tern Post: members</title>
        <style>
          body {
            font:
              15px/1.5 Georgia,
              serif;
            margin: 0;
            color: #222;
            background: #fdf9f0;
          }
          header {
            background: #6b2f1d;
            color: #fff;
            padding: 0.8rem 1.5rem;
          }
          main {
            padding: 1rem 1.5rem;
            overflow-x: auto;
          }
          table {
            border-collapse: collapse;
            width: 100%;
          }
          th,
          td {
            text-align: left;
            padding: 0.4rem 0.8rem;
            border-bottom: 1px solid #d8cbb6;
            vertical-align: top;
          }
          small {
            color: #5f5648;
          }
          input,
          button {
            font: inherit;
            padding: 0.2rem 0.5rem;
          }
        </style>
      </head>
      <body>
        <header><strong>Tern Post</strong> · ${state.account.name}</header>
        <main>
          <p>
            ${state.lists.map(
              ({ id, name, asks }) =>
                html`<form method="post" action="/lists/${id}/asks">
                  ${name}: ${asks ? 'new people are asked by mail to confirm' : 'new people are in at once'}
                  <button>${asks ? 'Ask nobody' : 'Ask them'}</button>
                </form>`,
            )}
          </p>
          <h1>${members.length} members</h1>
          <form>
            <label>Find <input name="find" value="${wanted}" /></label> <button>Find</button>
          </form>
          <table>
            <thead>
              <tr>
                <th>Address</th>
                <th>State</th>
                <th>Lists and groups</th>
                <th>Tags</th>
                <th>Fields</th>
                <th>Joined</th>
                <th></th>
              </tr>
            </thead>
            <tbody>
              ${members.slice(0, 200).map(
                (member) =>
                  html`<tr>
                    <td>${member.email}</td>
                    <td>${member.state}</td>
                    <td>
                      ${[...member.lists.map((id) => lists.get(id)), ...member.groups.map((id) => groups.get(id))].join(', ')}
                    </td>
                    <td>${member.tags.join(', ')}</td>
                    <td>
                      ${Object.entries(member.fields).map(([key, value]) => html`<small>${key}</small> ${String(value)}<br />`)}
                    </td>
                    <td>${member.joinedAt.slice(0, 16).replace('T', ' ')}</td>
                    <td>
                      ${
                        member.state === 'asked'
                          ? html`<form method="post" action="/members/${member.id}/confirm">
                              <button>Confirms</button>
                            </form>`
                          : ''
                      }
                      ${
                        member.state === 'active'
                          ? html`<form method="post" action="/members/${member.id}/leave">
                                <button>Unsubscribe</button>
                              </form>
                              <form method="post" action="/members/${member.id}/bounce">
                                <button>Mail bounces</button>
                              </form>`
                          : ''
                      }
                    </td>
                  </tr>`,
              )}
            </tbody>
          </table>
        </main>
      </body>
    </html>`;
}
