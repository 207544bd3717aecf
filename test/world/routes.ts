import { ROUTE_FORMAT, type RouteDocument, type Target } from '../../src/core/plan/index.ts';

/** A target that everybody goes to, and that does nothing there, as far as a test does not say more. */
export const targetOf = (id: string, more: Partial<Target> = {}): Target => ({
  id,
  when: null,
  branch: null,
  needs: null,
  connectionId: 'C',
  kind: '',
  places: [],
  tags: [],
  leaves: [],
  tagsOff: [],
  lines: [],
  duplicates: 'update',
  ...more,
});

/** A route that asks for nothing and leads nowhere, as far as a test does not say more. */
export const routeOf = (more: Partial<RouteDocument> = {}): RouteDocument => ({
  format: ROUTE_FORMAT,
  sourceIds: ['S'],
  targets: [],
  consent: {
    asks: [],
    confirmedBy: { by: 'nobody' },
    mail: { subject: 'One more click', body: 'Here: {link}', button: 'Yes' },
    expiresHours: 72,
    changes: 'ask',
  },
  mails: [],
  accepted: {},
  ...more,
});
