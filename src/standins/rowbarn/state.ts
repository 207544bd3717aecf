export interface SheetColumn {
  heading: string;
  /** All cells are text; this says what the text has to look like. */
  cell: 'any' | 'digits' | 'date';
  filled: boolean;
}

export interface Sheet {
  id: string;
  title: string;
  columns: SheetColumn[];
  rows: { number: number; cells: Record<string, string>; added: string }[];
}

/** An application that may ask for access in somebody's name. */
export interface RegisteredApp {
  id: string;
  secret: string;
  name: string;
  returnUrl: string;
}

export interface Grant {
  /** What the token is, and what it may be used for. */
  kind: 'code' | 'access' | 'refresh';
  token: string;
  app: string;
  scope: string;
  /** Milliseconds since 1970. */
  until: number;
  /** PKCE: the S256 challenge that a code has to be redeemed with. */
  challenge?: string;
  returnUrl?: string;
}

export interface RowbarnState {
  person: { name: string; workspace: string };
  apps: RegisteredApp[];
  grants: Grant[];
  /** How long an access token is good, in seconds. */
  accessSeconds: number;
  /** How many refreshes were granted: tests count them. */
  refreshes: number;
  sheets: Sheet[];
}

const column = (heading: string, cell: SheetColumn['cell'] = 'any', filled = false): SheetColumn => ({
  heading,
  cell,
  filled,
});

/** The observatory's workspace, as somebody prepared it. */
export function newState(appId: string, appSecret: string, returnUrl: string): RowbarnState {
  return {
    person: { name: 'Wren Calloway', workspace: 'Pellam Ridge sheets' },
    apps: [{ id: appId, secret: appSecret, name: 'Iwashi', returnUrl }],
    grants: [],
    accessSeconds: 600,
    refreshes: 0,
    sheets: [
      {
        id: 'signups',
        title: 'Sign-ups',
        columns: [column('Email', 'any', true), column('When', 'date'), column('Source'), column('Name')],
        rows: [],
      },
      {
        id: 'visits',
        title: 'School visits',
        columns: [column('Email', 'any', true), column('School'), column('Pupils', 'digits'), column('Day', 'date')],
        rows: [],
      },
      { id: 'spare', title: 'Spare torches', columns: [column('Colour'), column('Count', 'digits')], rows: [] },
    ],
  };
}
