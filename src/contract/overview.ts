/** The bottom line. */
export interface StatusView {
  database: 'up' | 'down';
  workers: number;
  waiting: number;
  held: number;
  lastDeliveryAt: string | null;
  at: string;
}

export interface OverviewView {
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
}
