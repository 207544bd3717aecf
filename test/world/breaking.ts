import { connect, createServer, type AddressInfo, type Server, type Socket } from 'node:net';

/** When a statement breaks its connection: before the database has it, or once it was carried out and nobody hears of it. */
export type Break = 'before' | 'after' | null;

/** Stands between a program and its database, and breaks connections as a test says. */
export class Breaking {
  readonly #server: Server;
  readonly url: string;
  /** Asked at each statement. */
  at: (statement: string) => Break = () => null;

  private constructor(server: Server, database: string) {
    this.#server = server;
    const url = new URL(database);
    url.port = String((server.address() as AddressInfo).port);
    this.url = url.href;
  }

  static async before(database: string): Promise<Breaking> {
    const { port } = new URL(database);
    const server = createServer((near) => pass(near, Number(port)));
    let breaking: Breaking | null = null;
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    function pass(near: Socket, to: number): void {
      const far = connect(to, '127.0.0.1');
      let isDone = false;
      const end = () => {
        near.destroy();
        far.destroy();
      };
      for (const socket of [near, far]) socket.on('error', end).on('close', end);
      near.on('data', (data) => {
        const how = breaking?.at(data.toString('latin1')) ?? null;
        if (how === 'before') return end();
        isDone ||= how === 'after';
        far.write(data);
      });
      far.on('data', (data) => (isDone ? end() : near.write(data)));
    }
    breaking = new Breaking(server, database);
    return breaking;
  }

  stop(): void {
    this.#server.close();
  }
}
