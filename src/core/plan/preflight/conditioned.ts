import type { Condition } from '../../conditions/index.ts';
import type { RouteDocument } from '../route.ts';
import type { Finding } from './finding.ts';

/** Something in a route that is for some people only. */
export interface Conditioned {
  when: Condition;
  /** What is, as in "It is for some people only". */
  what: string;
  part: Finding['part'];
  target?: number;
  line?: string;
}

/** Everything in a route that has a condition, with where that is mended. */
export function conditionedParts({ targets, mails }: RouteDocument): Conditioned[] {
  const parts = [
    ...targets.flatMap(({ when, places, tags, lines }, target) => [
      { when, what: 'It is', part: 'target' as const, target },
      ...places.map((place) => ({ when: place.when, what: 'A place is', part: 'target' as const, target })),
      ...tags.map((tag) => ({ when: tag.when, what: `The tag "${tag.tag}" is`, part: 'tags' as const, target })),
      ...lines.map((line) => ({
        when: line.when,
        what: `The line for ${line.to} is`,
        part: 'mapping' as const,
        target,
        line: line.to,
      })),
    ]),
    ...mails.map(({ when }) => ({ when, what: 'A mail goes out', part: 'mails' as const })),
  ];
  return parts.flatMap(({ when, ...part }): Conditioned[] => (when === null ? [] : [{ when, ...part }]));
}
