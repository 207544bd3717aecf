import { AT_FIELD, KEPT_FIELD, LATER_FIELD, STAMP_FIELD, TRAP_FIELD } from '../../core/forms/index.ts';
import type { Entries } from '../../core/intake/index.ts';
import type { Context } from '../context.ts';
import { newToken, sha256 } from '../security/tokens.ts';
import { DAY_MS } from '../store/figures.ts';
import { retryWhileUnavailable } from '../store/database.ts';
import { findPartialForm, deletePartialForm, addPartialForm } from '../store/partialForms.ts';

/** For so long a form that was left half filled in can be gone on with. */
export const PARTIAL_FORM_DAYS = 30;

/** What belongs to one showing of a form, and not to what was entered. */
const NOT_KEPT = new Set([LATER_FIELD, KEPT_FIELD, STAMP_FIELD, TRAP_FIELD]);

/** Keeps what was entered into a form. @returns the token of the link by which it is gone on with */
export async function storePartialForm({ store, now }: Context, sourceId: string, entries: Entries): Promise<string> {
  const token = newToken();
  const kept = {
    tokenHash: sha256(token),
    sourceId,
    entries: entries.filter(([name]) => !NOT_KEPT.has(name)),
    keptAt: now(),
  };
  await retryWhileUnavailable(() => addPartialForm(store.db, kept));
  return token;
}

/** What was entered before, and on which page; null when the link is used up or too old. */
export async function readPartialForm({ store, now }: Context, sourceId: string, token: string) {
  const entries = await findPartialForm(store.db, sourceId, sha256(token), now() - PARTIAL_FORM_DAYS * DAY_MS);
  if (!entries) return null;
  return {
    typed: entries.filter(([name]) => name !== AT_FIELD),
    at: entries.find(([name]) => name === AT_FIELD)?.[1],
  };
}

/** Its link is used up once the form was sent. */
export const removePartialForm = ({ store }: Context, token: string): Promise<void> =>
  deletePartialForm(store.db, sha256(token));
