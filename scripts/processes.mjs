// Child processes: everything that is started here is ended here, newest first.
import { spawn } from 'node:child_process';
import cluster from 'node:cluster';
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

/** So often a part is started again within a minute before it is given up. */
const MOST_RESTARTS = 5;
const RESTARTS_WITHIN_MS = 60_000;
/** Before the first of those; twice as long before each further one. */
const RESTART_REST_MS = 500;

/** Every part that is running and is told what becomes of the others. */
const kept = new Set();

/**
 * Starts a long-running Node process of ours. It gets an IPC channel, on which it says `{ ready }`
 * once, and whose closing tells it that this command is gone.
 * @param restart whether it is started again when it ends, and replaced when it says that it has to be: then the address it
 *   listens at is shared by the old and the new one (a cluster of one), so that nobody finds it closed
 * @returns the child and what it said when it became ready
 */
export async function startNode(name, file, args, env, { restart = false } = {}) {
  let wanted = true;
  let starts = [];
  let child = launch();
  const ready = await firstWord(child, name);
  onStop(() => endProcess(child));
  return { ready, pid: () => child.pid, again };

  function launch() {
    starts.push(Date.now());
    const started = restart ? inCluster() : alone();
    started.once('exit', (code, signal) => {
      kept.delete(started);
      if (isStopping() || !wanted || started !== child) return;
      const how = signal ?? `exit ${code}`;
      console.error(`iwashi: ${name} ended (${how})${restart ? '; starting it again' : ''}`);
      if (restart) void startAgain(how);
    });
    if (restart) {
      kept.add(started);
      started.on('message', (message) => message?.replace && started === child && void replace(message.replace));
    }
    return started;
  }

  // Its own session, so that Ctrl-C reaches this command only and the order of ending is ours.
  function alone() {
    return spawn(process.execPath, ['--enable-source-maps', file, ...args], {
      env: { ...process.env, ...env },
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      detached: true,
    });
  }

  function inCluster() {
    cluster.schedulingPolicy = cluster.SCHED_NONE;
    cluster.setupPrimary({ exec: file, args, execArgv: ['--enable-source-maps'] });
    return cluster.fork(env).process;
  }

  /** Whether it may be started once more; where it does not stay up, that is said, and nothing is started. */
  function mayStart(cause) {
    starts = starts.filter((at) => at > Date.now() - RESTARTS_WITHIN_MS);
    if (starts.length <= MOST_RESTARTS) return true;
    const why = `it ended ${starts.length} times within a minute, last with: ${cause}`;
    console.error(`iwashi: ${name} does not stay up and is not started again: ${why}`);
    // One whose end is under way hears nothing any more.
    for (const other of kept)
      if (other !== child && other.connected) other.send({ givenUp: { role: name, cause: why } });
    // Nobody is left who could say it to anybody else.
    if ([...kept].every((other) => other === child)) void stopAll().then(() => process.exit(1));
    return false;
  }

  async function startAgain(cause) {
    if (!mayStart(cause)) return;
    const rest = RESTART_REST_MS * 2 ** (starts.length - 1);
    await new Promise((resolve) => setTimeout(resolve, rest));
    if (!isStopping()) child = launch();
  }

  /** Starts another beside it, which has taken over before the old one is told to end what is under way. */
  async function replace(cause) {
    console.error(`iwashi: ${name} has to be replaced (${cause})`);
    const old = child;
    if (!mayStart(cause)) {
      old.kill('SIGTERM');
      return;
    }
    const next = launch();
    child = next;
    // One that never became ready took nothing over: it is started again as whatever ends, and meanwhile the old one answers.
    await firstWord(next, name).then(
      () => old.kill('SIGTERM'),
      (error) => console.error(`iwashi: ${error.message}`),
    );
  }

  /** Ends it without ceremony, which it is made to stand, and starts it anew as it was built meanwhile. Resolves once it is ready. */
  async function again() {
    wanted = false;
    await endProcess(child, 50);
    wanted = true;
    starts = [];
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
    // A cluster has words of its own.
    const hear = (message) => message?.ready && (child.off('message', hear), resolve(message));
    child.on('message', hear);
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
