/** An expected failure is a value: what is wrong, in words for the person who can mend it. */
export type Result<T, I = string> = { ok: true; value: T } | { ok: false; issue: I };

export const good = <T>(value: T): { ok: true; value: T } => ({ ok: true, value });
export const bad = <I>(issue: I): { ok: false; issue: I } => ({ ok: false, issue });
