import { fieldsAskedFor, type Condition } from '../conditions/index.ts';
import { fieldsUsed, fieldsUsedIn } from '../mapping/index.ts';
import { conditionsIn, type RouteDocument, type Target } from './route.ts';

/** What a route does with a field of a source. */
export type FieldUse =
  /** It fills a field of a destination. */
  | { kind: 'line'; targetId: string; connectionId: string; to: string }
  /** Something at a destination depends on it: who goes there, into which place, with which tag. */
  | { kind: 'condition'; targetId: string; connectionId: string }
  /** A mail has it in it, or depends on it. */
  | { kind: 'mail'; mailId: string }
  /** It gives the consent that the route asks for. */
  | { kind: 'consent' };

/** All that a route does with a field, by the field's id. */
export function usesOfField({ targets, mails, consent }: RouteDocument, fieldId: string): FieldUse[] {
  const asksFor = (when: Condition | null) => when !== null && fieldsAskedFor(when).includes(fieldId);
  const inTarget = (target: Target): FieldUse[] => {
    const { id: targetId, connectionId } = target;
    const lines = target.lines.filter((line) => fieldsUsed(line).includes(fieldId));
    return [
      ...lines.map(({ to }): FieldUse => ({ kind: 'line', targetId, connectionId, to })),
      ...(conditionsIn(target).some(asksFor) ? [{ kind: 'condition' as const, targetId, connectionId }] : []),
    ];
  };
  return [
    ...targets.flatMap(inTarget),
    ...mails
      .filter(
        ({ when, subject, body }) =>
          asksFor(when) || [...fieldsUsedIn(subject), ...fieldsUsedIn(body)].includes(fieldId),
      )
      .map(({ id }): FieldUse => ({ kind: 'mail', mailId: id })),
    ...(consent.asks.some(({ tickField }) => tickField === fieldId) ? [{ kind: 'consent' as const }] : []),
  ];
}
