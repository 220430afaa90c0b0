import { execFileSync } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, rmSync, statfsSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A file system of a few megabytes that can be filled to the last block and given room again. */
export interface SmallDisk {
  readonly folder: string;
  readonly fill: () => void;
  readonly giveRoom: () => void;
  readonly remove: () => void;
}

/** Mounts one; null where this user may not. */
export function smallDiskMaybe(megabytes: number): SmallDisk | null {
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-disk-'));
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m`, 'tmpfs', folder], { stdio: 'ignore' });
  } catch {
    rmSync(folder, { recursive: true, force: true });
    return null;
  }
  const ballast = join(folder, 'ballast');
  return {
    folder,
    fill: () => fillUp(folder, ballast),
    giveRoom: () => rmSync(ballast, { force: true }),
    remove: () => {
      execFileSync('umount', ['-l', folder], { stdio: 'ignore' });
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

function fillUp(folder: string, ballast: string): void {
  const file = openSync(ballast, 'a');
  try {
    for (let block = 65_536; block >= 512; block /= 2) {
      try {
        while (statfsSync(folder).bfree > 0) writeSync(file, Buffer.alloc(block, 1));
      } catch {
        // This much does not fit any more; half of it may.
      }
    }
  } finally {
    closeSync(file);
  }
}
