export { AUTOFILL_TOKENS } from './controls.ts';
export { escapeHtml, keptName, type KeptFile } from './fieldHtml.ts';
export { ELAPSED_FIELD, printFormHtml, printFormToCopy, TRAP_FIELD } from './htmlForm.ts';
