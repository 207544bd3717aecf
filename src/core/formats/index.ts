export { ELAPSED_FIELD, TRAP_FIELD, escapeHtml, printFormHtml } from './htmlForm.ts';
export { controlOf, countryOptions, type Control } from './controls.ts';
