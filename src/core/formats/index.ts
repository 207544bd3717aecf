export { AUTOFILL_TOKENS } from './controls.ts';
export { escapeHtml, keptName, type KeptFile } from './fieldHtml.ts';
export { ELAPSED_FIELD, printFormHtml, printFormToCopy, STAMP_FIELD, TRAP_FIELD } from './htmlForm.ts';
export { readDelimited } from './delimited.ts';
export { printConfirmationMail, printPlainMail, type PrintedMail } from './mails.ts';
