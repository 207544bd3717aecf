import { allSteps, fieldsFilledBy, waysFrom, type ChatPart, type ChatStep } from './chat.ts';

/** Something about the way through a conversation that is probably not meant. */
export interface ChatFinding {
  /** Where: the id of a step; of a part that has none, of the part. */
  at: string;
  code: 'unreachable' | 'nowhere' | 'dead end' | 'no way out' | 'asked twice' | 'no field' | 'empty';
  text: string;
  /** Whether it cannot go live with it. */
  blocks: boolean;
}

/** The end of the conversation as a node among steps. */
const END = '(end)';

/** Looks through the ways of a conversation: all that can be seen without anybody having it. */
export function checkChat(parts: ChatPart[], fields: { id: string; label: string }[]): ChatFinding[] {
  const findings: ChatFinding[] = [];
  const note = (at: string, code: ChatFinding['code'], text: string, blocks = false) =>
    void findings.push({ at, code, text, blocks });
  const [first] = parts;
  if (!first || allSteps(parts).length === 0) {
    note(first?.id ?? '', 'empty', 'It says nothing yet.', true);
    return findings;
  }
  const known = new Set(parts.map(({ id }) => id));
  const labels = new Map(fields.map(({ id, label }) => [id, label]));
  const edges = edgesOf(parts);
  for (const { part, step, index } of allSteps(parts)) {
    for (const { to } of waysFrom(step))
      if (to !== '' && !known.has(to)) note(step.id, 'nowhere', 'It leads to a part that is not there.', true);
    for (const id of fieldsFilledBy(step))
      if (!labels.has(id)) note(step.id, 'no field', 'It fills in a field that is not there.', true);
    if (step.kind === 'choose' && step.choices.length === 0)
      note(step.id, 'empty', 'It offers nothing to choose.', true);
    const isLast = index === part.steps.length - 1;
    // Where a colleague takes over, they have the last word.
    if (isLast && goesOn(step) && step.kind !== 'hand over')
      note(step.id, 'dead end', `“${part.name}” ends here without a word: say how it ends, or where it goes on.`);
  }
  for (const part of parts)
    if (part.steps.length === 0)
      note(part.id, 'empty', `“${part.name}” is empty: whoever comes there hears nothing more.`);
  const reached = reachable(edges, entryOf(first));
  for (const part of parts) {
    const lost = part.steps.filter(({ id }) => !reached.has(id));
    const [step] = lost;
    if (!step) continue;
    const text =
      lost.length === part.steps.length
        ? `Nothing leads to “${part.name}”.`
        : `${lost.length === 1 ? 'This step is' : `This and ${lost.length - 1} more are`} never come to.`;
    note(step.id, 'unreachable', text);
  }
  const stuck = allSteps(parts).filter(({ step }) => reached.has(step.id) && !reachable(edges, step.id).has(END));
  const [loop] = stuck;
  if (loop) note(loop.step.id, 'no way out', 'From here it goes round for ever: nothing leads to an end.', true);
  findings.push(...askedTwice(parts, edges, labels));
  return findings;
}

/** Where one comes in: the first step; of an empty part, the end. */
const entryOf = ({ steps }: ChatPart): string => steps[0]?.id ?? END;

/** Whether the next step may follow. What offers nothing to choose is found wrong for that alone. */
const goesOn = (step: ChatStep): boolean =>
  waysFrom(step).some(({ to }) => to === '') || (step.kind === 'choose' && step.choices.length === 0);

/** Which steps may follow on each. */
function edgesOf(parts: ChatPart[]): Map<string, string[]> {
  const byId = new Map(parts.map((part) => [part.id, part]));
  return new Map(
    allSteps(parts).map(({ part, step, index }) => {
      const named = waysFrom(step).flatMap(({ to }) => {
        const target = byId.get(to);
        return target ? [entryOf(target)] : [];
      });
      const next = step.kind === 'end' ? END : goesOn(step) ? (part.steps[index + 1]?.id ?? END) : null;
      return [step.id, next === null ? named : [...named, next]];
    }),
  );
}

function reachable(edges: Map<string, string[]>, from: string): Set<string> {
  const seen = new Set([from]);
  const open = [from];
  for (let at = open.pop(); at !== undefined; at = open.pop())
    for (const next of edges.get(at) ?? [])
      if (!seen.has(next)) {
        seen.add(next);
        open.push(next);
      }
  return seen;
}

/** Steps that ask for what was asked for before on the same way. To come round to one's own question again is no second one. */
function askedTwice(parts: ChatPart[], edges: Map<string, string[]>, labels: Map<string, string>): ChatFinding[] {
  const asking = allSteps(parts)
    .map(({ step }) => step)
    .filter((step): step is ChatStep => step.kind !== 'look up' && fieldsFilledBy(step).length > 0);
  return asking.flatMap((later): ChatFinding[] => {
    const field = fieldsFilledBy(later).find((id) =>
      asking.some(
        (earlier) =>
          earlier.id !== later.id && fieldsFilledBy(earlier).includes(id) && reachable(edges, earlier.id).has(later.id),
      ),
    );
    return field === undefined
      ? []
      : [
          {
            at: later.id,
            code: 'asked twice',
            text: `“${labels.get(field) ?? field}” was asked for before on the way here.`,
            blocks: false,
          },
        ];
  });
}
