/** Numbers that look random and are the same on every machine (mulberry32, public domain). @param seed any whole number */
export function seededRandom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

// Invented, and meant to look so.
export const GIVEN = [
  'Mara',
  'Idris',
  'Wren',
  'Tobin',
  'Selka',
  'Orrin',
  'Petra',
  'Callum',
  'Ysolde',
  'Bram',
  'Nadia',
  'Fennec',
  'Ottilie',
  'Jory',
  'Lumen',
  'Asha',
  'Corin',
  'Delphine',
  'Emrys',
  'Hollis',
  'Ingrid',
  'Kasimir',
  'Linnet',
  'Maren',
  'Nils',
  'Oona',
  'Perrin',
  'Quilla',
  'Roan',
  'Sunniva',
  'Tamsin',
  'Ulric',
  'Vesper',
  'Willa',
  'Xanthe',
  'Yarrow',
  'Zephyr',
];
export const FAMILY = [
  'Quillfeather',
  'Ashdownley',
  'Valebright',
  'Thistlewick',
  'Marrowby',
  'Penhallowe',
  'Starling-Moss',
  'Brackenhythe',
  'Oldacre-Finn',
  'Larkspurn',
  'Duskwater',
  'Hobbleday',
  'Fernsby-Roe',
  'Grimwold',
  'Juniperley',
  'Kettlebrook',
  'Merriglen',
  'Nightjarre',
  'Owlsworth',
  'Pebblecombe',
  'Ravelstone',
  'Sedgemire',
  'Tanglewood-Hay',
  'Underbough',
  'Wickerdale',
];
export const DOMAINS = [
  'hilltop.example',
  'reservoir-road.example',
  'postbox.example',
  'lantern-row.example',
  'pellam-village.example',
  'quietmail.example',
];

export interface Invented {
  given: string;
  family: string;
  email: string;
}

/** Invented people, each with an address of their own. */
export function inventPeople(count: number, random: () => number): Invented[] {
  const taken = new Set<string>();
  const people: Invented[] = [];
  while (people.length < count) {
    const given = pick(GIVEN, random);
    const family = pick(FAMILY, random);
    const email = `${given}.${family}@${pick(DOMAINS, random)}`.toLowerCase().replace(/[^a-z0-9@.-]/g, '');
    if (taken.has(email)) continue;
    taken.add(email);
    people.push({ given, family, email });
  }
  return people;
}

export function pick<T>(items: readonly T[], random: () => number): T {
  const item = items[Math.floor(random() * items.length)];
  if (item === undefined) throw new Error('nothing to pick from');
  return item;
}
