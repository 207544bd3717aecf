import { CHANNEL_WORDS, fitsWording, type Channel, type Purpose } from '../../consent/index.ts';
import { asksForAddress } from '../../identity/index.ts';
import type { SourceDocument } from '../../intake/index.ts';
import type { SourceField } from '../../values/index.ts';
import { wordingOf } from '../asking.ts';
import { listsOf, type Catalogue } from '../catalogue.ts';
import type { ConsentAsk, RouteDocument, Target } from '../route.ts';
import { blocker, hint, warning, type Finding } from './finding.ts';

interface Known {
  purposes: Purpose[];
  catalogues: Record<string, Catalogue>;
}

/** Whether each consent is asked for in words that fit its purpose, each target has the one it needs, and one system confirms. */
export function consentFindings(document: RouteDocument, source: SourceDocument, known: Known): Finding[] {
  const { asks } = document.consent;
  const findings = asks.flatMap((ask) => askFindings(ask, source, known.purposes));
  for (const [index, target] of document.targets.entries())
    findings.push(...needFindings(target, asks).map((finding) => ({ ...finding, target: index })));
  return [...findings, ...confirmingFindings(document, source, known)];
}

function askFindings(ask: ConsentAsk, source: SourceDocument, purposes: Purpose[]): Finding[] {
  const { fields, statement } = source;
  const findings: Finding[] = [];
  const purpose = purposes.find(({ id }) => id === ask.purpose);
  if (ask.purpose === '')
    findings.push(blocker('consent', 'It does not say what people consent to.', 'Choose the purpose, or make one.'));
  else if (!purpose)
    findings.push(blocker('consent', 'The purpose that people consent to is gone.', 'Choose another one.'));
  else if (purpose.archived)
    findings.push(
      blocker('consent', `"${purpose.name}" is archived: no route asks for it any more.`, 'Choose another one.'),
    );
  if (ask.tickField !== '' && !fields.some(({ id, type }) => id === ask.tickField && type === 'yes/no')) {
    findings.push(
      blocker('consent', `The tick box "${ask.tickField}" is not in the source.`, 'Choose another tick box, or none.'),
    );
    return findings;
  }
  const wording = wordingOf(ask, source);
  if (ask.tickField === '' && statement.trim() === '')
    findings.push(
      blocker(
        'consent',
        'Nothing says what people agree to, so there would be no proof.',
        'Choose the tick box that gives consent, or write a consent sentence beside the button in the source.',
      ),
    );
  else if (purpose && !fitsWording(purpose, wording))
    findings.push(
      blocker(
        'consent',
        `"${wording}" is no sentence by which people agree to "${purpose.name}".`,
        'Choose the purpose that it speaks of, or say under Consent that it is one.',
      ),
    );
  if (ask.channels.length === 0)
    findings.push(blocker('consent', 'No channel is chosen that people agree to.', 'Choose at least one.'));
  for (const channel of ask.channels) findings.push(...channelFindings(channel, purpose, fields));
  return findings;
}

function channelFindings(channel: Channel, purpose: Purpose | undefined, fields: SourceField[]): Finding[] {
  const findings: Finding[] = [];
  const words = CHANNEL_WORDS[channel];
  if (purpose && !purpose.channels.includes(channel))
    findings.push(
      blocker(
        'consent',
        `Nobody is reached by ${words} for "${purpose.name}".`,
        `Take ${words} off, or add it to the purpose.`,
      ),
    );
  const reaches: Record<Channel, (field: SourceField) => boolean> = {
    email: ({ type }) => type === 'email',
    sms: ({ type }) => type === 'phone',
    phone: ({ type }) => type === 'phone',
    post: ({ type }) => type === 'postal address',
  };
  if (channel !== 'email' && !fields.some(reaches[channel]))
    findings.push(
      warning(
        'consent',
        `People agree to be reached by ${words}, and the source does not ask where.`,
        'Add such a field to the source, or take the channel off.',
      ),
    );
  return findings;
}

function needFindings({ needs }: Target, asks: ConsentAsk[]): Finding[] {
  if (needs === null)
    // What everybody gives by sending the form is lacking to nobody.
    return asks.every(({ tickField }) => tickField === '')
      ? []
      : [
          hint(
            'consent',
            'A target needs no consent: people go there also when they did not tick.',
            'Choose what it needs, unless people asked for it by sending the form.',
          ),
        ];
  const ask = asks.find(({ id }) => id === needs.ask);
  if (!ask)
    return [blocker('consent', 'A target needs a consent that is not asked for.', 'Choose one that is, or none.')];
  return ask.channels.includes(needs.channel)
    ? []
    : [
        blocker(
          'consent',
          `A target needs consent by ${CHANNEL_WORDS[needs.channel]}, and nobody is asked for that.`,
          'Ask for it, or choose another channel.',
        ),
      ];
}

/** Exactly one system has people confirm: two send two mails, and none lets typing mistakes and robots in. */
function confirmingFindings({ consent, targets }: RouteDocument, { fields }: SourceDocument, known: Known): Finding[] {
  const { confirmedBy, mail, asks } = consent;
  if (asks.length === 0) return [];
  const findings: Finding[] = [];
  const lists = targets.flatMap((target) =>
    listsOf(known.catalogues[target.connectionId], target).map((list) => ({ target, list })),
  );
  const confirming = lists.filter(({ list }) => list.confirms === true);
  switch (confirmedBy.by) {
    case 'iwashi':
      if (!asksForAddress(fields))
        findings.push(
          blocker(
            'consent',
            'The source asks for no address at which people could confirm.',
            'Let nobody confirm, or add an email field to the source.',
          ),
        );
      if (!mail.body.includes('{link}'))
        findings.push(blocker('consent', 'The confirmation mail has no link.', 'Put {link} where the link belongs.'));
      if (!asks.some(({ channels }) => channels.includes('email')))
        findings.push(
          warning(
            'consent',
            'A mail confirms only consent by email, and nobody is asked for that.',
            'Ask for it, or let nobody confirm.',
          ),
        );
      break;
    case 'target': {
      const own = lists.filter(({ target }) => target.id === confirmedBy.targetId);
      const [first] = own;
      if (!targets.some(({ id }) => id === confirmedBy.targetId))
        findings.push(blocker('consent', 'The target that is to confirm is not in the route.', 'Choose who confirms.'));
      else if (first && own.every(({ list }) => list.confirms === false))
        findings.push(
          blocker(
            'consent',
            `${first.list.name} asks nobody to confirm, so nobody would.`,
            'Switch its confirmation on there and verify the connection, or let Iwashi confirm.',
          ),
        );
      else if (!own.some(({ list }) => list.confirms === true))
        findings.push(
          warning(
            'consent',
            'Whether the destination really asks people to confirm cannot be seen from here.',
            'Sign up as a new visitor, and see that its mail comes.',
          ),
        );
      break;
    }
    case 'nobody':
      if (confirming.length === 0)
        findings.push(
          hint(
            'consent',
            'Single opt-in: typing mistakes and robots reach the list, and nobody proves that the address is theirs.',
            'Choose double opt-in unless you know why not.',
          ),
        );
      break;
    default:
      confirmedBy satisfies never;
  }
  for (const { target, list } of confirming) {
    if (confirmedBy.by === 'target' && confirmedBy.targetId === target.id) continue;
    const index = targets.indexOf(target);
    const { name } = list;
    findings.push({
      ...(confirmedBy.by === 'nobody'
        ? warning(
            'consent',
            `${name} asks people to confirm, and the route does not know it.`,
            'Choose that it confirms.',
          )
        : blocker(
            'consent',
            `${name} asks people to confirm as well: they would get two mails.`,
            'Switch its confirmation off there and verify the connection, or choose that it confirms.',
          )),
      target: index,
    });
  }
  return findings;
}
