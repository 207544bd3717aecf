import { assign } from './assign.ts';
import { likeness } from './likeness.ts';
import { readingsOf, type NamedField } from './meaning.ts';
import { folded, wordsOf } from './words.ts';

/** Something there that an answer can stand for: one of a field's choices, a tag, a group. */
export interface Namesake {
  id: string;
  name: string;
}

/** An answer, and what it most likely stands for there. */
export interface AnswerMatch {
  answer: string;
  id: string;
  /** From 0 to 1. */
  confidence: number;
}

const OFFERED_FROM = 0.5;
/** All words of the one are in the other: "planets" in "The Moon and planets". */
const CONTAINED = 0.85;

/** Which answer stands for which choice, tag or group there: each at most for one, and the whole as alike as it can be. */
export function matchAnswers(answers: string[], namesakes: Namesake[]): AnswerMatch[] {
  const scores = answers.map((answer) => namesakes.map(({ name }) => alike(answer, name)));
  return assign(scores.map((row) => row.map((score) => (score >= OFFERED_FROM ? score : 0)))).flatMap(
    ([row, column]) => {
      const answer = answers[row];
      const there = namesakes[column];
      return answer !== undefined && there ? [{ answer, id: there.id, confidence: scores[row]?.[column] ?? 0 }] : [];
    },
  );
}

function alike(answer: string, name: string): number {
  if (folded(answer).trim() === folded(name).trim()) return 1;
  const here = named(answer);
  const there = named(name);
  const { score } = likeness(readingsOf([here]).get(here) ?? [], readingsOf([there]).get(there) ?? []);
  return Math.max(score, contained(answer, name), contained(name, answer));
}

function contained(whole: string, part: string): number {
  const words = wordsOf(whole);
  const parts = wordsOf(part);
  return parts.length > 0 && parts.every((word) => words.includes(word)) ? CONTAINED : 0;
}

const named = (name: string): NamedField => ({ key: name, label: name, type: 'text', answers: [], keepAs: '' });
