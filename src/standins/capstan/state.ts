/** A column of a record kind. */
export interface Column {
  code: string;
  title: string;
  form: 'mail' | 'words' | 'whole' | 'tick' | 'pick' | 'day' | 'call';
  must: boolean;
  picks: string[];
  most: number | null;
}

export interface Kind {
  slug: string;
  title: string;
  /** Whether one address may stand on several records of this kind. */
  repeats: boolean;
  columns: Column[];
}

export interface CapstanRecord {
  no: string;
  kind: string;
  cells: Record<string, string>;
  segments: string[];
  made: string;
  changes: number;
}

export interface CapstanState {
  office: { title: string };
  pairs: { key: string; secret: string; rights: string[]; revoked: boolean }[];
  kinds: Kind[];
  segments: { code: string; title: string }[];
  records: CapstanRecord[];
  /** Requests a second, and how many may come at once, for one key. */
  pace: { perSecond: number; burst: number };
}

const column = (code: string, title: string, form: Column['form'], more: Partial<Column> = {}): Column => ({
  code,
  title,
  form,
  must: false,
  picks: [],
  most: form === 'words' ? 200 : null,
  ...more,
});

/** The observatory's office, as somebody prepared it. */
export function newState(key: string, secret: string): CapstanState {
  return {
    office: { title: 'Pellam Ridge front office' },
    pairs: [
      { key, secret, rights: ['look', 'write'], revoked: false },
      { key: `${key}-looks-only`, secret, rights: ['look'], revoked: false },
    ],
    kinds: [
      {
        slug: 'person',
        title: 'Person',
        repeats: false,
        columns: [
          column('mail', 'Mail address', 'mail', { must: true }),
          column('called', 'Called', 'words', { must: true, most: 120 }),
          column('town', 'Town', 'words', { most: 80 }),
          column('telephone', 'Telephone', 'call'),
          column('school', 'School', 'words'),
          column('wants_letter', 'Wants the letter', 'tick'),
          column('came_by', 'Came by', 'pick', { picks: ['site', 'shop', 'front desk'] }),
        ],
      },
      {
        slug: 'enquiry',
        title: 'Enquiry',
        repeats: true,
        columns: [
          column('mail', 'Mail address', 'mail', { must: true }),
          column('subject', 'Subject', 'words', { must: true, most: 120 }),
          column('heads', 'How many come', 'whole'),
          column('wished_for', 'Wished-for day', 'day'),
          column('note', 'Note', 'words', { most: 1000 }),
        ],
      },
      {
        slug: 'callback',
        title: 'Call back',
        repeats: true,
        columns: [
          column('telephone', 'Telephone', 'call', { must: true }),
          column('called', 'Called', 'words', { most: 120 }),
          column('heads', 'How many come', 'whole'),
          column('papers', 'Papers', 'words', { most: 300 }),
          column('note', 'Note', 'words', { most: 1000 }),
        ],
      },
    ],
    segments: [
      { code: 'S1', title: 'Schools' },
      { code: 'S2', title: 'Members' },
      { code: 'S3', title: 'Letter readers' },
    ],
    records: [],
    pace: { perSecond: 200, burst: 400 },
  };
}
