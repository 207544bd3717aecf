import AxeBuilder from '@axe-core/playwright';
import { chromium, type Browser, type Page } from 'playwright-core';

/** Debian's Chromium, without its own traffic. */
export function startBrowser(): Promise<Browser> {
  return chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
}

/** What axe finds against WCAG 2.2 AA on the page as it is: nothing, it is hoped. */
export async function violationsOn(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    .setLegacyMode(true)
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  return violations.map(
    ({ id, nodes }) =>
      `${id}: ${nodes.map(({ html, failureSummary }) => `${html.slice(0, 200)} ${failureSummary ?? ''}`).join(' | ')}`,
  );
}
