import { FILE_NAME_HEADER } from '../../src/contract/ownFiles.ts';
import type { DeliveryView } from '../../src/contract/deliveries.ts';
import type { Page } from '../../src/contract/pages.ts';
import type { SubmissionRow, TrailView } from '../../src/contract/submissions.ts';
import type { ConnectionView, CredentialInputs, VerifyResult } from '../../src/contract/connection.ts';
import type { RouteView } from '../../src/contract/route.ts';
import type { SessionView } from '../../src/contract/session.ts';
import type { SourceView } from '../../src/contract/source.ts';
import type { PurposeDraft } from '../../src/core/consent/index.ts';
import type { PurposeView } from '../../src/contract/purposes.ts';
import { CHANNELS } from '../../src/core/consent/index.ts';
import { wordingOf, type RouteDocument } from '../../src/core/plan/index.ts';
import type { FormDocument, SourceDocument } from '../../src/core/intake/index.ts';
import { eventually } from './processes.ts';

/** A source whose kind is known. */
export type LiveSource<Document extends SourceDocument> = SourceView & { draft: Document };

export const PASSWORD = 'lantern hill comet';

/** An operator at the API, as the interface would be. */
export class Operator {
  readonly #app: string;
  #cookie = '';
  #csrf = '';

  private constructor(app: string) {
    this.#app = app;
  }

  static async first(app: string, token: string): Promise<Operator> {
    const operator = new Operator(app);
    await operator.#begin('/session/first', {
      token,
      name: 'Wren',
      email: 'wren@pellam-ridge.example',
      password: PASSWORD,
    });
    return operator;
  }

  static async signIn(app: string, email: string, password: string): Promise<Operator> {
    const operator = new Operator(app);
    await operator.#begin('/session', { email, password });
    return operator;
  }

  async #begin(path: string, body: object): Promise<void> {
    const response = await this.send('POST', path, body);
    if (!response.ok) throw new Error(`sign-in: ${response.status} ${await response.text()}`);
    this.#cookie = (response.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
    this.#csrf = ((await response.json()) as SessionView).csrf;
  }

  /** One request, whatever comes of it. */
  send(method: string, path: string, body?: object, headers: Record<string, string> = {}): Promise<Response> {
    return fetch(`${this.#app}/api${path}`, {
      method,
      headers: { cookie: this.#cookie, 'x-iwashi-csrf': this.#csrf, 'content-type': 'application/json', ...headers },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
  }

  /** Adds a file of the organisation's own. */
  upload = (name: string, content: Uint8Array<ArrayBuffer> | string): Promise<Response> =>
    fetch(`${this.#app}/api/own-files`, {
      method: 'POST',
      headers: { cookie: this.#cookie, 'x-iwashi-csrf': this.#csrf, [FILE_NAME_HEADER]: encodeURIComponent(name) },
      body: content,
    });

  /** The same to any address that takes a file. */
  async bring<T>(path: string, name: string, content: Uint8Array<ArrayBuffer> | string): Promise<T> {
    const response = await fetch(`${this.#app}/api${path}`, {
      method: 'POST',
      headers: { cookie: this.#cookie, 'x-iwashi-csrf': this.#csrf, [FILE_NAME_HEADER]: encodeURIComponent(name) },
      body: content,
    });
    if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
    return (await response.json()) as T;
  }

  /** Opens an address of the application, as a link in a browser does. */
  open = (url: string): Promise<Response> => fetch(url, { headers: { cookie: this.#cookie } });

  async #call<T>(method: string, path: string, body?: object): Promise<T> {
    const response = await this.send(method, path, body);
    if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`);
    return (await response.json()) as T;
  }

  /** Asks once more where the other side closed a connection that had been idle, as browsers do (RFC 9112, 9.3.1). */
  get = <T>(path: string) =>
    this.#call<T>('GET', path).catch((error: unknown) => {
      if (!(error instanceof TypeError)) throw error;
      return this.#call<T>('GET', path);
    });
  post = <T>(path: string, body: object = {}) => this.#call<T>('POST', path, body);
  put = <T>(path: string, body: object) => this.#call<T>('PUT', path, body);

  connect = (baseUrl: string, key: string) => this.connectTo('tern-post', baseUrl, { key });
  connectTo = (profile: string, baseUrl: string, credentials: CredentialInputs, name = profile) =>
    this.post<ConnectionView>('/connections', { profile, name, baseUrl, credentials });
  tryConnection = (baseUrl: string, key: string) => this.tryTo('tern-post', baseUrl, { key });
  tryTo = (profile: string, baseUrl: string, credentials: CredentialInputs) =>
    this.post<VerifyResult>('/connections/try', { profile, name: profile, baseUrl, credentials });
  connection = (id: string) => this.get<ConnectionView>(`/connections/${id}`);
  verify = (id: string) => this.post<ConnectionView>(`/connections/${id}/verify`);

  /** Grants access in the window of an OAuth service, as a person does by pressing its button. */
  async grant(id: string, answer: 'yes' | 'no' = 'yes'): Promise<string> {
    const window = new URL((await this.post<{ url: string }>(`/connections/${id}/grant`)).url);
    const pressed = await fetch(`${window.origin}${window.pathname}`, {
      method: 'POST',
      redirect: 'manual',
      body: new URLSearchParams([...window.searchParams, ['answer', answer]]),
    });
    const back = await fetch(pressed.headers.get('location') ?? '', {
      redirect: 'manual',
      headers: { cookie: this.#cookie },
    });
    return back.headers.get('location') ?? '';
  }

  form = (name: string, document: FormDocument) => this.source(name, document);

  /** Makes a source, and publishes it. */
  async source<Document extends SourceDocument>(name: string, document: Document): Promise<LiveSource<Document>> {
    const { id } = await this.post<SourceView>('/sources', { name, kind: document.kind });
    await this.put(`/sources/${id}/draft`, document);
    return this.post<LiveSource<Document>>(`/sources/${id}/publish`);
  }

  async route(name: string, document: RouteDocument): Promise<RouteView> {
    const { id } = await this.post<RouteView>('/routes', { name, sourceId: document.sourceIds[0] ?? '' });
    await this.put(`/routes/${id}/draft`, await this.withPurposes(document));
    return this.post<RouteView>(`/routes/${id}/publish`);
  }

  /** The same route with purposes that there are: those that it names are made, or learn the words in which it asks. */
  async withPurposes(document: RouteDocument): Promise<RouteDocument> {
    const asks: RouteDocument['consent']['asks'] = [];
    for (const ask of document.consent.asks) {
      const wordings: string[] = [];
      for (const id of document.sourceIds) {
        const { draft } = await this.get<SourceView>(`/sources/${id}`);
        const wording = wordingOf(ask, draft);
        if (wording !== '') wordings.push(wording);
      }
      const purposes = await this.get<PurposeView[]>('/purposes');
      const known = purposes.find(({ id, name }) => id === ask.purpose || name === ask.purpose);
      const body: PurposeDraft = {
        name: known?.name ?? ask.purpose,
        wordings: [...new Set([...(known?.wordings ?? []), ...wordings])],
        channels: [...CHANNELS],
      };
      const { id } = known
        ? await this.put<PurposeView>(`/purposes/${known.id}`, body)
        : await this.post<PurposeView>('/purposes', body);
      asks.push({ ...ask, purpose: id });
    }
    return { ...document, consent: { ...document.consent, asks } };
  }

  submissions = (query = '') => this.get<Page<SubmissionRow>>(`/submissions?${query}`);
  deliveries = (query = '') => this.get<Page<DeliveryView>>(`/deliveries?${query}`);
  trail = (id: string) => this.get<TrailView>(`/submissions/${id}`);

  /** The trail of a submission, once it has come as far as this. */
  trailWhen = (id: string, progress: TrailView['progress']) =>
    eventually(
      () => this.trail(id),
      (trail) => trail.progress === progress,
    );
}
