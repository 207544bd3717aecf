import type { PageInstallation } from '../../contract/installation.ts';
import { judgeInstallation, type InstallationFinding } from '../../core/formats/index.ts';
import type { FormDocument } from '../../core/intake/index.ts';
import { isMeantFor } from '../../core/showing/index.ts';
import type { Context } from '../context.ts';
import { readLastScriptRequest } from '../store/lastScriptRequest.ts';
import { visitPage } from './visiting.ts';

/** Visits pages as anybody could, and says what is there of a form. @param publicId its part of the address */
export async function checkInstallation(
  context: Context,
  { publicId, live }: { publicId: string; live: FormDocument },
  pages: string[],
): Promise<PageInstallation[]> {
  const { store, config } = context;
  const showsItself = live.presentation !== 'inline' || live.showing.placeAt !== '';
  const expected = { server: new URL(config.publicUrl).origin, form: showsItself ? '' : publicId };
  return Promise.all(
    pages.map(async (page): Promise<PageInstallation> => {
      const visit = await visitPage(context, page);
      const heard = await readLastScriptRequest(store.db, new URL(page).origin);
      const heardAt = heard === null ? null : new Date(heard).toISOString();
      return {
        page,
        heardAt,
        findings: visit.ok
          ? judgeInstallation(visit, { ...expected, isMeant: !showsItself || isMeantFor(live.showing, page) })
          : [noPage(visit.fault)],
      };
    }),
  );
}

const noPage = (fault: string | number): InstallationFinding =>
  typeof fault === 'number'
    ? {
        ok: false,
        found: `The page answers with ${fault}.`,
        fix: 'Enter the address at which the page really is, as the browser shows it.',
      }
    : {
        ok: false,
        found: `The page does not answer us (${fault}).`,
        fix: 'Look whether it opens in a browser; a page behind a sign-in cannot be visited from here.',
      };
