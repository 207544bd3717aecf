import { readScript } from '../../core/chat/index.ts';
import { NEW_CHAT, type ChatDocument } from '../../core/intake/index.ts';
import type { RouteDocument } from '../../core/plan/index.ts';
import { NIGHT_SKY, skyLetterRoute } from './documents.ts';

const SCRIPT = `Welcome
  say "Clear skies! This is the observatory's front desk."
  choose topic "What can we do for you?"
    "An evening here" > Evenings
    "The Sky letter" > Letter
    "Something else"
  ask question (long text) "What would you like to know?" > Letter
  if 09:00-17:00 Mon-Fri Europe/London > Desk
  tell front-desk@pellam-ridge.example "A question from the chat" : "{question}"
  say "Nobody is at the desk now. We write to you tomorrow."
  go > Letter

Evenings
  say "Every clear Friday from dusk. No booking, no telescope needed."
  choose more "Would you like to hear which evenings are worth the walk?"
    "Yes, please" > Letter
    "No, thank you" > Bye

Desk
  hand over "One moment, I'll fetch somebody." 60 s > Letter
  go > Letter

Letter
  ask name (text) "What may we call you?" > Bye
  ask email (email) "And where can we write to you?" > Bye
  agree consent "May we send you the Sky letter?" : "Yes, send me the Sky letter of Pellam Ridge Observatory once a month. I can leave at any time."
  go > Bye

Bye
  end "See you under the stars!" https://pellam-ridge.example/evenings "What is on"
`;

/** The chat of the observatory's site. @param siteUrl where it shows itself */
export function frontDeskChat(siteUrl: string, newId: () => string): ChatDocument {
  const finished = NEW_CHAT.fields.filter(({ id }) => id === 'finished');
  const { scripted, issues } = readScript(SCRIPT, { parts: [], fields: [] }, newId);
  if (issues.length > 0) throw new Error('the script of the demo chat cannot be read');
  const keeps: Record<string, string> = { name: 'full_name', email: 'email', topic: 'topic' };
  return {
    ...NEW_CHAT,
    parts: scripted.parts,
    fields: [...scripted.fields.map((field) => ({ ...field, keepAs: keeps[field.key] ?? '' })), ...finished],
    title: 'Front desk',
    launcher: 'Ask the front desk',
    unfinished: 'contact',
    look: NIGHT_SKY,
    origins: [siteUrl],
    showing: { ...NEW_CHAT.showing, pages: ['/', '/visit', '/evenings'] },
  };
}

/** Who wants the letter is in its list. */
export function frontDeskRoute(sourceId: string, connectionId: string): RouteDocument {
  const route = skyLetterRoute(sourceId, connectionId);
  const given = new Set(['email', 'given', 'family']);
  return {
    ...route,
    targets: route.targets.map((target) => ({
      ...target,
      lines: target.lines.filter(({ to }) => given.has(to)),
      tags: target.tags.filter(({ when }) => when === null),
    })),
  };
}
