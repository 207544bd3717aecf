import type { DestinationField } from '../../core/mapping/index.ts';
import type { ErrorRule } from '../../core/delivery/index.ts';

/** A request as a profile writes it: a URI Template (RFC 6570), and a body in which "$name" stands for a value. */
export interface RequestTemplate {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  path: string;
  body?: unknown;
  /** The header that carries the delivery's idempotency key, where the service takes one. */
  idempotencyHeader?: string;
}

/** A list that comes in pages. All other members are JSONPath (RFC 9535). */
export interface PagedRequest {
  request: RequestTemplate;
  /** Every item of a page. */
  items: string;
  /** The cursor of the next page; nothing or null at the end. */
  next: string;
}

/** What Iwashi knows about talking to a kind of service: data, not code. */
export interface Profile {
  id: string;
  name: string;
  /** What such a service is for, in two or three words. */
  purpose: string;
  authentication: { kind: 'header'; header: string };
  /** Where the key is usually found, for the person who connects it. */
  keyHelp: string;
  baseUrlHelp: string;
  verify: { request: RequestTemplate; account: string; permissions: string; needs: string[] };
  catalogue: {
    lists: PagedRequest & { id: string; name: string; groups: PagedRequest & { id: string; name: string } };
    tags: PagedRequest & { id: string; name: string };
    fields: PagedRequest & {
      key: string;
      label: string;
      required: string;
      type: string;
      types: Record<string, DestinationField['type']>;
      choices: string;
      maxLength: string;
    };
  };
  find: { request: RequestTemplate };
  upsert: { request: RequestTemplate };
  /** Where a person's parts are in the answers of find and upsert. */
  person: { email: string; state: string; fields: string; lists: string; groups: string; tags: string };
  errors: ErrorRule[];
}
