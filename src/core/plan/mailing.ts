import { factFields, factsOf } from '../intake/index.ts';
import { fillText } from '../mapping/index.ts';
import {
  isEmpty,
  isFile,
  nameAndSize,
  oneLine,
  printValue,
  type FieldValue,
  type FieldValues,
  type SourceField,
} from '../values/index.ts';
import { addressToAsk } from './asking.ts';
import { decideFor, type LiveRoute, type PlanInput, type RouteFacts } from './input.ts';
import { asksIn, note, type After, type Plan } from './planned.ts';
import type { RouteMail } from './route.ts';

/** The same answer goes out to one person no more often than this: a form must not become a way to flood a mailbox. */
export const ANSWER_REST_MS = 10 * 60_000;

/** Under which a text has everything that was answered, as if it were a field. */
export const ANSWERS = '@answers';
/** Stands in a text for everything that was answered. */
export const ALL_ANSWERS = `{${ANSWERS}}`;

/**
 * Plans the mails that a route sends: answers to the visitor, and those that tell colleagues.
 * @param about.confirmed what is known once what is asked for by this submission is confirmed
 */
export function planMails(
  plan: Plan,
  route: LiveRoute,
  { input, facts, confirmed }: { input: PlanInput; facts: RouteFacts; confirmed: RouteFacts },
): void {
  for (const mail of route.document.mails) {
    const why = mail.when && decideFor(mail.when, mail.after === 'now' ? facts : confirmed);
    if (why && why.verdict !== 'holds') {
      note(plan, 'not for them', `${route.name}: the mail "${mail.subject}" is left out, since ${why.why}.`);
      continue;
    }
    const to = mail.kind === 'notify' ? mail.to : addressesToAnswer(plan, { route, mail, input });
    if (to.length === 0) continue;
    plan.actions.push({
      kind: mail.kind,
      id: `${route.id} ${mail.id}`,
      after: afterOf(plan, route, mail),
      needs: null,
      because: why ? `It goes out, since ${why.why}.` : 'It goes out for everybody.',
      routeId: route.id,
      mailId: mail.id,
      to,
      replyTo: mail.kind === 'notify' ? addressToAsk(input) : '',
      subject: oneLine(filled(mail.subject, input, mail.kind)),
      text: filled(mail.body, input, mail.kind),
    });
  }
}

function addressesToAnswer(
  plan: Plan,
  { route, mail, input }: { route: LiveRoute; mail: RouteMail; input: PlanInput },
): string[] {
  const address = addressToAsk(input);
  if (address === '') {
    note(plan, 'no address to answer', `${route.name}: there is no address to which "${mail.subject}" could go.`);
    return [];
  }
  const lately = input.known.answered.some(
    ({ routeId, mailId, at }) => routeId === route.id && mailId === mail.id && input.now - at < ANSWER_REST_MS,
  );
  if (!lately) return [address];
  note(
    plan,
    'answered minutes ago',
    `${route.name}: "${mail.subject}" went out to them minutes ago; no second one is sent.`,
  );
  return [];
}

/** What waits for a confirmation waits only where this submission has to be confirmed. */
function afterOf(plan: Plan, route: LiveRoute, { after }: RouteMail): After {
  if (after === 'now') return { kind: 'now' };
  const own = asksIn(plan).find(({ routeId }) => routeId === route.id);
  if (own) return { kind: 'confirmed', action: own.id };
  // Another route of the same source may be the one that asks.
  const waits = plan.actions.find((action) => action.routeId === route.id && action.after.kind === 'confirmed');
  return waits?.after ?? { kind: 'now' };
}

/** A text with what was answered in it. Lines within an answer are set in, so that none can look like one of ours. */
function filled(text: string, { fields, values, visit }: PlanInput, kind: RouteMail['kind']): string {
  const facts = factsOf(values, visit);
  const setIn = (value: FieldValue) => said(value, kind).replace(/\r\n?|\n/gu, '\n    ');
  const printed: FieldValues = Object.fromEntries(factFields(fields).map(({ id }) => [id, setIn(facts[id] ?? '')]));
  return fillText(text, { ...printed, [ANSWERS]: answersOf(fields, values, setIn) });
}

/** A value as a mail says it. Only those who are signed in here can fetch a file: visitors get its name, and know what is in it. */
const said = (value: FieldValue, kind: RouteMail['kind']): string =>
  kind === 'answer' && isFile(value) ? nameAndSize(value) : printValue(value);

const answersOf = (fields: SourceField[], values: FieldValues, setIn: (value: FieldValue) => string): string =>
  fields
    .flatMap(({ id, label }) => {
      const value = values[id];
      return value === undefined || isEmpty(value) ? [] : [`${label}: ${setIn(value)}`];
    })
    .join('\n');
