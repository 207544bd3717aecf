import type { Catalogue } from '../catalogue.ts';
import type { Target } from '../route.ts';
import { blocker, warning, type Finding } from './finding.ts';

/** Whether the place still exists, and whether the service can do what is asked of it there. */
export function placeFindings(target: Target, { lists, kinds, can }: Catalogue): Finding[] {
  const findings: Finding[] = [];
  if (can.kinds && !kinds.some(({ id }) => id === target.kind)) {
    findings.push(
      target.kind === ''
        ? blocker('target', `No ${can.calls.kind} is chosen.`, `Choose which ${can.calls.kind} is to be filled.`)
        : blocker('target', `The chosen ${can.calls.kind} is gone there.`, `Choose another ${can.calls.kind}.`),
    );
  }
  if (can.lists && target.places.every(({ list }) => list === '')) {
    findings.push(
      warning('target', `No ${can.calls.list} is chosen, so people arrive in none.`, `Choose a ${can.calls.list}.`),
    );
  }
  for (const place of can.lists ? target.places.filter(({ list }) => list !== '') : []) {
    const list = lists.find(({ id }) => id === place.list);
    if (!list)
      findings.push(
        blocker('target', `The chosen ${can.calls.list} is gone there.`, `Choose another ${can.calls.list}.`),
      );
    else if (place.group !== '' && !list.groups.some(({ id }) => id === place.group))
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
  if (!can.tags && target.tags.length > 0) {
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
    } else if (target.places.some((place) => (group === '' ? place.list === id : place.group === group))) {
      findings.push(blocker('target', `People are put into ${name} and taken out of it again.`, 'Do one of the two.'));
    }
  }
  const both = target.tagsOff.filter((tag) => target.tags.some((set) => set.tag === tag));
  if (both.length > 0)
    findings.push(blocker('tags', `Set and taken off by the same target: ${both.join(', ')}.`, 'Do one of the two.'));
  if (target.tagsOff.length > 0 && !can.untags)
    findings.push(warning('tags', 'This kind of service takes no tags off people.', 'Empty "Tags taken off".'));
  return findings;
}
