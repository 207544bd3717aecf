import { Value } from 'typebox/value';
import type { PartIssue } from '../checks.ts';
import { NEEDED_CREDENTIALS } from './credentials.ts';
import { readProfile } from './reader.ts';
import { looksInField, namesBy } from './requests.ts';
import { ProfileSchema, type Profile } from './schema.ts';

type Checked = { ok: true; value: Profile } | { ok: false; issues: PartIssue[] };

const MOST_ISSUES = 20;

/**
 * Checks a document against the schema of profiles, that it does not speak of credentials that it does not ask for, and
 * that whoever is found by it can be told from others.
 */
export function checkProfile(json: unknown): Checked {
  const read = readProfile(json);
  if (!read.ok) return { ok: false, issues: [read.issue] };
  const document: unknown = read.value;
  if (Value.Check(ProfileSchema, document)) {
    const issues = [...credentialIssues(document), ...findIssues(document), ...errorIssues(document)];
    return issues.length === 0 ? { ok: true, value: document } : { ok: false, issues };
  }
  const issues = Value.Errors(ProfileSchema, document).map(({ instancePath, message, params }) => ({
    pointer: instancePath,
    detail: [message, ...unknownMembers(params)].join(': '),
  }));
  return { ok: false, issues: mostTelling(issues).slice(0, MOST_ISSUES) };
}

/** A choice between forms reports every form that does not fit; what lies deepest is what the writer meant. */
function mostTelling(issues: PartIssue[]): PartIssue[] {
  const told = new Map<string, PartIssue>();
  for (const issue of issues) {
    const isCoveredDeeper = issues.some(
      ({ pointer }) => pointer !== issue.pointer && pointer.startsWith(`${issue.pointer}/`),
    );
    if (!isCoveredDeeper && !told.has(issue.pointer)) told.set(issue.pointer, issue);
  }
  return [...told.values()];
}

const unknownMembers = (params: object): string[] =>
  'additionalProperties' in params && Array.isArray(params.additionalProperties)
    ? [params.additionalProperties.join(', ')]
    : [];

function credentialIssues({ credentials, authentication, speaks }: Profile): PartIssue[] {
  if (speaks !== 'http') return [];
  const missing = NEEDED_CREDENTIALS[authentication.kind].filter(
    (name) => !credentials.some((one) => one.name === name),
  );
  return missing.map((name) => ({
    pointer: '/credentials',
    detail: `The authentication "${authentication.kind}" needs the credential "${name}".`,
  }));
}

/** A rule for every answer of success would refuse them all. */
const errorIssues = ({ errors }: Profile): PartIssue[] =>
  errors.flatMap(({ status, code }, index) =>
    status < 400 && code === undefined
      ? [
          {
            pointer: `/errors/${index}`,
            detail: `${status} is an answer of success: say by "code" when it is a refusal all the same.`,
          },
        ]
      : [],
  );

/** A look that does not say whom it is for, or whose answer does not, takes anybody for the person. */
function findIssues({ find, record, batch }: Profile): PartIssue[] {
  const issues: PartIssue[] = [];
  if (find && namesBy(find.request) === null)
    issues.push({
      pointer: '/find/request',
      detail: 'It does not say whom to look for: put {email} into the path, or $email into the body.',
    });
  if (find && record.email === undefined && !looksInField(find.request))
    issues.push({
      pointer: '/record',
      detail: 'It does not say where the address is in a record ("email"), so that nobody could be told from another.',
    });
  if (batch?.find && record.email === undefined)
    issues.push({
      pointer: '/record',
      detail: 'Several people are found together only by their address: say where it is.',
    });
  return issues;
}
