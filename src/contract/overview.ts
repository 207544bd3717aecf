/** The bottom line. */
export interface StatusView {
  database: 'up' | 'down';
  workers: number;
  /** Parts that did not stay up and are not started again, and why; '' for none. */
  givenUp: string;
  /** What is on its way: to be planned, delivered or mailed. */
  waiting: number;
  /** Deliveries that wait until somebody confirms. */
  unconfirmed: number;
  held: number;
  lastDeliveryAt: string | null;
  at: string;
}

export interface OverviewView {
  /** The last 24 hours, from `since` on, in milliseconds since 1970. */
  since: number;
  today: { submissions: number; confirmed: number; delivered: number; people: number };
  needs: { kind: string; text: string; link: string; count: number }[];
  flows: {
    routeId: string;
    routeName: string;
    sourceId: string;
    sourceName: string;
    connectionId: string;
    connectionName: string;
    delivered: number;
    held: number;
  }[];
  /** How many more routes are live than are told here: the busiest are. */
  moreRoutes: number;
}
