import path from 'node:path';

/** Everything that the environment decides, read once. */
export interface Config {
  databaseUrl: string;
  host: string;
  port: number;
  /** The address under which visitors and operators reach this installation. */
  publicUrl: string;
  secretKey: string;
  smtpUrl: string;
  mailFrom: string;
  /** Whether private and loopback addresses may be called: for trying out only. */
  allowPrivateAddresses: boolean;
  /** How many proxies in front of us are trusted to say who the visitor is. */
  trustedProxies: number;
  leaseMs: number;
  logLevel: string;
  /** Where migrations and the built interface are. */
  root: string;
  /** Where the database keeps its tables, where that is on this machine; null otherwise. */
  databaseFolder: string | null;
  /** Where CSV files are dropped. */
  dropFolder: string;
  /** Where files for sources can be put, each source in a folder of its own. */
  feedFolder: string;
  /** Where files that visitors hand over are kept: outside of everything that is served. */
  uploadFolder: string;
  /** The largest file that is taken, in bytes. */
  uploadBytes: number;
  /** The largest file that is imported, in bytes. */
  importBytes: number;
  /** How long the requests and answers of attempts are kept, in days. */
  attemptDays: number;
  /** How often shops are asked for what they did not tell, in milliseconds. */
  shopAskMs: number;
  /** Filled into the sign-in page of a demo. */
  demoSignIn: { email: string; password: string } | null;
}

/** @throws with every missing variable named */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const missing = ['DATABASE_URL', 'IWASHI_SECRET_KEY', 'SMTP_URL', 'MAIL_FROM'].filter((name) => !env[name]);
  if (missing.length > 0) throw new Error(`these environment variables are not set: ${missing.join(', ')}`);
  const port = wholeNumber(env, 'PORT', 4680);
  const dataFolder = env.IWASHI_DATA ?? path.join(env.IWASHI_ROOT ?? '.', 'var');
  return {
    databaseUrl: env.DATABASE_URL ?? '',
    host: env.HOST ?? '127.0.0.1',
    port,
    publicUrl: (env.IWASHI_PUBLIC_URL ?? `http://127.0.0.1:${port}`).replace(/\/+$/, ''),
    secretKey: env.IWASHI_SECRET_KEY ?? '',
    smtpUrl: env.SMTP_URL ?? '',
    mailFrom: env.MAIL_FROM ?? '',
    allowPrivateAddresses: env.IWASHI_ALLOW_PRIVATE_ADDRESSES === '1',
    trustedProxies: wholeNumber(env, 'IWASHI_TRUSTED_PROXIES', 0),
    leaseMs: wholeNumber(env, 'IWASHI_LEASE_MS', 15_000),
    logLevel: env.IWASHI_LOG ?? 'info',
    root: env.IWASHI_ROOT ?? process.cwd(),
    databaseFolder: env.IWASHI_DATABASE_FOLDER || null,
    dropFolder: env.IWASHI_DROPS ?? path.join(dataFolder, 'drops'),
    feedFolder: env.IWASHI_FEEDS ?? path.join(dataFolder, 'feeds'),
    uploadFolder: env.IWASHI_UPLOADS ?? path.join(dataFolder, 'uploads'),
    uploadBytes: wholeNumber(env, 'IWASHI_UPLOAD_BYTES', 10 * 1024 * 1024),
    importBytes: wholeNumber(env, 'IWASHI_IMPORT_BYTES', 512 * 1024 * 1024),
    attemptDays: wholeNumber(env, 'IWASHI_ATTEMPT_DAYS', 90),
    shopAskMs: wholeNumber(env, 'IWASHI_SHOP_ASK_SECONDS', 60) * 1000,
    demoSignIn:
      env.IWASHI_DEMO_EMAIL && env.IWASHI_DEMO_PASSWORD
        ? { email: env.IWASHI_DEMO_EMAIL, password: env.IWASHI_DEMO_PASSWORD }
        : null,
  };
}

function wholeNumber(env: NodeJS.ProcessEnv, name: string, otherwise: number): number {
  const text = env[name];
  if (text === undefined || text === '') return otherwise;
  if (!/^\d+$/.test(text)) throw new Error(`${name} has to be a whole number, and is "${text}"`);
  return Number(text);
}
