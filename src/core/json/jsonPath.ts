import { jsonpath, JSONPathEnvironment, type JSONPathNode, type JSONPathQuery, type JSONValue } from 'json-p3';
import { RE2JS } from 're2js';
import { memoize } from './memoize.ts';

const { functions, selectors } = jsonpath;

/** What a path asks for, of what it is asked of, takes more steps than anybody waits for. */
export class TooManySteps extends Error {
  constructor() {
    super(
      'Looking for what its paths name takes more steps than are taken. Make the paths plainer, or the payload smaller.',
    );
  }
}

/** So many steps may be taken for all paths that are looked for in one payload: a tenth of a second; and for one in an answer of a service. */
export const MOST_STEPS = 100_000;
/** The same for what is looked for beside its fields: its parts, their ids and kinds, files in it. */
export const STEPS_BESIDE = 20_000;
const STEPS_IN_ANSWER = 1_000_000;
/** A regular expression may be so long: those that people write are. */
const LONGEST_PATTERN = 500;
/** So many characters of a text that is searched count as a step. */
const SEARCHED_A_STEP = 32;

/** Steps that are left; null while nothing is looked for. */
let left: number | null = null;

function spend(steps: number): void {
  if (left === null) return;
  left -= steps;
  if (left < 0) throw new TooManySteps();
}

/**
 * Does something within one budget of steps, however many paths are looked for in it. What is within another one uses that one's.
 * @throws TooManySteps
 */
export function withinSteps<T>(work: () => T, most = MOST_STEPS): T {
  if (left !== null) return work();
  left = most;
  try {
    return work();
  } finally {
    left = null;
  }
}

/** Of an expression as RFC 9485 has it, the sign for any character as this engine has it: neither of the two ends of a line. */
const inRe2 = (pattern: string): string =>
  pattern.replace(/\\.|\[(?:\\.|[^\]\\])*\]|\./gs, (part) => (part === '.' ? '[^\\n\\r]' : part));

const compiled = memoize((pattern: string) => RE2JS.compile(inRe2(pattern)));

/**
 * The functions of RFC 9535, 2.4.6 and 2.4.7, by an engine whose time grows with the text and not faster, whatever is written in the
 * pattern: operators write patterns, and payloads may hold them.
 */
class LinearFunction {
  readonly argTypes = [functions.FunctionExpressionType.ValueType, functions.FunctionExpressionType.ValueType];
  readonly returnType = functions.FunctionExpressionType.LogicalType;
  /** Knows what is an expression of RFC 9485; tried on no text. */
  readonly #known = new functions.Match({ throwErrors: true, cacheSize: 0 });
  readonly #isWhole: boolean;
  readonly #isExpression = memoize((pattern: string): { is: boolean } => {
    try {
      this.#known.call('', pattern);
      return { is: true };
    } catch {
      return { is: false };
    }
  });

  constructor(isWhole: boolean) {
    this.#isWhole = isWhole;
  }

  call(text: unknown, pattern: unknown): boolean {
    if (typeof text !== 'string' || typeof pattern !== 'string' || pattern.length > LONGEST_PATTERN) return false;
    spend(Math.ceil(text.length / SEARCHED_A_STEP));
    if (!this.#isExpression(pattern).is) return false;
    try {
      return this.#isWhole ? compiled(pattern).matches(text) : compiled(pattern).matcher(text).find();
    } catch {
      return false;
    }
  }
}

class BoundedEnvironment extends JSONPathEnvironment {
  override setupFilterFunctions(): void {
    super.setupFilterFunctions();
    this.functionRegister.set('match', new LinearFunction(true));
    this.functionRegister.set('search', new LinearFunction(false));
  }
}

// Every node that a selector is asked about is a step, and every one that it finds. The package has no place for this but its own classes.
for (const selector of [
  selectors.NameSelector,
  selectors.IndexSelector,
  selectors.SliceSelector,
  selectors.WildcardSelector,
  selectors.FilterSelector,
]) {
  const resolve: (node: JSONPathNode) => JSONPathNode[] = Reflect.get(selector.prototype, 'resolve');
  // Where something is found is written down from the root: what is deep costs more.
  const each = selector === selectors.NameSelector || selector === selectors.IndexSelector ? 0 : 2;
  selector.prototype.resolve = function counted(this: unknown, node: JSONPathNode) {
    spend(1 + (node.location.length >> 3));
    const found = resolve.call(this, node);
    spend(found.length * each);
    return found;
  };
}

/** What is deeper was refused where it was read. */
const DEEPEST = 200;

const environment = new BoundedEnvironment({ maxRecursionDepth: DEEPEST });
const queries = memoize((path: string): JSONPathQuery => environment.compile(path));

/** Everything a JSONPath (RFC 9535) finds. @throws TooManySteps */
export const all = (body: unknown, path: string): unknown[] =>
  withinSteps(
    () =>
      queries(path)
        .query(body as JSONValue)
        .values(),
    STEPS_IN_ANSWER,
  );

/** The first thing that a JSONPath finds; undefined when there is none, or no path. */
export const one = (body: unknown, path: string | undefined): unknown =>
  path === undefined ? undefined : all(body, path)[0];

/** A text or figure as text; anything else as ''. */
export const textOf = (value: unknown): string =>
  typeof value === 'string' || typeof value === 'number' ? String(value) : '';

/** The text that a JSONPath finds. */
export const textAt = (body: unknown, path: string | undefined): string => textOf(one(body, path));

/** Every text that a JSONPath finds. */
export const textsAt = (body: unknown, path: string | undefined): string[] =>
  path === undefined ? [] : all(body, path).map(textOf);

/** Everything that a JSONPath finds, with where it stands: names and indexes from the root. @throws TooManySteps */
export const located = (body: unknown, path: string): { value: unknown; location: (string | number)[] }[] =>
  withinSteps(() => queries(path).query(body as JSONValue).nodes, STEPS_IN_ANSWER);

/** The step of a JSONPath to what has a name: short where the name allows it (RFC 9535, 2.5.1). */
export const stepTo = (name: string): string =>
  /^[A-Za-z_]\w*$/.test(name) ? `.${name}` : `[${JSON.stringify(name)}]`;

/** Whether a text is a JSONPath. */
export function isPath(path: string): boolean {
  try {
    queries(path);
    return true;
  } catch {
    return false;
  }
}
