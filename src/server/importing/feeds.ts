import path from 'node:path';
import type { Context } from '../context.ts';
import type { SourceRecord } from '../store/sources.ts';

/** The folder into which files for a source can be put, on the machine that Iwashi runs on. */
export const feedFolder = ({ config }: Pick<Context, 'config'>, { publicId }: Pick<SourceRecord, 'publicId'>): string =>
  path.join(config.feedFolder, publicId);
