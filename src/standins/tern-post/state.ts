export interface Member {
  id: string;
  email: string;
  /** active: gets mail. asked: has still to confirm. left: unsubscribed. refused: a mail to it bounced. */
  state: 'active' | 'asked' | 'left' | 'refused';
  lists: string[];
  groups: string[];
  tags: string[];
  fields: Record<string, string | number | boolean | null>;
  joinedAt: string;
  leftAt: string | null;
  /** How many changes were applied to it. */
  changes: number;
}

export interface MemberField {
  key: string;
  label: string;
  kind: 'address' | 'line' | 'figure' | 'flag' | 'option' | 'day';
  required: boolean;
  options: string[];
  longest: number | null;
}

export interface Place {
  id: string;
  name: string;
}

export interface List extends Place {
  groups: Place[];
  /** Whether it asks people by a mail of its own to confirm before it writes to them. */
  asks?: boolean;
}

/** An address that is told what happens to members. */
export interface Hook {
  id: string;
  address: string;
  kinds: string[];
  secret: string;
}

export interface TernPostState {
  account: { name: string };
  keys: { key: string; permissions: string[]; revoked: boolean }[];
  lists: List[];
  tags: Place[];
  fields: MemberField[];
  members: Member[];
  hooks: Hook[];
  /** Whether it remembers no request by its Idempotency-Key: the same one twice is done twice. */
  forgets?: boolean;
}

const ALL = ['catalogue:read', 'members:read', 'members:write'];

const field = (
  key: string,
  label: string,
  kind: MemberField['kind'],
  more: Partial<MemberField> = {},
): MemberField => ({
  key,
  label,
  kind,
  required: false,
  options: [],
  longest: kind === 'line' ? 120 : null,
  ...more,
});

/** The observatory's account, as somebody prepared it. */
export function newState(apiKey: string): TernPostState {
  return {
    account: { name: 'Pellam Ridge Observatory' },
    keys: [
      { key: apiKey, permissions: ALL, revoked: false },
      { key: `${apiKey}-reads-only`, permissions: ['catalogue:read', 'members:read'], revoked: false },
    ],
    lists: [
      {
        id: 'L-100',
        name: 'Sky letter',
        groups: [
          { id: 'G-110', name: 'From the web site' },
          { id: 'G-120', name: 'From the shop' },
          { id: 'G-130', name: 'Members' },
        ],
      },
      { id: 'L-200', name: 'School visits', groups: [{ id: 'G-210', name: 'Teachers' }] },
      { id: 'L-300', name: 'Press', groups: [] },
    ],
    tags: ['newsletter', 'stargazing', 'planets', 'astrophotography', 'families'].map((name, index) => ({
      id: `T-${index + 1}`,
      name,
    })),
    fields: [
      field('email', 'Email', 'address', { required: true }),
      field('given', 'First name', 'line', { required: true, longest: 60 }),
      field('family', 'Last name', 'line', { longest: 60 }),
      field('signup_page', 'Sign-up page', 'line', { longest: 200 }),
      field('has_telescope', 'Has a telescope', 'figure'),
      field('visits', 'How often they come', 'option', { options: ['first time', 'now and then', 'every month'] }),
      field('born', 'Birthday', 'day'),
    ],
    members: [],
    hooks: [],
  };
}
