import { targetCheck } from '../../check.ts';

const DAY_MS = 86_400_000;

export const oldCatalogue = targetCheck({
  code: 'what the destination offers was fetched long ago',
  level: 'hint',
  why: 'Lists, fields and choices may have been changed there since; a field that became required holds everybody up.',
  find: ({ target: { connectionId }, connection, now }) =>
    connection?.catalogueAt != null && now - connection.catalogueAt > DAY_MS
      ? [
          {
            part: 'target',
            message: `What ${connection.name} offers was fetched more than a day ago.`,
            fix: 'It is fetched anew while this route is open; if this stays, look at the connection.',
            connectionId,
          },
        ]
      : [],
});
