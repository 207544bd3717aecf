import type { DescriptionView, OperationChoice } from '../../../contract/profiles.ts';
import { good, type Result } from '../../../core/result.ts';
import { proposeProfile } from './fromOpenApi.ts';
import { guessChoice } from './guess.ts';
import { readOpenApi } from './openApi.ts';

/** Reads an OpenAPI description, and proposes a profile from the operations chosen, or guessed. */
export async function describe(text: string, choice: OperationChoice | null): Promise<Result<DescriptionView>> {
  const api = await readOpenApi(text);
  if (!api.ok) return api;
  const chosen = choice ?? guessChoice(api.value);
  return good({
    title: api.value.title,
    operations: api.value.operations.map(({ id, method, path, summary }) => ({ id, method, path, summary })),
    choice: chosen,
    profile: proposeProfile(api.value, chosen),
  });
}
