export { CHATTING, type ChatEvent, type ChatStatus } from './chatting.ts';
export { CONNECTING, type ConnectionEvent, type ConnectionState } from './connecting.ts';
export { MAILING, type MailEvent, type MailState } from './mailing.ts';
export { PUBLISHING, type PublishEvent, type PublishState } from './publishing.ts';
export { transitionsOf } from './transitions.ts';
export { IMPORTING, type ImportEvent, type ImportState } from './importing.ts';
export { SENDING, type SendingEvent, type SendingState } from './sending.ts';
