import type { MailView } from '../../contract/consent.ts';
import type { DeliveryView } from '../../contract/deliveries.ts';
import { progressWord, type TrailView } from '../../contract/submissions.ts';
import { deliveryWord, howItIsKnown } from '../../core/delivery/index.ts';
import { VISIT_FIELDS, type VisitPart } from '../../core/intake/index.ts';
import { printValue } from '../../core/values/index.ts';

/** A trail as text for a terminal: what came, who it is of, what was planned and why, and what became of it. */
export function printTrail(trail: TrailView): string {
  const { plan, visit } = trail;
  const came = VISIT_FIELDS.flatMap(({ id, label }) => {
    const text = visit[id.slice(1) as VisitPart];
    return text === undefined ? [] : [`${label}: ${text}`];
  });
  return [
    `Submission ${trail.id}: ${progressWord(trail)}`,
    ...part('Received', [
      `${trail.receivedAt} from ${trail.sourceName}, version ${trail.sourceVersion}`,
      ...came,
      ...(trail.repeats > 0
        ? [`the same request came ${trail.repeats} times more, last ${trail.lastRepeatAt ?? ''}`]
        : []),
      ...(trail.suspicion ? [`taken for a robot's: ${trail.suspicion}`] : []),
      ...(trail.failure ? [`could not be planned: ${trail.failure}`] : []),
      ...trail.fields.map(({ id, label }) => `${label}: ${printValue(trail.values[id]) || 'empty'}`),
    ]),
    ...(plan
      ? part('Contact', [
          plan.contact
            ? `${plan.contact.match === 'new' ? 'new' : 'known'} by ${plan.contact.key.kind} ${plan.contact.key.value} (${trail.contactId ?? ''})`
            : 'nobody could be recognised',
          ...(plan.contact?.possible ?? []).map(({ id, because }) => `possibly the same as ${id}: ${because}`),
          ...(plan.contact?.changes ?? []).map(
            ({ name, from, to, when }) =>
              `${name}: ${from === null ? '' : `${printValue(from)} → `}${printValue(to)}${when === 'now' ? '' : ` (${when})`}`,
          ),
        ])
      : []),
    ...part(
      'Consent',
      trail.consent.map(
        ({ kind, purpose, channel, at, wording }) => `${at} ${kind} for ${purpose} by ${channel}: "${wording}"`,
      ),
    ),
    ...part(
      'Confirmation',
      trail.confirmations.flatMap(({ state, sentTo, purposes, mails }) => [
        `${state} for ${purposes.join(', ')}, to ${sentTo}`,
        ...mails.map((mail) => `  mail ${printMail(mail)}`),
      ]),
    ),
    ...part(
      'Mails',
      trail.mails.map((mail) => `"${mail.subject}" to ${mail.to.join(', ')}: ${printMail(mail)}`),
    ),
    ...trail.deliveries.flatMap(printDelivery),
    ...part(
      'Notes',
      (plan?.notes ?? []).map(({ text }) => text),
    ),
  ].join('\n');
}

function printDelivery(delivery: DeliveryView): string[] {
  const { connectionName, routeName, routeVersion, sentence, causeDetail, nextStep, attempts } = delivery;
  const { readBack, provedBy } = delivery;
  const known = howItIsKnown(delivery);
  return part(`Delivery to ${connectionName}: ${deliveryWord(delivery)}`, [
    `by ${routeName}, version ${routeVersion}`,
    ...(sentence === '' ? [] : [`${sentence} ${causeDetail}`.trim(), nextStep]),
    ...delivery.leftOut.map((text) => `left out: ${text}`),
    ...attempts.map(
      ({ number, startedAt, outcome, said }) =>
        `try ${number}, ${startedAt}: ${outcome}${said === '' ? '' : ` ("${said}")`}`,
    ),
    ...attempts.flatMap(
      ({ exchanges }) =>
        exchanges?.map(
          ({ method, url, status, milliseconds }) => `  ${method} ${url}: ${status ?? 'no answer'}, ${milliseconds} ms`,
        ) ?? ['  what was sent is not kept any more'],
    ),
    ...(known === null ? [] : [known]),
    ...(readBack && provedBy === 'answer' ? ['as its answer showed it:'] : []),
    ...(readBack ?? []).map(
      ({ what, meant, found, same }) =>
        `${same ? 'same' : 'DIFFERS'}: ${what} ${meant}${same ? '' : `, found ${found}`}`,
    ),
  ]);
}

const part = (title: string, lines: string[]): string[] =>
  lines.length === 0 ? [] : ['', title, ...lines.map((line) => `  ${line.replaceAll('\n', '\n    ')}`)];

const printMail = ({ state, at, error }: MailView): string => `${state} ${at}${error === '' ? '' : `: ${error}`}`;
