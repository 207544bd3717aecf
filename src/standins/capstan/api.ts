import { Hono, type Context } from 'hono';
import { Pace } from './pace.ts';
import { changeRecord, makeRecord, recordsWhere, type Cells, type Trouble } from './records.ts';
import { whoSigned, type Refusal } from './signing.ts';
import type { CapstanState, Kind } from './state.ts';

const PAGE = 2;

interface Signed {
  Variables: { rights: string[] };
}

/** Capstan's API: signed requests, record kinds with columns, pages by number, answers that say ok or not. */
export function capstanApi(state: () => CapstanState, changed: () => void): Hono<Signed> {
  const api = new Hono<Signed>();
  const pace = new Pace();
  const no = (
    c: Context,
    { status, ...trouble }: Trouble | Refusal | { status: 403 | 404 | 429; code: string; text: string },
  ) => c.json({ ok: false, ...trouble }, status);

  api.use(async (c, next) => {
    const url = new URL(c.req.url);
    const key = c.req.header('capstan-key') ?? '';
    const signed = whoSigned(
      state(),
      {
        method: c.req.method,
        target: url.pathname + url.search,
        body: await c.req.text(),
        key,
        time: c.req.header('capstan-time') ?? '',
        sign: c.req.header('capstan-sign') ?? '',
      },
      Date.now() / 1000,
    );
    if ('refusal' in signed) return no(c, signed.refusal);
    const allowed = state().pace;
    const { ok, left, seconds } = pace.take(key, allowed, Date.now());
    const told = { 'x-ratelimit-limit': allowed.burst, 'x-ratelimit-remaining': left, 'x-ratelimit-reset': seconds };
    for (const [name, value] of Object.entries(told)) c.header(name, String(value));
    if (!ok) return no(c, { status: 429, code: 'TOO_FAST', text: 'Too many requests for this key.' });
    const right = c.req.method === 'GET' ? 'look' : 'write';
    if (!signed.pair.rights.includes(right))
      return no(c, { status: 403, code: 'NO_RIGHT', text: `This key has no right to ${right}.` });
    c.set('rights', signed.pair.rights);
    return next();
  });

  const paged = (c: Context, all: unknown[]) => {
    const page = Math.max(1, Number(c.req.query('page') ?? 1));
    const pages = Math.max(1, Math.ceil(all.length / PAGE));
    return c.json({ ok: true, rows: all.slice((page - 1) * PAGE, page * PAGE), page, pages });
  };
  const kindOf = (c: Context): Kind | undefined => state().kinds.find(({ slug }) => slug === c.req.param('kind'));
  const noKind = (c: Context) => no(c, { status: 404, code: 'NO_KIND', text: 'There is no such record kind.' });

  api.get('/who', (c) => c.json({ ok: true, office: state().office, rights: c.get('rights') }));
  api.get('/kinds', (c) =>
    paged(
      c,
      state().kinds.map(({ slug, title, repeats }) => ({ slug, title, repeats })),
    ),
  );
  api.get('/kinds/:kind/columns', (c) => {
    const kind = kindOf(c);
    return kind ? paged(c, kind.columns) : noKind(c);
  });
  api.post('/kinds/:kind/columns', async (c) => {
    const kind = kindOf(c);
    if (!kind) return noKind(c);
    const { title = '', form = 'words', picks = '' } = await cellsOf(c);
    const code = title
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '_')
      .slice(0, 40);
    const column = {
      code,
      title,
      form: form as 'words',
      must: false,
      picks: picks.split('\n').filter((pick) => pick !== ''),
      most: 200,
    };
    kind.columns.push(column);
    changed();
    return c.json({ ok: true, column }, 201);
  });
  api.get('/segments', (c) => paged(c, state().segments));
  api.post('/segments', async (c) => {
    const { title = '' } = await cellsOf(c);
    const segment = { code: `S${state().segments.length + 1}`, title };
    state().segments.push(segment);
    changed();
    return c.json({ ok: true, segment }, 201);
  });

  api.get('/records/:kind', (c) => {
    const kind = kindOf(c);
    return kind
      ? paged(c, recordsWhere(state(), kind.slug, c.req.query('where') ?? '', c.req.query('is') ?? '').reverse())
      : noKind(c);
  });
  api.post('/records/:kind', async (c) => {
    const kind = kindOf(c);
    if (!kind) return noKind(c);
    const made = makeRecord(state(), kind, await cellsOf(c));
    if ('status' in made) return no(c, made);
    changed();
    return c.json({ ok: true, record: made }, 201);
  });
  api.post('/records/:kind/:no', async (c) => {
    const kind = kindOf(c);
    const record = state().records.find((candidate) => candidate.no === c.req.param('no'));
    if (!kind || !record) return no(c, { status: 404, code: 'NO_RECORD', text: 'There is no such record.' });
    const trouble = changeRecord(record, kind, await cellsOf(c));
    if (trouble) return no(c, trouble);
    changed();
    return c.json({ ok: true, record });
  });
  api.delete('/records/:kind/:no', (c) => {
    const records = state().records;
    const at = records.findIndex((candidate) => candidate.no === c.req.param('no'));
    if (at >= 0) records.splice(at, 1);
    changed();
    return c.json({ ok: true });
  });
  api.put('/segments/:code/records/:no', (c) => member(c, (segments, code) => [...new Set([...segments, code])]));
  api.delete('/segments/:code/records/:no', (c) =>
    member(c, (segments, code) => segments.filter((candidate) => candidate !== code)),
  );

  function member(c: Context, change: (segments: string[], code: string) => string[]) {
    const code = c.req.param('code') ?? '';
    const record = state().records.find((candidate) => candidate.no === c.req.param('no'));
    if (!record) return no(c, { status: 404, code: 'NO_RECORD', text: 'There is no such record.' });
    if (!state().segments.some((segment) => segment.code === code))
      return no(c, { status: 404, code: 'NO_SEGMENT', text: 'There is no such segment.' });
    record.segments = change(record.segments, code);
    changed();
    return c.json({ ok: true, record });
  }

  return api;
}

/** The body as cells, from a form or from JSON. */
async function cellsOf(c: Context): Promise<Cells> {
  const text = await c.req.text();
  if (!(c.req.header('content-type') ?? '').includes('json')) return Object.fromEntries(new URLSearchParams(text));
  const data = JSON.parse(text) as Record<string, unknown>;
  return Object.fromEntries(Object.entries(data).map(([name, value]) => [name, String(value)]));
}
