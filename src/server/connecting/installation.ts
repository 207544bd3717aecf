import type { PageInstallation } from '../../contract/installation.ts';
import { judgeInstallation, type InstallationFinding } from '../../core/formats/index.ts';
import type { FormDocument } from '../../core/intake/index.ts';
import type { Context } from '../context.ts';
import { readHeard } from '../store/heard.ts';

/** Visits pages as anybody could, and says what is there of a form. @param publicId its part of the address */
export async function checkInstallation(
  context: Context,
  { publicId, live }: { publicId: string; live: FormDocument },
  pages: string[],
): Promise<PageInstallation[]> {
  const { send, store, config } = context;
  const showsItself = live.presentation !== 'inline' || live.showing.placeAt !== '';
  const expected = { server: new URL(config.publicUrl).origin, form: showsItself ? '' : publicId };
  return Promise.all(
    pages.map(async (page): Promise<PageInstallation> => {
      const { answer } = await send({
        method: 'GET',
        url: page,
        headers: { accept: 'text/html' },
        secret: { headers: [], query: [], path: false },
        pool: 'pages of others',
        atOnce: 2,
        isPage: true,
      });
      const heard = await readHeard(store.db, new URL(page).origin);
      const heardAt = heard === null ? null : new Date(heard).toISOString();
      if (answer.kind !== 'answered') return { page, heardAt, findings: [unanswered(answer.fault)] };
      if (answer.status >= 300) return { page, heardAt, findings: [otherwise(answer.status)] };
      const policy = answer.headers['content-security-policy'] ?? '';
      const html = typeof answer.body === 'string' ? answer.body : '';
      return { page, heardAt, findings: judgeInstallation({ html, policy }, expected) };
    }),
  );
}

const unanswered = (fault: string): InstallationFinding => ({
  ok: false,
  found: `The page does not answer us (${fault}).`,
  fix: 'Look whether it opens in a browser; a page behind a sign-in cannot be visited from here.',
});

const otherwise = (status: number): InstallationFinding => ({
  ok: false,
  found: `The page answers with ${status}.`,
  fix: 'Enter the address at which the page really is, as the browser shows it.',
});
