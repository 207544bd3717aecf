import AxeBuilder from '@axe-core/playwright';
import { chromium, type Browser, type Page } from 'playwright-core';
import { PASSWORD } from './operator.ts';

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

/** The pages of the test file that runs, for what is told when a test of it fails. */
export const watchedPages = new Set<Page>();

/** A page that waits no longer than it has to, and notes what goes wrong in scripts on it, and what its policies block. */
export async function watch(page: Page, troubles: string[]): Promise<Page> {
  page.setDefaultTimeout(10_000);
  watchedPages.add(page);
  page.on('close', () => watchedPages.delete(page));
  page.on('pageerror', (error) => troubles.push(error.message));
  await onPolicyIssue(page, (issue) => troubles.push(issue));
  // Playwright keeps no cache while it routes: what is published counts at once.
  await page.route('**/no-such-address', (route) => route.continue());
  return page;
}

/** Tells what Chromium reports of content security policies (W3C CSP level 3, section 5) on a page and in its frames. */
export async function onPolicyIssue(page: Page, tell: (issue: string) => void): Promise<void> {
  const session = await page.context().newCDPSession(page);
  session.on('Audits.issueAdded', ({ issue: { code, details } }) => {
    const blocked = details.contentSecurityPolicyIssueDetails;
    if (code === 'ContentSecurityPolicyIssue' && blocked)
      tell(
        `${page.url()}: ${blocked.violatedDirective} blocks ${blocked.blockedURL ?? blocked.contentSecurityPolicyViolationType}`,
      );
  });
  await session.send('Audits.enable');
}

/** Signs the first operator in. @param app where the application is */
export async function signIn(page: Page, app: string): Promise<void> {
  await page.goto(app);
  await page.getByLabel('Email').fill('wren@pellam-ridge.example');
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('navigation', { name: 'Areas' }).waitFor();
}
