const MOST_KEPT = 2_000;

/** Remembers what was made of a text. The texts come out of profiles and sources, so there are few, and each is used very often. */
export function memoize<Made>(make: (text: string) => Made): (text: string) => Made {
  const kept = new Map<string, Made>();
  return (text) => {
    const known = kept.get(text);
    if (known !== undefined) return known;
    if (kept.size >= MOST_KEPT) kept.clear();
    const made = make(text);
    kept.set(text, made);
    return made;
  };
}
