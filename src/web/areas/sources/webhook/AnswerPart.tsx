import {
  ANSWER_STATUSES,
  CHALLENGES,
  type Challenge,
  type PostedDocument,
  type WebhookAnswer,
} from '../../../../core/intake/index.ts';
import { Field } from '../../../parts/Field.tsx';
import { PLACES } from './places.ts';

interface AnswerPartProps {
  document: PostedDocument;
  set: (part: Partial<PostedDocument>) => void;
  about: (pointer: string) => string | undefined;
}

const STATUS_WORDS: Record<WebhookAnswer['status'], string> = {
  202: '202 Accepted',
  200: '200 OK',
  201: '201 Created',
  204: '204 No Content',
};

const CHALLENGE_WORDS: Record<Challenge['by'], string> = {
  nothing: 'no',
  query: 'yes, in the query of the address',
  body: 'yes, in the body',
};

/** What whoever sends is told, and how a repeated message is known. */
export function AnswerPart({ document, set, about }: AnswerPartProps) {
  const { answer, challenge, idPath } = document;
  const answerWith = (part: Partial<WebhookAnswer>) => set({ answer: { ...answer, ...part } });
  return (
    <section aria-labelledby="answer" className="grid gap-4 sm:grid-cols-2">
      <h3 id="answer" className="text-lg font-semibold sm:col-span-2">
        Repeats and answers
      </h3>
      <Field
        label="Where its id stands"
        help="A JSONPath to what each message has of its own, such as $.id: the same one is then taken once, however late it comes again. The id of an order would hide its later changes. Empty: the same content within ten minutes is taken once."
        error={about('/idPath')}
      >
        <input
          className="input w-full font-mono"
          value={idPath}
          spellCheck={false}
          placeholder="$.id"
          list={PLACES}
          onChange={({ target }) => set({ idPath: target.value.trim() })}
        />
      </Field>
      <Field label="Answered with" error={about('/answer/status')}>
        <select
          className="select w-full"
          value={answer.status}
          onChange={({ target }) => answerWith({ status: Number(target.value) as WebhookAnswer['status'] })}
        >
          {ANSWER_STATUSES.map((status) => (
            <option key={status} value={status}>
              {STATUS_WORDS[status]}
            </option>
          ))}
        </select>
      </Field>
      {answer.status !== 204 && (
        <Field
          label="Text of the answer"
          help="Empty: the ids of the submissions, as JSON."
          error={about('/answer/body')}
        >
          <textarea
            className="textarea w-full font-mono"
            rows={2}
            value={answer.body}
            onChange={({ target }) => answerWith({ body: target.value })}
          />
        </Field>
      )}
      {answer.status !== 204 && answer.body !== '' && (
        <Field label="Its media type" error={about('/answer/mediaType')}>
          <input
            className="input w-full font-mono"
            value={answer.mediaType}
            spellCheck={false}
            onChange={({ target }) => answerWith({ mediaType: target.value.trim() })}
          />
        </Field>
      )}
      <Field
        label="Asked whether it is meant"
        help="Some systems send a word first, and want it back as plain text."
        error={about('/challenge/by')}
      >
        <select
          className="select w-full"
          value={challenge.by}
          onChange={({ target }) => set({ challenge: { ...challenge, by: target.value as Challenge['by'] } })}
        >
          {CHALLENGES.map((by) => (
            <option key={by} value={by}>
              {CHALLENGE_WORDS[by]}
            </option>
          ))}
        </select>
      </Field>
      {challenge.by !== 'nothing' && (
        <Field
          label={challenge.by === 'query' ? 'Name in the query' : 'Where the word stands'}
          help={challenge.by === 'query' ? 'Such as challenge.' : 'A JSONPath, such as $.challenge.'}
          error={about('/challenge/name')}
        >
          <input
            className="input w-full font-mono"
            value={challenge.name}
            spellCheck={false}
            onChange={({ target }) => set({ challenge: { ...challenge, name: target.value.trim() } })}
          />
        </Field>
      )}
    </section>
  );
}
