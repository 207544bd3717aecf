// Child processes: everything that is started here is ended here, newest first.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { constants, setPriority } from 'node:os';

const GRACE_MS = 12_000;
const stoppers = [];
let stopping = null;

/** Registers something to end when this command ends. */
export function onStop(stop) {
  stoppers.push(stop);
}

/** Ends everything that was started, newest first. Safe to call more than once. */
export function stopAll() {
  stopping ??= (async () => {
    while (stoppers.length > 0)
      await stoppers
        .pop()()
        .catch(() => {});
  })();
  return stopping;
}

export const isStopping = () => stopping !== null;

/** Ends everything on Ctrl-C, on a polite kill and when the terminal goes away. */
export function stopAllOnExit() {
  for (const [signal, code] of [
    ['SIGINT', 130],
    ['SIGTERM', 143],
    ['SIGHUP', 129],
  ]) {
    process.once(signal, () => void stopAll().then(() => process.exit(code)));
  }
}

/** Sends SIGTERM, waits, then SIGKILL. */
export async function endProcess(child, graceMs = GRACE_MS) {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = once(child, 'exit');
  child.kill('SIGTERM');
  const timer = setTimeout(() => child.kill('SIGKILL'), graceMs);
  await gone;
  clearTimeout(timer);
}

/**
 * Starts a long-running Node process of ours. It gets an IPC channel, on which it says `{ ready }`
 * once, and whose closing tells it that this command is gone.
 * @returns the child and what it said when it became ready
 */
export async function startNode(name, file, args, env, { restart = false } = {}) {
  let wanted = true;
  let child = launch();
  const ready = await firstWord(child, name);
  onStop(() => endProcess(child));
  return { ready, pid: () => child.pid, again };

  function launch() {
    // Its own session, so that Ctrl-C reaches this command only and the order of ending is ours.
    const started = spawn(process.execPath, ['--enable-source-maps', file, ...args], {
      env: { ...process.env, ...env },
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      detached: true,
    });
    started.once('exit', (code, signal) => {
      if (isStopping() || !wanted) return;
      console.error(`iwashi: ${name} ended (${signal ?? `exit ${code}`})${restart ? '; starting it again' : ''}`);
      if (restart) setTimeout(() => !isStopping() && (child = launch()), 1000);
    });
    return started;
  }

  /** Ends it without ceremony, which it is made to stand, and starts it anew as it was built meanwhile. Resolves once it is ready. */
  async function again() {
    wanted = false;
    await endProcess(child, 50);
    wanted = true;
    child = launch();
    await firstWord(child, name).catch((error) => console.error(`iwashi: ${error.message}`));
  }
}

/**
 * Runs a command to its end, and keeps what it prints unless it is shown as it comes.
 * @param stepsBack whether others come first to the processors
 * @returns the code with which it ended, and what it printed
 */
export async function runAside(command, args, { shown = false, stepsBack = false, ...options }) {
  const print = shown ? 'inherit' : 'pipe';
  const child = spawn(command, args, { ...options, stdio: ['ignore', print, print] });
  onStop(() => endProcess(child));
  if (stepsBack) stepBack(child.pid);
  const output = [];
  child.stdout?.on('data', (part) => output.push(part));
  child.stderr?.on('data', (part) => output.push(part));
  const [code] = await once(child, 'close');
  return { code, output: Buffer.concat(output).toString() };
}

/** Lets others come first to the processors, where the system allows to say so. */
function stepBack(pid) {
  try {
    setPriority(pid, constants.priority.PRIORITY_LOW);
  } catch {
    // It is over already, or nothing may be said here: it runs as everything else.
  }
}

function firstWord(child, name) {
  return new Promise((resolve, reject) => {
    child.once('message', resolve);
    child.once('exit', (code) => reject(new Error(`${name} ended before it was ready (exit ${code})`)));
  });
}

/** Runs a command to its end; rejects when it fails. */
export async function runToEnd(command, args, options = {}) {
  const child = spawn(command, args, { stdio: 'inherit', ...options });
  onStop(() => endProcess(child));
  const [code, signal] = await once(child, 'exit');
  if (code !== 0) throw new Error(`${command} ${args[0] ?? ''} failed (${signal ?? `exit ${code}`})`);
}
