import type { PlaceActInput, PlaceView } from '../../../contract/people.ts';
import { good, type Result } from '../../../core/result.ts';
import { changePlace } from '../../connecting/places.ts';
import type { Context } from '../../context.ts';
import { findPersonRecord } from '../../store/people/index.ts';
import { noteOf, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Changes how another system holds a person. @returns how it does afterwards */
export async function changeThere(
  actor: Actor,
  context: Context,
  { id, input }: { id: string; input: PlaceActInput },
): Promise<Result<PlaceView, Refusal>> {
  const person = await findPersonRecord(context.store.db, id);
  if (!person) return unknown('person');
  const detail = [input.act, input.tag || input.group || input.list, input.reason].filter((part) => part !== '');
  const subject = { kind: 'person', id: person.id, name: '' } as const;
  const note = noteOf(context, actor, { act: 'changed there', subject, detail: `${detail.join(': ')}.` });
  const changed = await changePlace(context, person.id, input, { by: actor.name, note });
  if (!changed.ok) return refused('invalid', 'not-changed', `Nothing was changed there: ${changed.problem}`);
  return good(changed.value);
}
