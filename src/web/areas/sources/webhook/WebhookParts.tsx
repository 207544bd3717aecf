import type { SourceView } from '../../../../contract/source.ts';
import type { ShapeView } from '../../../../contract/webhook.ts';
import type { PostedDocument, RegistrationDocument } from '../../../../core/intake/index.ts';
import { useShape } from '../../../data/webhooks.ts';
import { Field } from '../../../parts/Field.tsx';
import { FieldsPart } from '../FieldsPart.tsx';
import { PLACES } from './places.ts';
import { AddressPart } from './AddressPart.tsx';
import { AnswerPart } from './AnswerPart.tsx';
import { Arrivals } from './Arrivals.tsx';
import { EventsPart } from './EventsPart.tsx';
import { FoundPlaces } from './FoundPlaces.tsx';
import { MembershipPart } from './MembershipPart.tsx';
import { PastedExample } from './PastedExample.tsx';
import { ProofPart } from './ProofPart.tsx';

interface WebhookPartsProps {
  source: SourceView;
  document: PostedDocument;
  set: (part: Partial<PostedDocument> | Partial<RegistrationDocument>) => void;
  /** What is wrong with the part at a JSON Pointer. */
  about: (pointer: string) => string | undefined;
  liveIds: string[];
}

/** What an id or a kind of event is written as. */
const TELLING = new Set<string>(['text', 'number']);

const NOTHING_LEARNT: ShapeView = {
  samples: 0,
  findings: [],
  kinds: [],
  gone: [],
  secretSince: null,
  formerUntil: null,
};

/** An address for programs: what is taken out of what comes, and what is asked of whoever sends. */
export function WebhookParts({ source, document, set, about, liveIds }: WebhookPartsProps) {
  const { data: shape = NOTHING_LEARNT } = useShape(source.id, source.draftAt);
  return (
    <div className="p-5 flex flex-col gap-7">
      <datalist id={PLACES}>
        {shape.findings
          .filter(({ path, type }) => TELLING.has(type) && !path.includes('[*]'))
          .map(({ path }) => (
            <option key={path} value={path} />
          ))}
      </datalist>
      <FoundPlaces shape={shape} fields={document.fields} onFields={(fields) => set({ fields })} />
      <FieldsPart of="payload" document={document} set={set} about={about} liveIds={liveIds} />
      <section aria-labelledby="payload" className="grid gap-4 sm:grid-cols-2">
        <h3 id="payload" className="text-lg font-semibold sm:col-span-2">
          Payload and consent
        </h3>
        <Field
          label="One submission for each"
          help="A JSONPath, such as $.orders[*]; a field's path then begins with @ for what is in it. Empty: the payload is one submission, and a list of payloads is one for each."
          error={about('/each')}
        >
          <input
            className="input w-full font-mono"
            value={document.each}
            spellCheck={false}
            placeholder="$.orders[*]"
            onChange={(event) => set({ each: event.target.value.trim() })}
          />
        </Field>
        <Field
          label="What people agreed to there"
          help="The words that the other system shows when they send. Not needed with a field that says yes."
          error={about('/statement')}
        >
          <textarea
            className="textarea w-full"
            rows={3}
            value={document.statement}
            onChange={(event) => set({ statement: event.target.value })}
          />
        </Field>
      </section>
      {document.kind === 'registration' && <MembershipPart {...{ document, set, about }} />}
      <EventsPart events={document.events} onChange={(events) => set({ events })} seen={shape.kinds} about={about} />
      <ProofPart proof={document.proof} onChange={(proof) => set({ proof })} about={about} />
      <AnswerPart document={document} set={set} about={about} />
    </div>
  );
}

interface WebhookPanelProps {
  source: SourceView;
  document: PostedDocument;
  set: (part: Partial<PostedDocument>) => void;
}

/** The address, what came to it, and a place to try an example. */
export function WebhookPanel({ source, document, set }: WebhookPanelProps) {
  const { data: shape = NOTHING_LEARNT } = useShape(source.id, source.draftAt);
  return (
    <div className="p-4 flex flex-col gap-6">
      <AddressPart
        source={source}
        document={document}
        secretSince={shape.secretSince}
        formerUntil={shape.formerUntil}
      />
      <Arrivals sourceId={source.id} document={document} />
      <PastedExample document={document} onFields={(fields) => set({ fields })} />
    </div>
  );
}
