import { fieldsUsed } from '../../../../mapping/index.ts';
import { unknownAmong } from '../../unknownFields.ts';
import { lineCheck } from '../../check.ts';

export const unknownInText = lineCheck({
  code: 'a text has in it what the source does not have',
  level: 'blocker',
  why: 'It is sent as it stands, braces and all.',
  find: ({ field, line, source }) =>
    line.from.kind === 'field'
      ? []
      : unknownAmong(fieldsUsed({ ...line, when: null }), source.fields, `The text for ${field.label}`),
});
