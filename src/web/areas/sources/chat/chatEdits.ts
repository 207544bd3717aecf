import type { ChatPart, ChatStep, StepKind } from '../../../../core/chat/index.ts';
import type { ChatDocument } from '../../../../core/intake/index.ts';
import { keyFor } from '../../../../core/intake/index.ts';
import { plainField, type SourceField } from '../../../../core/values/index.ts';
import { newPartId } from '../../../parts/newPartId.ts';

/** How each kind of step is called where one is added. */
export const STEP_WORDS: Record<StepKind, string> = {
  say: 'Say something',
  choose: 'Offer answers',
  ask: 'Ask for a value',
  form: 'Small form',
  consent: 'Ask for consent',
  decide: 'Decide the way',
  'look up': 'Look something up',
  notify: 'Notify a colleague',
  'hand over': 'Hand over to a colleague',
  jump: 'Go elsewhere',
  end: 'End it',
};

/** What a step says, in short. */
export function stepInWords(step: ChatStep, fields: SourceField[], parts: ChatPart[] = []): string {
  const label = (id: string) => fields.find((field) => field.id === id)?.label ?? id;
  switch (step.kind) {
    case 'decide':
      return step.rules.length === 1 ? 'by one condition' : `by ${step.rules.length} conditions`;
    case 'look up':
      return `${label(step.into)} by ${label(step.from)}`;
    case 'notify':
      return step.to.join(', ') || 'nobody yet';
    case 'jump':
      return parts.find(({ id }) => id === step.to)?.name ?? '';
    default:
      return step.text;
  }
}

type Changed = Pick<ChatDocument, 'parts' | 'fields'>;

const inPart = (parts: ChatPart[], id: string, change: (part: ChatPart) => ChatPart): ChatPart[] =>
  parts.map((part) => (part.id === id ? change(part) : part));

/** A new step of a kind, with the field that it needs. */
function newStep(kind: StepKind, fields: SourceField[]): { step: ChatStep; fields: SourceField[] } {
  const id = newPartId();
  const field = (label: string, part: Partial<SourceField>): SourceField => {
    const key = keyFor(
      label,
      fields.map((one) => one.key),
    );
    const id = fields.some((one) => one.id === key) ? `f${newPartId()}` : key;
    return { ...plainField(key, 'text'), id, label, ...part };
  };
  switch (kind) {
    case 'say':
      return { step: { id, kind, text: 'Clear skies!' }, fields };
    case 'choose': {
      const made = field('Choice', { type: 'choice', options: ['Yes, please', 'Not now'] });
      const choices = made.options.map((label) => ({ label, to: '' }));
      return { step: { id, kind, text: 'What would you like?', field: made.id, choices }, fields: [...fields, made] };
    }
    case 'ask': {
      const made = field('Answer', { label: 'What is your answer?' });
      return {
        step: { id, kind, text: made.label, field: made.id, otherwise: '' },
        fields: [...fields, made],
      };
    }
    case 'form': {
      const made = field('Name', { keepAs: fields.some(({ keepAs }) => keepAs === 'full_name') ? '' : 'full_name' });
      return { step: { id, kind, text: 'A little more about you:', fields: [made.id] }, fields: [...fields, made] };
    }
    case 'consent': {
      const made = field('Consent', { type: 'yes/no', label: 'Yes, write to me by email. I can stop it at any time.' });
      return { step: { id, kind, text: 'May we write to you?', field: made.id }, fields: [...fields, made] };
    }
    case 'decide':
      return { step: { id, kind, rules: [{ id: newPartId(), when: null, hours: null, to: '' }] }, fields };
    case 'look up': {
      const made = field('Looked up', {});
      return {
        step: { id, kind, from: fields[0]?.id ?? made.id, pairs: [], otherwise: '', into: made.id },
        fields: [...fields, made],
      };
    }
    case 'notify':
      return { step: { id, kind, to: [], subject: 'Somebody in the chat', text: '' }, fields };
    case 'hand over':
      return { step: { id, kind, text: 'One moment, I’ll fetch somebody.', seconds: 90, otherwise: '' }, fields };
    case 'jump':
      return { step: { id, kind, to: '' }, fields };
    case 'end':
      return { step: { id, kind, text: 'See you!', link: '', linkText: '' }, fields };
    default:
      return kind satisfies never;
  }
}

/** Adds a step behind another, or at the end of a part. @returns also its id */
export function addStep(
  { parts, fields }: Changed,
  partId: string,
  after: string | null,
  kind: StepKind,
): Changed & { id: string } {
  const made = newStep(kind, fields);
  const changed = inPart(parts, partId, (part) => {
    const at = after === null ? part.steps.length : part.steps.findIndex(({ id }) => id === after) + 1;
    return { ...part, steps: [...part.steps.slice(0, at), made.step, ...part.steps.slice(at)] };
  });
  return { parts: changed, fields: made.fields, id: made.step.id };
}

export const addPart = (parts: ChatPart[]): ChatPart[] => {
  const taken = new Set(parts.map(({ name }) => name));
  let name = 'New part';
  for (let count = 2; taken.has(name); count += 1) name = `New part ${count}`;
  return [...parts, { id: newPartId(), name, steps: [] }];
};

/** Removes a part, and every way that leads there. */
export const removePart = (parts: ChatPart[], id: string): ChatPart[] =>
  parts
    .filter((part) => part.id !== id)
    .map((part) => ({ ...part, steps: part.steps.map((step) => withoutWay(step, id)) }));

function withoutWay(step: ChatStep, gone: string): ChatStep {
  const to = (one: string) => (one === gone ? '' : one);
  switch (step.kind) {
    case 'choose':
      return { ...step, choices: step.choices.map((one) => ({ ...one, to: to(one.to) })) };
    case 'decide':
      return { ...step, rules: step.rules.map((one) => ({ ...one, to: to(one.to) })) };
    case 'ask':
    case 'hand over':
      return { ...step, otherwise: to(step.otherwise) };
    case 'jump':
      return { ...step, to: to(step.to) };
    default:
      return step;
  }
}

export const changeStep = (parts: ChatPart[], next: ChatStep): ChatPart[] =>
  parts.map((part) => ({ ...part, steps: part.steps.map((step) => (step.id === next.id ? next : step)) }));

export const removeStep = (parts: ChatPart[], id: string): ChatPart[] =>
  parts.map((part) => ({ ...part, steps: part.steps.filter((step) => step.id !== id) }));

/** Moves a step by one within its part. */
export const moveStep = (parts: ChatPart[], id: string, by: 1 | -1): ChatPart[] =>
  parts.map((part) => {
    const at = part.steps.findIndex((step) => step.id === id);
    const [one, other] = [part.steps[at], part.steps[at + by]];
    if (!one || !other) return part;
    const steps = [...part.steps];
    steps[at] = other;
    steps[at + by] = one;
    return { ...part, steps };
  });
