import { askCheck } from '../../check.ts';

export const purposeArchived = askCheck({
  code: 'the purpose is archived',
  level: 'blocker',
  why: 'Somebody decided that it is asked for no more.',
  find: ({ purpose }) =>
    purpose?.archived
      ? [{ message: `"${purpose.name}" is archived: no route asks for it any more.`, fix: 'Choose another one.' }]
      : [],
});
