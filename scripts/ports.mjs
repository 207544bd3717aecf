import { createServer } from 'node:net';

function isFree(port, host) {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen({ port, host, exclusive: true }, () => probe.close(() => resolve(true)));
  });
}

/** Ports that browsers block, above those that only root may use (WHATWG Fetch, 2.9, from memory). */
const BLOCKED = new Set([
  1719, 1720, 1723, 2049, 3659, 4045, 4190, 5060, 5061, 6000, 6566, 6665, 6666, 6667, 6668, 6669, 6679, 6697, 10080,
]);

/** The first free loopback port from `wanted` upwards that is not in `taken`. */
export async function freePort(wanted, taken = new Set()) {
  for (let port = wanted; port < wanted + 500; port += 1) {
    if (!BLOCKED.has(port) && !taken.has(port) && (await isFree(port, '127.0.0.1'))) {
      taken.add(port);
      return port;
    }
  }
  throw new Error(`no free port from ${wanted} on`);
}
