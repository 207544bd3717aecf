import { parseEmail } from '../../../../values/index.ts';
import { mailCheck } from '../../check.ts';

export const wrongColleague = mailCheck({
  code: 'a mail goes to what is no address',
  level: 'blocker',
  why: 'It comes back, and nobody is told.',
  find: ({ mail: { kind, to, subject } }) => {
    const wrong = to.filter((address) => !parseEmail(address).ok);
    return kind === 'notify' && wrong.length > 0
      ? [{ message: `"${subject}" goes to "${wrong.join('", "')}", which is no address.`, fix: 'Correct the address.' }]
      : [];
  },
});
