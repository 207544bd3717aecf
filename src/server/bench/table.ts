import { monitorEventLoopDelay } from 'node:perf_hooks';
import { Worker } from 'node:worker_threads';
import { chainOf, plainLine, READY, type DestinationField } from '../../core/mapping/index.ts';
import { NOBODY, type Catalogue, type Judging, type KnownSample } from '../../core/plan/index.ts';
import { plainField } from '../../core/values/index.ts';
import { abilitiesOf } from '../connectors/catalogue.ts';
import { profileOf } from '../connectors/registry.ts';
import { skyLetterForm, skyLetterRoute } from '../demo/documents.ts';

const SAMPLES = 500;
const EDITS = 40;
const LINES = 25;

const FIELD: DestinationField = { key: '', label: '', type: 'text', required: false, choices: [], maxLength: 200 };

/** A route of many lines with steps, over the samples of the observatory's form. */
function setting(): { samples: KnownSample[]; judging: Judging } {
  const { fields, statement, trust } = skyLetterForm('');
  const more = Array.from({ length: LINES }, (_, index) => plainField(`extra${index}`, 'text'));
  const route = skyLetterRoute('S', 'C');
  const [target] = route.targets;
  if (!target) throw new Error('the route has no target');
  const lines = more.map(({ id }) =>
    plainLine({
      id,
      to: id,
      from: { kind: 'field', field: id },
      steps: chainOf(READY.trim, READY.lowerCase, { kind: 'look-up', options: { pairs: [['a', 'b']] } }),
    }),
  );
  const draft = { ...route, targets: [{ ...target, lines: [...target.lines, ...lines] }] };
  const catalogue: Catalogue = {
    lists: [],
    tags: [],
    kinds: [],
    fields: ['email', 'given', 'family', ...more.map(({ id }) => id)].map((key) => ({ ...FIELD, key, label: key })),
    can: abilitiesOf(profileOf('tern-post')),
  };
  const samples = Array.from({ length: SAMPLES }, (_, index): KnownSample => {
    const email = `visitor${index}@hill.example`;
    return {
      id: String(index),
      receivedAt: '2026-05-31T12:00:00Z',
      values: {
        name: `Mara Quill${index}`,
        email,
        interests: ['Taking pictures'],
        telescope: true,
        consent: true,
        page: 'sky-letter',
        ...Object.fromEntries(more.map(({ id }) => [id, ` Words ${index} `])),
      },
      visit: {},
      keys: [{ kind: 'email', value: email }],
      known: NOBODY,
    };
  });
  return {
    samples,
    judging: {
      fields: [...fields, ...more],
      statement,
      trust,
      catalogues: { C: catalogue },
      now: 0,
      draft,
      live: route,
    },
  };
}

const median = (figures: number[]): number => [...figures].sort((a, b) => a - b)[Math.floor(figures.length / 2)] ?? 0;

/** Prints how soon a draft over many samples shows its first rows after an edit, and how long typing is held up by it. */
export async function printTable(): Promise<void> {
  const { samples, judging } = setting();
  const worker = new Worker(new URL('./bench-table.js', import.meta.url));
  const firsts: number[] = [];
  const wholes: number[] = [];
  worker.postMessage({ samples });
  const delay = monitorEventLoopDelay({ resolution: 1 });
  for (let round = 1; round <= EDITS; round += 1) {
    // The first rounds warm up, as the interface is when somebody types.
    if (round === EDITS / 2) delay.enable();
    const began = performance.now();
    await new Promise<void>((resolve) => {
      let isFirst = true;
      const hear = (said: { round: number; isLast: boolean }) => {
        if (said.round !== round) return;
        if (isFirst) firsts.push(performance.now() - began);
        isFirst = false;
        if (!said.isLast) return;
        wholes.push(performance.now() - began);
        worker.off('message', hear);
        resolve();
      };
      worker.on('message', hear);
      worker.postMessage({ round, judging: { ...judging, draft: { ...judging.draft } } });
    });
  }
  delay.disable();
  const late = Math.max(0, delay.max / 1e6 - 1);
  console.log(
    `table    ${SAMPLES} samples, ${LINES + 5} lines: first rows after ${median(firsts).toFixed(0)} ms (aim 50), all after ${median(wholes).toFixed(0)} ms; typing held up for ${late.toFixed(0)} ms at most (aim 16)`,
  );
  await worker.terminate();
}
