import { spawnSync } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs';
import path from 'node:path';

/** A disk of a test's own, in memory, which can be filled to its last byte. */
export class SmallDisk {
  readonly folder = mkdtempSync('/tmp/iwashi-disk-');
  /** Whether this user may have one: else the folder is an ordinary one, and cannot be filled. */
  readonly isOwn: boolean;

  constructor(megabytes: number) {
    const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m,mode=755`, 'tmpfs', this.folder]);
    this.isOwn = mounted.status === 0;
  }

  fill(): void {
    const file = openSync(path.join(this.folder, 'ballast'), 'w');
    try {
      for (const size of [1024 * 1024, 4096, 1]) {
        const piece = Buffer.alloc(size);
        try {
          for (;;) writeSync(file, piece);
        } catch (error) {
          if ((error as { code?: string }).code !== 'ENOSPC') throw error;
        }
      }
    } finally {
      closeSync(file);
    }
  }

  free(): void {
    rmSync(path.join(this.folder, 'ballast'), { force: true });
  }

  stop(): void {
    if (this.isOwn) spawnSync('umount', ['-l', this.folder]);
    rmSync(this.folder, { recursive: true, force: true });
  }
}
