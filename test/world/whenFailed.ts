import { afterEach } from 'vitest';
import { watchedPages } from './browser.ts';

/** Of a browser test that failed: where each of its pages is, and what it shows. Without it a limit that was met says nothing. */
afterEach(async ({ task }) => {
  if (task.result?.state !== 'fail') return;
  for (const page of watchedPages) {
    const shown = await page
      .locator('body')
      .innerText({ timeout: 2_000 })
      .catch((error: unknown) => `(not readable: ${String(error)})`);
    console.log(`${task.name}: ${page.url()} shows:\n${shown.slice(0, 1_500)}`);
  }
});
