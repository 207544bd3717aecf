import { fieldsUsed, requiredFirst, type DestinationField } from '../mapping/index.ts';
import { fieldsAskedFor, TESTS, type Condition } from '../conditions/index.ts';
import { factFields, VISIT_FIELDS, type SourceDocument } from '../intake/index.ts';
import { identifyingFields, keyKindOf } from '../identity/index.ts';
import { isTick, type SourceField } from '../values/index.ts';
import { fieldsFor, type Catalogue } from './catalogue.ts';
import type { RouteDocument, Target } from './route.ts';

/** One thing that a check of a route found before it goes live. */
export interface Finding {
  level: 'blocker' | 'warning' | 'hint';
  /** The part of the route bench where it is mended. */
  part: 'source' | 'target' | 'mapping' | 'tags' | 'consent';
  message: string;
  fix: string;
  /** Which target it concerns, counted from 0; absent when it concerns the whole route. */
  target?: number;
}

export interface PreflightInput {
  document: RouteDocument;
  /** Its sources as they are live; null for one that is not. */
  sources: { name: string; live: SourceDocument | null }[];
  catalogues: Record<string, Catalogue>;
}

/** Checks a route before it goes live, blockers first. */
export function preflight({ document, sources, catalogues }: PreflightInput): Finding[] {
  if (sources.length === 0) return [blocker('source', 'No source is chosen.', 'Choose where submissions come from.')];
  // Until a source is live, everything else would only be guessed.
  const asleep = sources.filter(({ live }) => live === null);
  if (asleep.length > 0)
    return asleep.map(({ name }) =>
      blocker(
        'source',
        `${sources.length > 1 ? `"${name}"` : 'The source'} is not live yet.`,
        'Publish the source first.',
      ),
    );
  const each = sources.flatMap(({ name, live }) =>
    live === null ? [] : [{ name, findings: findingsFor(document, live, catalogues) }],
  );
  const isSame = (a: Finding) => (b: Finding) => JSON.stringify(a) === JSON.stringify(b);
  // What is so for every source is said once; what is so for some, with their names.
  const all = each.flatMap(({ name, findings }, index) =>
    findings.flatMap((finding) => {
      const everywhere = each.every((other) => other.findings.some(isSame(finding)));
      if (everywhere) return index === 0 ? [finding] : [];
      return [{ ...finding, message: `From "${name}": ${finding.message}` }];
    }),
  );
  const order = { blocker: 0, warning: 1, hint: 2 };
  return all.sort((a, b) => order[a.level] - order[b.level]);
}

function findingsFor(
  document: RouteDocument,
  source: SourceDocument,
  catalogues: PreflightInput['catalogues'],
): Finding[] {
  const { fields } = source;
  const findings = consentFindings(document, source);
  if (identifyingFields(fields).length === 0) {
    findings.push(
      blocker(
        'source',
        'Nothing in the source says who somebody is.',
        'Add an email field to the source, or keep its phone or id as such, and publish it.',
      ),
    );
  }
  if (document.targets.length === 0) findings.push(blocker('target', 'It leads nowhere yet.', 'Choose a connection.'));
  document.targets.forEach((target, index) => {
    const own = targetFindings(target, catalogues[target.connectionId], fields);
    findings.push(...own.map((finding) => ({ ...finding, target: index })));
  });
  return [...findings, ...unusedFindings(document, fields)];
}

const blocker = (part: Finding['part'], message: string, fix: string): Finding => ({
  level: 'blocker',
  part,
  message,
  fix,
});
const warning = (part: Finding['part'], message: string, fix: string): Finding => ({
  level: 'warning',
  part,
  message,
  fix,
});

function consentFindings({ consent }: RouteDocument, { fields, statement }: SourceDocument): Finding[] {
  const findings: Finding[] = [];
  if (consent.purpose.trim() === '') {
    findings.push(
      blocker('consent', 'It does not say what people consent to.', 'Name the purpose, such as "newsletter".'),
    );
  }
  if (consent.tickField !== '' && !fields.some(({ id, type }) => id === consent.tickField && type === 'yes/no')) {
    findings.push(
      blocker(
        'consent',
        `The tick box "${consent.tickField}" is not in the source.`,
        'Choose another tick box, or none.',
      ),
    );
  }
  if (consent.tickField === '' && statement.trim() === '') {
    findings.push(
      blocker(
        'consent',
        'Nothing says what people agree to, so there would be no proof.',
        'Choose the tick box that gives consent, or write a consent sentence beside the button in the source.',
      ),
    );
  }
  if (consent.mode === 'double' && !identifyingFields(fields).some((field) => keyKindOf(field) === 'email')) {
    findings.push(
      blocker(
        'consent',
        'The source asks for no address at which people could confirm.',
        'Choose single opt-in, or add an email field to the source.',
      ),
    );
  }
  if (consent.mode === 'double' && !consent.mail.body.includes('{link}')) {
    findings.push(blocker('consent', 'The confirmation mail has no link.', 'Put {link} where the link belongs.'));
  }
  if (consent.mode === 'single') {
    findings.push({
      level: 'hint',
      part: 'consent',
      message:
        'Single opt-in: typing mistakes and robots reach the list, and nobody proves that the address is theirs.',
      fix: 'Choose double opt-in unless you know why not.',
    });
  }
  return findings;
}

/** Whether the place still exists, and whether the service can do what is asked of it there. */
function placeFindings(target: Target, { lists, kinds, can }: Catalogue): Finding[] {
  const findings: Finding[] = [];
  const list = lists.find(({ id }) => id === target.list);
  if (can.kinds && !kinds.some(({ id }) => id === target.kind)) {
    findings.push(
      target.kind === ''
        ? blocker('target', `No ${can.calls.kind} is chosen.`, `Choose which ${can.calls.kind} is to be filled.`)
        : blocker('target', `The chosen ${can.calls.kind} is gone there.`, `Choose another ${can.calls.kind}.`),
    );
  }
  if (can.lists && target.list === '') {
    findings.push(
      warning('target', `No ${can.calls.list} is chosen, so people arrive in none.`, `Choose a ${can.calls.list}.`),
    );
  } else if (can.lists && !list) {
    findings.push(
      blocker('target', `The chosen ${can.calls.list} is gone there.`, `Choose another ${can.calls.list}.`),
    );
  } else if (list && target.group !== '' && !list.groups.some(({ id }) => id === target.group)) {
    findings.push(blocker('target', `The chosen group is not in ${list.name}.`, 'Choose another group, or none.'));
  }
  if (!can.duplicates.includes(target.duplicates)) {
    findings.push(
      blocker(
        'target',
        `This kind of service cannot "${target.duplicates}" who is there already.`,
        `Choose ${can.duplicates.map((policy) => `"${policy}"`).join(' or ')}.`,
      ),
    );
  }
  const kind = kinds.find(({ id }) => id === target.kind);
  if (kind?.repeats && target.duplicates !== 'add' && can.duplicates.includes('add')) {
    findings.push(
      warning(
        'target',
        `Each ${kind.name} is a thing of its own, and somebody's second one would change the first ("${target.duplicates}").`,
        'Choose "Add another" for who is there already.',
      ),
    );
  }
  findings.push(...leavingFindings(target, { lists, can }));
  if (!can.tags && (target.tags.length > 0 || target.tagRules.length > 0)) {
    findings.push(
      warning('tags', 'This kind of service has no tags; those set here go nowhere.', 'Take the tags away.'),
    );
  }
  return findings;
}

/** Whether what is to be taken away can be, and does not undo what the same target does. */
function leavingFindings(target: Target, { lists, can }: Pick<Catalogue, 'lists' | 'can'>): Finding[] {
  const findings: Finding[] = [];
  for (const { list: id, group } of target.leaves) {
    const list = lists.find((candidate) => candidate.id === id);
    const inside = list?.groups.find((candidate) => candidate.id === group);
    const word = group === '' ? can.calls.list : can.calls.group;
    const name = inside?.name ?? list?.name ?? id;
    if (!(group === '' ? can.leavesLists : can.leavesGroups)) {
      findings.push(
        warning('target', `This kind of service takes nobody out of a ${word}.`, `Take ${name} off "Take out of".`),
      );
    } else if (!list || (group !== '' && !inside)) {
      findings.push(
        blocker('target', `A ${word} that people are taken out of is gone there.`, 'Take it off "Take out of".'),
      );
    } else if (group === '' ? target.list === id : target.group === group) {
      findings.push(blocker('target', `People are put into ${name} and taken out of it again.`, 'Do one of the two.'));
    }
  }
  const both = target.tagsOff.filter(
    (tag) => target.tags.includes(tag) || target.tagRules.some((rule) => rule.tag === tag),
  );
  if (both.length > 0)
    findings.push(blocker('tags', `Set and taken off by the same target: ${both.join(', ')}.`, 'Do one of the two.'));
  if (target.tagsOff.length > 0 && !can.untags)
    findings.push(warning('tags', 'This kind of service takes no tags off people.', 'Empty "Tags taken off".'));
  return findings;
}

/** Whether a target's condition can be decided at all. */
function conditionFindings({ when }: Target, fields: SourceField[]): Finding[] {
  if (when === null) return [];
  const known = factFields(fields);
  const gone = fieldsAskedFor(when).filter((field) => !known.some(({ id }) => id === field));
  const findings = gone.map((field) =>
    blocker(
      'target',
      `It goes to some people only, by "${field}", which the live source does not have.`,
      'Choose another field, or publish the source if it is new.',
    ),
  );
  if (lacksValue(when))
    findings.push(blocker('target', 'A condition is compared with nothing.', 'Enter what it is compared with.'));
  return findings;
}

const lacksValue = (condition: Condition): boolean =>
  condition.kind === 'test'
    ? TESTS[condition.test].needsValue && condition.value.trim() === ''
    : condition.of.some(lacksValue);

/** The field by which a destination knows people: its required address, or its first. */
const identityField = (destination: DestinationField[]): DestinationField | undefined =>
  destination.find(({ type, required, ours }) => type === 'email' && required && !ours) ??
  destination.find(({ type, ours }) => type === 'email' && !ours);

function targetFindings(target: Target, catalogue: Catalogue | undefined, fields: SourceField[]): Finding[] {
  if (!catalogue)
    return [blocker('target', 'The target has no verified connection.', 'Choose a connection, and verify it.')];
  const findings = [...placeFindings(target, catalogue), ...conditionFindings(target, fields)];
  const destination = fieldsFor(catalogue, target);
  const lines = new Map(target.lines.map((line) => [line.to, line]));
  for (const field of requiredFirst(destination)) {
    const line = lines.get(field.key);
    const origin = line?.from.kind === 'field' ? line.from.field : null;
    const sourceField = factFields(fields).find(({ id }) => id === origin);
    if (!line) {
      if (field.required)
        findings.push(
          blocker(
            'mapping',
            `${field.label} is required there, and nothing is mapped to it.`,
            'Map a field to it, or give it a fixed value.',
          ),
        );
      continue;
    }
    if (origin !== null && !sourceField) {
      findings.push(
        blocker(
          'mapping',
          `${field.label} is filled from "${origin}", which the live source does not have.`,
          'Publish the source if the field is new, or choose another field.',
        ),
      );
      continue;
    }
    // One does not hide another: all that is wrong with a field is said at once.
    if (field.ours && (sourceField || fieldsUsed(line).length > 0)) {
      findings.push(
        blocker(
          'mapping',
          `${field.label} is an address or word of your own, and would be filled with what the visitor says.`,
          'Choose "a fixed value", and enter your own.',
        ),
      );
    }
    if (field === identityField(destination) && sourceField && !identifyingFields(fields).includes(sourceField)) {
      findings.push(
        blocker(
          'mapping',
          `${field.label} has to be the address that identifies the person, and ${sourceField.label} is not.`,
          "Map the email field that is kept as the contact's email.",
        ),
      );
    }
    if (field.required && sourceField && !sourceField.required && sourceField.widget !== 'hidden') {
      const [why, fix] = VISIT_FIELDS.includes(sourceField)
        ? [`not every submission says its ${sourceField.label}.`, 'Choose a field that everybody fills in.']
        : [`visitors may leave ${sourceField.label} empty.`, `Make ${sourceField.label} required in the source.`];
      findings.push(warning('mapping', `${field.label} is required there, but ${why}`, fix));
    }
    if (sourceField?.type === 'yes/no' && field.type === 'number' && !line.steps.includes('yes/no to 1/0')) {
      findings.push(
        warning(
          'mapping',
          `${field.label} takes a number, and ${sourceField.label} is yes or no.`,
          'Add the step "yes/no to 1/0".',
        ),
      );
    }
  }
  for (const line of target.lines) {
    const unknown =
      line.from.kind === 'text'
        ? fieldsUsed(line).filter((used) => !factFields(fields).some(({ id }) => id === used))
        : [];
    if (unknown.length > 0) {
      findings.push(
        blocker(
          'mapping',
          `The text for ${line.to} has {${unknown.join('}, {')}} in it, which the live source does not have.`,
          'Write the field names as the source has them, or publish the source if the field is new.',
        ),
      );
    }
    if (!destination.some(({ key }) => key === line.to)) {
      findings.push(warning('mapping', `"${line.to}" is mapped, but is no field there any more.`, 'Remove the line.'));
    }
  }
  return findings;
}

/** Answers that go to none of the targets. */
function unusedFindings({ targets }: RouteDocument, fields: SourceField[]): Finding[] {
  const used = new Set(
    targets.flatMap(({ lines, tagRules, when }) => [
      ...lines.flatMap(fieldsUsed),
      ...tagRules.map(({ field }) => field),
      ...(when ? fieldsAskedFor(when) : []),
    ]),
  );
  return fields
    .filter((field) => !isTick(field) && targets.length > 0 && !used.has(field.id))
    .map(({ label }) => ({
      level: 'hint' as const,
      part: 'mapping' as const,
      message: `${label} goes nowhere: its answers stay in Iwashi.`,
      fix: 'Map it, or leave it if that is meant.',
    }));
}
