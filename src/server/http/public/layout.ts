import { html, raw } from 'hono/html';

type Html = ReturnType<typeof html>;

/** A public page: neutral, readable without script, of the customer rather than of ours. */
export function page(title: string, body: Html, nonce = '') {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="robots" content="noindex" />
        <title>${title}</title>
        <style nonce="${nonce}">
          ${raw(STYLE)}
        </style>
      </head>
      <body>
        <main>${body}</main>
      </body>
    </html>`;
}

const STYLE = `
:root { color-scheme: light dark; --ink: #1d2529; --quiet: #4c585e; --ground: #ffffff; --line: #77848b; --action: #21525b; --on-action: #ffffff; --wrong: #a11b1b; }
@media (prefers-color-scheme: dark) { :root { --ink: #e8edef; --quiet: #b0bbc0; --ground: #14191c; --line: #7d8b92; --action: #9fd3dc; --on-action: #0c2226; --wrong: #ffa4a4; } }
* { box-sizing: border-box; }
body { margin: 0; font: 1rem/1.5 system-ui, sans-serif; color: var(--ink); background: var(--ground); }
main { max-width: 34rem; margin: 0 auto; padding: 2.5rem 1.25rem 4rem; }
h1 { font-size: 1.5rem; line-height: 1.25; margin: 0 0 1rem; }
p { margin: 0 0 1rem; }
.field { margin: 0 0 1.25rem; border: 0; padding: 0; }
label, legend { display: block; font-weight: 600; margin: 0 0 .3rem; padding: 0; }
.tick label, fieldset label { display: flex; gap: .6rem; align-items: baseline; font-weight: 400; padding: .3rem 0; }
input:not([type=checkbox], [type=radio]), select, textarea { width: 100%; font: inherit; padding: .6rem .7rem; color: inherit; background: var(--ground); border: 1px solid var(--line); border-radius: 4px; }
.part { margin: .4rem 0 .6rem; } .part label { font-weight: 400; }
input[type=checkbox] { width: 1.1rem; height: 1.1rem; flex: none; transform: translateY(.15rem); }
[aria-invalid=true] { border: 2px solid var(--wrong) !important; }
.wrong { color: var(--wrong); margin: .35rem 0 0; font-weight: 600; }
.help { color: var(--quiet); margin: .35rem 0 0; font-size: .9rem; }
.summary { border-left: 4px solid var(--wrong); padding: .2rem 0 .2rem 1rem; margin: 0 0 1.5rem; }
.summary ul { margin: .3rem 0 0; padding-left: 1.1rem; }
button { font: inherit; font-weight: 600; padding: .7rem 1.4rem; min-height: 44px; border: 0; border-radius: 4px; background: var(--action); color: var(--on-action); cursor: pointer; }
button[type=reset] { background: none; color: var(--action); text-decoration: underline; }
a { color: var(--action); }
:focus-visible { outline: 3px solid var(--action); outline-offset: 2px; }
.away { position: absolute; left: -6000px; }
`;
