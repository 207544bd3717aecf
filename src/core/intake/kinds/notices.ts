import { all, textAt } from '../../json/index.ts';
import { normaliseEmail, type FieldValues } from '../../values/index.ts';
import type { Kind } from '../reading.ts';
import type { NoticesDocument } from '../source.ts';

/** What another system tells us: one submission for each event that it names. What cannot be told from its repetition is left out. */
export const notices: Kind<NoticesDocument> = {
  read: ({ reads }, payload) => {
    if (payload.kind !== 'json') return { problem: 'The body is not JSON.' };
    const events = reads.events === undefined ? [payload.json] : all(payload.json, reads.events);
    return events.flatMap((event) => {
      const [id, kind] = [textAt(event, reads.id), textAt(event, reads.kind).slice(0, 60)];
      // By its own members only: a kind may be called as something that every object has.
      const meaning = Object.hasOwn(reads.means, kind) ? (reads.means[kind] ?? '') : '';
      if (id === '' || kind === '' || meaning === 'trial') return [];
      const email = normaliseEmail(textAt(event, reads.email));
      const at = Date.parse(textAt(event, reads.at));
      const said: FieldValues = { id, event: kind };
      if (meaning !== '') said.meaning = meaning;
      if (email !== '') said.email = email;
      if (!Number.isNaN(at)) said.at = new Date(at).toISOString();
      return [{ ok: true as const, values: said }];
    });
  },
  // It is signed: who sends it is known.
  screen: () => null,
};
