// The demo: everything on this machine, with stand-ins for the outside services and the invented observatory's data.
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { removeDatabase, startDatabase } from './database.mjs';
import { dataDir, dist, ExpectedError, root } from './paths.mjs';
import { freePort } from './ports.mjs';
import { onStop, runToEnd, startNode } from './processes.mjs';
import { ownSecretKey } from './start.mjs';

export async function run(args) {
  const { port: wanted, fresh } = readArgs(args);
  const folder = path.join(dataDir, 'demo');
  if (fresh) await removeDatabase(folder);
  if (fresh) rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  renameOldFiles(folder);
  const demo = await startDemo(folder, wanted);
  const file = path.join(dataDir, 'endpoints.json');
  writeFileSync(file, JSON.stringify(demo.endpoints, null, 2), { mode: 0o600 });
  onStop(async () => rmSync(file, { force: true }));
  console.log(table(demo.endpoints, demo.moved));
}

/**
 * Starts every part.
 * @param isOne server and worker in one process, which is sooner started again
 * @returns where each can be reached, and which ports were taken
 */
export async function startDemo(folder, wantedPort, { isOne = false } = {}) {
  const taken = new Set();
  const moved = [];
  const ports = {};
  for (const [index, name] of [
    'app',
    'site',
    'mailbox',
    'smtp',
    'tern-post',
    'capstan',
    'rowbarn',
    'bellbuoy',
    'fennel-fox',
  ].entries()) {
    ports[name] = await freePort(wantedPort + index, taken);
    if (ports[name] !== wantedPort + index)
      moved.push(`${name}: port ${wantedPort + index} is busy, or blocked by browsers, so it is at ${ports[name]}`);
  }
  const url = (name) => `http://127.0.0.1:${ports[name]}`;
  const standins = {
    'tern-post': { url: url('tern-post'), apiKey: secretIn(folder, 'tern-post-key', 'tern-') },
    capstan: {
      url: url('capstan'),
      key: secretIn(folder, 'capstan-key', 'cap-'),
      secret: secretIn(folder, 'capstan-secret'),
    },
    rowbarn: { url: url('rowbarn'), clientId: 'app-iwashi', clientSecret: secretIn(folder, 'rowbarn-secret') },
    bellbuoy: { url: `${url('bellbuoy')}/ring/${secretIn(folder, 'bellbuoy-hook')}` },
    'fennel-fox': { url: url('fennel-fox'), token: secretIn(folder, 'fennel-fox-token', 'fox-') },
    mail: { url: `smtp://127.0.0.1:${ports.smtp}` },
  };
  const signIn = { email: 'operator@pellam-ridge.example', password: secretIn(folder, 'demo-password') };
  const state = (name) => ({ STATE_FILE: path.join(folder, `${name}.json`) });
  const standin = (name, port, more = {}) =>
    startNode(name, path.join(dist, `standins/${name}.js`), [], { PORT: String(port), ...state(name), ...more });

  const [database] = await Promise.all([
    startDatabase(folder),
    standin('tern-post', ports['tern-post'], { TERN_POST_KEY: standins['tern-post'].apiKey }),
    standin('capstan', ports.capstan, { CAPSTAN_KEY: standins.capstan.key, CAPSTAN_SECRET: standins.capstan.secret }),
    standin('rowbarn', ports.rowbarn, {
      ROWBARN_ID: standins.rowbarn.clientId,
      ROWBARN_SECRET: standins.rowbarn.clientSecret,
      ROWBARN_RETURN: `${url('app')}/api/connections/granted`,
    }),
    standin('bellbuoy', ports.bellbuoy, { BELLBUOY_HOOK: standins.bellbuoy.url.split('/ring/')[1] }),
    standin('fennel-fox', ports['fennel-fox'], { FENNEL_FOX_TOKEN: standins['fennel-fox'].token }),
    standin('letterloft', ports.mailbox, { SMTP_PORT: String(ports.smtp) }),
    standin('site', ports.site),
  ]);
  const env = {
    DATABASE_URL: database.url,
    IWASHI_DATABASE_FOLDER: database.folder,
    IWASHI_SECRET_KEY: ownSecretKey(folder),
    IWASHI_ROOT: root,
    IWASHI_PUBLIC_URL: url('app'),
    PORT: String(ports.app),
    HOST: '127.0.0.1',
    SMTP_URL: `smtp://127.0.0.1:${ports.smtp}`,
    MAIL_FROM: 'Pellam Ridge Observatory <letter@pellam-ridge.example>',
    IWASHI_ALLOW_PRIVATE_ADDRESSES: '1',
    IWASHI_DEMO_EMAIL: signIn.email,
    IWASHI_DEMO_PASSWORD: signIn.password,
    IWASHI_DEMO_STANDINS: JSON.stringify(standins),
    IWASHI_DATA: folder,
    IWASHI_DEMO_SITE: url('site'),
  };
  if (!existsSync(path.join(folder, 'made')))
    console.log("Making the demo data (some weeks of an observatory's sign-ups)");
  await runToEnd(process.execPath, ['--enable-source-maps', path.join(dist, 'server/demo.js')], {
    env: { ...process.env, ...env },
  });
  writeFileSync(path.join(folder, 'made'), '');
  const main = path.join(dist, 'server/main.js');
  const worker = isOne ? null : await startNode('work', main, ['work'], env, { restart: true });
  const roles = isOne ? ['serve', 'work'] : ['serve'];
  const server = await startNode('serve', main, roles, env, { restart: true });
  const endpoints = {
    app: url('app'),
    site: url('site'),
    mailbox: url('mailbox'),
    standins,
    signIn,
  };
  return { endpoints, moved, worker, server, env };
}

/** The stand-in for sheets had another name once; a folder made then goes on working. */
function renameOldFiles(folder) {
  for (const ending of ['-secret', '.json']) {
    const old = path.join(folder, `tallyrow${ending}`);
    if (existsSync(old)) renameSync(old, path.join(folder, `rowbarn${ending}`));
  }
}

function readArgs(args) {
  try {
    const { values } = parseArgs({
      args,
      options: { port: { type: 'string', default: '4680' }, fresh: { type: 'boolean', default: false } },
    });
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 1 || port > 65_000)
      throw new Error(`--port takes a number from 1 to 65000, and "${values.port}" is none`);
    return { port, fresh: values.fresh };
  } catch (error) {
    throw new ExpectedError(`${error.message}\nUsage: ./iwashi demo [--port N] [--fresh]`);
  }
}

function secretIn(folder, name, prefix = '') {
  const file = path.join(folder, name);
  if (!existsSync(file)) writeFileSync(file, prefix + randomBytes(12).toString('hex'), { mode: 0o600 });
  return readFileSync(file, 'utf8').trim();
}

function table({ app, site, mailbox, standins, signIn }, moved) {
  const rows = [
    ['Iwashi', app, 'sign in is filled in for you'],
    ["The observatory's site", `${site}/sky-letter`, 'sign up here as a visitor'],
    ['Letterloft, the mailbox', mailbox, 'read the confirmation here'],
    ['Tern Post, the mailing list', standins['tern-post'].url, 'see who arrived here'],
    ['Capstan, the front office', standins.capstan.url, 'and which school asked'],
    ['Rowbarn, the sheets', standins.rowbarn.url, 'a row for each sign-up'],
    ['Fennel & Fox, the shop', standins['fennel-fox'].url, 'buy something, or stop its mails'],
    ['Bellbuoy, team messages', new URL(standins.bellbuoy.url).origin, 'a message for each school'],
  ];
  const width = (column) => Math.max(...rows.map((row) => row[column].length));
  const lines = rows.map((row) => `  ${row[0].padEnd(width(0))}  ${row[1].padEnd(width(1))}  ${row[2]}`);
  return [
    '',
    ...lines,
    '',
    `  Sign in:        ${signIn.email} / ${signIn.password}`,
    `  Keys, secrets:  in ${path.join(dataDir, 'endpoints.json')}, to connect by yourself`,
    ...moved.map((text) => `  (${text})`),
    '',
    '  Ctrl-C ends all of it.',
    '',
  ].join('\n');
}
