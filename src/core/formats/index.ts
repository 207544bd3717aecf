export { judgeInstallation, type InstallationFinding } from './installation.ts';
export { readLook, sheetsOf, type FoundLook } from './readLook.ts';
export { pageToShow } from './showPage.ts';
export { printOds } from './printOds.ts';
export { readForms, type FoundForm } from './readForms.ts';
export { readDelimited } from './delimited.ts';
export { printConfirmationMail, printPlainMail, type PrintedMail } from './mails.ts';
