import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Webhook } from 'standardwebhooks';

/** Somebody's own service that takes signed webhooks, checks them with the reference library, and knows a repeated one by its id. */
export class WebhookReceiver {
  readonly secret = `whsec_${Buffer.from('a signing secret for the tests').toString('base64')}`;
  readonly taken: Record<string, unknown>[] = [];
  readonly refused: string[] = [];
  readonly #ids = new Set<string>();
  /** The share of requests that it breaks off or answers with 500. */
  failing = 0;
  url = '';
  #server: Server | null = null;

  static async start(): Promise<WebhookReceiver> {
    const receiver = new WebhookReceiver();
    await receiver.#listen();
    return receiver;
  }

  async #listen(): Promise<void> {
    const server = createServer((request, response) => {
      const parts: Buffer[] = [];
      request.on('data', (part: Buffer) => parts.push(part));
      request.on('end', () => {
        const isApplied = Math.random() >= this.failing / 2;
        const isAnswered = Math.random() >= this.failing / 2;
        const status = isApplied ? this.#take(request.headers, Buffer.concat(parts).toString()) : 500;
        if (isAnswered) response.writeHead(status).end();
        else request.socket.destroy();
      });
    });
    server.listen(0, '127.0.0.1');
    await once(server, 'listening');
    this.#server = server;
    this.url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/hook`;
  }

  #take(headers: Record<string, string | string[] | undefined>, text: string): number {
    const id = String(headers['webhook-id']);
    try {
      new Webhook(this.secret).verify(text, headers as Record<string, string>);
    } catch (error) {
      this.refused.push(String(error));
      return 401;
    }
    if (!this.#ids.has(id)) this.taken.push((JSON.parse(text) as { data: Record<string, unknown> }).data);
    this.#ids.add(id);
    return 204;
  }

  stop(): void {
    this.#server?.close();
    this.#server?.closeAllConnections();
  }
}
