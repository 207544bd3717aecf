import { createServer } from 'node:net';

function isFree(port, host) {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen({ port, host, exclusive: true }, () => probe.close(() => resolve(true)));
  });
}

/** The first free loopback port from `wanted` upwards that is not in `taken`. */
export async function freePort(wanted, taken = new Set()) {
  for (let port = wanted; port < wanted + 500; port += 1) {
    if (!taken.has(port) && (await isFree(port, '127.0.0.1'))) {
      taken.add(port);
      return port;
    }
  }
  throw new Error(`no free port from ${wanted} on`);
}
