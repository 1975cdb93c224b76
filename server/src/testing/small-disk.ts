import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A disk of its own, in memory, that a test may fill. */
export class SmallDisk {
  private constructor(readonly folder: string) {}

  /** Null where none can be mounted: only root may. */
  static mount(megabytes: number): SmallDisk | null {
    const folder = mkdtempSync(join(tmpdir(), 'ample-crane-disk-'));
    try {
      const options = `size=${megabytes}m,mode=0755`;
      execFileSync('mount', ['-t', 'tmpfs', '-o', options, 'tmpfs', folder], { stdio: 'ignore' });
      return new SmallDisk(folder);
    } catch {
      rmSync(folder, { recursive: true, force: true });
      return null;
    }
  }

  private get filler(): string {
    return join(this.folder, 'filler');
  }

  /** Fills it to the last page. */
  fill(): void {
    try {
      for (const flag = { flag: 'a' }; ;) writeFileSync(this.filler, Buffer.alloc(65_536), flag);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'ENOSPC') throw error;
    }
  }

  empty(): void {
    rmSync(this.filler, { force: true });
  }

  unmount(): void {
    spawnSync('umount', [this.folder], { stdio: 'ignore' });
    rmSync(this.folder, { recursive: true, force: true });
  }
}
