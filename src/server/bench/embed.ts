import { fork } from 'node:child_process';
import { once } from 'node:events';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { scriptLine } from '../../core/showing/index.ts';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import type { BrowserType } from 'playwright-core';
import { skyLetterForm } from '../demo/documents.ts';
import { addSource, findSource, publishSource } from '../store/sources.ts';
import { benchSetting } from './setting.ts';

/** As slow as a phone of some years ago, on a machine as this one: common practice of page tests. */
const SLOWER = 4;
const ROUNDS = 7;

/** What a page is like with our script and a form on it, and without. */
interface Seen {
  /** Milliseconds of the page's thread, in scripts and in all. */
  script: number;
  task: number;
  /** How much what is there moved (Layout Instability, W3C). */
  shift: number;
}

const median = (figures: number[]): number => [...figures].sort((a, b) => a - b)[Math.floor(figures.length / 2)] ?? 0;

/** Prints what our script costs a page on a slow device: bytes, time of its thread, and how much the page moves. */
export async function printEmbed(): Promise<void> {
  const { context } = await benchSetting();
  const { store, config, newId, now } = context;
  const id = newId();
  const draft = { ...skyLetterForm(''), origins: [] };
  await addSource(store.db, { id, publicId: 'bench-embed', name: 'Embed', draft, now: now() });
  const unpublished = await findSource(store.db, id);
  if (unpublished) await publishSource(store.db, unpublished, now());
  const server = fork(path.join(config.root, 'dist/server/main.js'), ['serve'], {
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: process.env,
  });
  await once(server, 'message');
  const ours = `http://127.0.0.1:${config.port}`;
  const script = Buffer.from(await (await fetch(`${ours}/place/script.js`)).arrayBuffer());

  const story = '<p>When the Moon rose behind the dome, its shadow reached down to the reservoir.</p>'.repeat(12);
  const element = (style: string) => `<div data-iwashi-form="bench-embed"${style}></div>`;
  const pages: Record<string, string> = {
    '/without': `${story}${story}`,
    '/with': `${story}${element(' style="min-height:560px"')}${story}`,
    '/with-no-height': `${story}${element('')}${story}`,
  };
  const site = createServer((request, response) => {
    const body = pages[request.url ?? ''];
    const head = request.url?.startsWith('/with-') || request.url === '/with';
    response.setHeader('content-type', 'text/html');
    response.end(
      `<!doctype html><title>-</title><link rel="icon" href="data:,">${head ? scriptLine(ours) : ''}<body>${body ?? ''}`,
    );
  });
  site.listen(0, '127.0.0.1');
  await once(site, 'listening');
  const address = `http://127.0.0.1:${(site.address() as AddressInfo).port}`;

  // It is no dependency of the application: it is there where tests are.
  const name = 'playwright-core';
  const { chromium } = (await import(name)) as { chromium: BrowserType };
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  const look = async (url: string): Promise<Seen> => {
    const tab = await browser.newContext({ viewport: { width: 390, height: 844 } });
    const page = await tab.newPage();
    const devtools = await tab.newCDPSession(page);
    await devtools.send('Emulation.setCPUThrottlingRate', { rate: SLOWER });
    await devtools.send('Performance.enable');
    await page.addInitScript(() => {
      const window = globalThis as unknown as { shift: number };
      window.shift = 0;
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries()) window.shift += (entry as unknown as { value: number }).value;
      }).observe({ type: 'layout-shift', buffered: true });
    });
    await page.goto(address + url, { waitUntil: 'networkidle' });
    await page.waitForTimeout(300);
    const { metrics } = await devtools.send('Performance.getMetrics');
    const metric = (wanted: string) => 1000 * (metrics.find((one) => one.name === wanted)?.value ?? 0);
    const shift = await page.evaluate(() => (globalThis as unknown as { shift: number }).shift);
    await tab.close();
    return { script: metric('ScriptDuration'), task: metric('TaskDuration'), shift };
  };
  const found: Record<string, Seen[]> = { '/without': [], '/with': [], '/with-no-height': [] };
  // In turns, so that what the machine does besides falls on all of them.
  for (let round = 0; round < ROUNDS; round += 1)
    for (const url of Object.keys(found)) found[url]?.push(await look(url));
  await browser.close();
  site.close();
  server.kill('SIGTERM');
  const of = (url: string, part: keyof Seen) => median((found[url] ?? []).map((seen) => seen[part]));
  const more = (part: 'script' | 'task') => (of('/with', part) - of('/without', part)).toFixed(1);
  console.log(
    [
      `embed    ${(script.length / 1000).toFixed(1)} kB, ${(gzipSync(script).length / 1000).toFixed(1)} kB gzipped`,
      `         with a form, on a thread ${SLOWER} times slower: ${more('script')} ms in scripts, ${more('task')} ms in all more than without (medians of ${ROUNDS})`,
      `         the page moves by ${of('/with', 'shift').toFixed(3)} where its place has a height, by ${of('/with-no-height', 'shift').toFixed(3)} where it has none`,
    ].join('\n'),
  );
}
