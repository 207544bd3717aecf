/** A JSON Schema, as far as proposals read it. */
export interface Schema {
  type?: string | string[];
  properties?: Record<string, Schema>;
  items?: Schema;
  enum?: unknown[];
  additionalProperties?: unknown;
  required?: string[];
  maxLength?: number;
  allOf?: Schema[];
  oneOf?: Schema[];
  anyOf?: Schema[];
}

export const isOf = ({ type }: Schema, wanted: string): boolean =>
  Array.isArray(type) ? type.includes(wanted) : type === wanted;

/** The members of a schema, through what it is put together from. */
export function membersOf(schema: Schema | undefined): Record<string, Schema> {
  if (!schema) return {};
  const parts = [...(schema.allOf ?? []), ...(schema.oneOf ?? []).slice(0, 1), ...(schema.anyOf ?? []).slice(0, 1)];
  return Object.assign({}, ...parts.map(membersOf), schema.properties ?? {}) as Record<string, Schema>;
}

/** Names that services give to one thing. */
export const EMAIL = /^(e-?mail|mail|e-?mail_?address|address|user_?email)$/i;
export const ID = /^(id|uuid|code|slug|key|no|number)$/i;
export const NAME = /^(name|title|label|heading|display_?name)$/i;
export const FIELDS = /^(fields|attributes|properties|custom_?fields|values|cells|data)$/i;

export const STATE = /^(state|status)$/i;
export const LISTS = /^lists?(_?ids?)?$/i;
export const GROUPS = /^groups?(_?ids?)?$/i;
export const TAGS = /^(tags|labels)$/i;

const PROOF = /^(confirmed|confirmation|consent|proof)$/i;

/** Whether it takes when and in what words a person confirmed. */
export const isProof = (name: string, member: Schema): boolean => PROOF.test(name) && isOf(member, 'object');

/** The first member whose name is one of those meant. */
export const memberNamed = (members: Record<string, Schema>, meant: RegExp): string | undefined =>
  Object.keys(members).find((name) => meant.test(name));

/** Whether a schema has an address in it, as a person has. */
export const hasEmail = (schema: Schema): boolean => memberNamed(membersOf(schema), EMAIL) !== undefined;

const step = (name: string): string => (/^[A-Za-z_]\w*$/.test(name) ? `.${name}` : `['${name.replace(/'/g, "\\'")}']`);

export const pathTo = (...names: string[]): string => `$${names.map(step).join('')}`;

/** Where the first schema that fits is, at most three members deep: the path to it, and itself. */
export function findSchema(
  schema: Schema | undefined,
  fits: (candidate: Schema) => boolean,
  path = '$',
  depth = 0,
): { path: string; schema: Schema } | null {
  if (!schema || depth > 3) return null;
  if (fits(schema)) return { path, schema };
  for (const [name, member] of Object.entries(membersOf(schema))) {
    const found = findSchema(member, fits, path + step(name), depth + 1);
    if (found) return found;
  }
  return schema.items ? findSchema(schema.items, fits, `${path}[0]`, depth + 1) : null;
}
