import { useEffect, useRef, useState } from 'react';
import type { Judging, KnownSample, SampleRow } from '../../../../core/plan/index.ts';
import type { RehearsedRows, RehearsalRequest } from './rehearsal.worker.ts';

interface Rows {
  rows: SampleRow[];
  isDone: boolean;
  /** Which edit they belong to. */
  round: number;
}

/** What a draft makes of all samples, computed beside the interface: typing is never held up by it. */
export function useRehearsedRows(samples: KnownSample[] | undefined, judging: Judging | null): Rows {
  const [state, setState] = useState<Rows>({ rows: [], isDone: false, round: 0 });
  const worker = useRef<Worker | null>(null);
  const round = useRef(0);
  useEffect(() => {
    const made = new Worker(new URL('./rehearsal.worker.ts', import.meta.url), { type: 'module' });
    worker.current = made;
    made.onmessage = ({ data }: MessageEvent<RehearsedRows>) => {
      if (data.round !== round.current) return;
      setState((before) => ({
        rows: data.round === before.round ? [...before.rows, ...data.rows] : data.rows,
        isDone: data.isLast,
        round: data.round,
      }));
    };
    return () => made.terminate();
  }, []);
  useEffect(() => {
    if (samples) worker.current?.postMessage({ samples } satisfies RehearsalRequest);
  }, [samples]);
  useEffect(() => {
    if (!samples || !judging) return;
    round.current += 1;
    worker.current?.postMessage({ round: round.current, judging } satisfies RehearsalRequest);
  }, [samples, judging]);
  return state;
}
