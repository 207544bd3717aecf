import { useEffect, useState } from 'react';

const REST_MS = 250;

/** What is typed, once it rests: so that not every letter is asked for. */
export function useRested(text: string): string {
  const [rested, setRested] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setRested(text), REST_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return rested;
}
