export { ELAPSED_FIELD, TRAP_FIELD, autocompleteFor, escapeHtml, printFormHtml } from './htmlForm.ts';
