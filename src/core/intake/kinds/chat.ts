import { isObject } from '../../documents/index.ts';
import { FINISHED_FIELD } from '../../chat/index.ts';
import { holds, type FieldValues } from '../../values/index.ts';
import type { Kind } from '../reading.ts';
import type { ChatDocument } from '../source.ts';

/** A conversation: what was answered in it, as it was understood there, and whether it came to its end. */
export const chat: Kind<ChatDocument> = {
  read: ({ fields }, payload) => {
    const json = payload.kind === 'json' ? payload.json : null;
    const answers = isObject(json) && isObject(json.answers) ? json.answers : null;
    if (answers === null) return { problem: 'It is no conversation.' };
    const values: FieldValues = {};
    for (const { id, type } of fields) {
      const value = answers[id];
      if (holds(type, value)) values[id] = value;
    }
    values[FINISHED_FIELD] = isObject(json) && json.finished === true;
    return [{ ok: true, values }];
  },
  // Every answer was asked for.
  screen: () => null,
};
