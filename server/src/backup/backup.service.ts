import { execFile } from 'node:child_process';
import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { DAY_MS, HOUR_MS, type SingleCall } from '@ample-crane/core';
import { Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import { Cron } from '@nestjs/schedule';
import { databaseAddress } from '../database/data-source.ts';

/** A backup is taken every night, and a little after a start that finds none of the last day. */
const NIGHTLY = '0 2 * * *';
const AFTER_START_MS = 2 * 60_000;
/** So many days they are kept: BACKUP_KEEP_DAYS, or the usual. */
const USUAL_KEEP_DAYS = 14;
/** A night was missed, and then some. */
const OVERDUE_AFTER_MS = 36 * HOUR_MS;
const NAME = /^ample-crane-.*\.dump$/;
const script = fileURLToPath(new URL('../../../scripts/backup.sh', import.meta.url));

export interface BackupView {
  name: string;
  atMs: number;
  bytes: number;
}

export interface BackupsView {
  /** False: no folder is set, and nobody takes backups here. */
  on: boolean;
  keepDays: number;
  /** Newest first. */
  backups: BackupView[];
  overdue: boolean;
  /** Why the last one failed, since this server runs. */
  trouble: string | null;
}

/** The nightly backup of the database to BACKUP_FOLDER, by the same script people use. */
@Injectable()
export class BackupService implements OnApplicationBootstrap {
  private readonly logger = new Logger('backup');
  private readonly startedMs = Date.now();
  private trouble: string | null = null;

  private get folder(): string | undefined {
    return process.env.BACKUP_FOLDER || undefined;
  }

  private get keepDays(): number {
    return Number(process.env.BACKUP_KEEP_DAYS ?? USUAL_KEEP_DAYS);
  }

  onApplicationBootstrap(): void {
    if (this.folder === undefined) return;
    setTimeout(() => void this.takeIfDue(), AFTER_START_MS).unref();
  }

  private async takeIfDue(): Promise<void> {
    const [newest] = await this.files();
    if (!newest || Date.now() - newest.atMs > DAY_MS) await this.take();
  }

  /** Takes one now, and lets go of those that are too old; the newest always stays. */
  @Cron(NIGHTLY)
  async take(): Promise<void> {
    const { folder } = this;
    if (folder === undefined) return;
    const stamp = new Date().toISOString().replaceAll(':', '').replace(/\.\d+/, '');
    try {
      await promisify(execFile)(script, [join(folder, `ample-crane-${stamp}.dump`)], {
        env: { ...process.env, DATABASE_URL: databaseAddress() },
      });
      this.trouble = null;
      const [, ...older] = await this.files();
      for (const { name, atMs } of older)
        if (Date.now() - atMs > this.keepDays * DAY_MS) await rm(join(folder, name));
    } catch (error) {
      this.trouble = (error as { stderr?: string }).stderr?.trim() ?? (error as Error).message;
      this.logger.error(`no backup: ${this.trouble}`);
    }
  }

  async seen(): Promise<BackupsView> {
    const backups = await this.files();
    const lastMs = backups[0]?.atMs ?? this.startedMs;
    const on = this.folder !== undefined;
    return {
      ...{ on, keepDays: this.keepDays, backups },
      overdue: on && Date.now() - lastMs > OVERDUE_AFTER_MS,
      trouble: this.trouble,
    };
  }

  /** What wants the manager about it. */
  async calls(): Promise<SingleCall[]> {
    const { overdue, backups, trouble } = await this.seen();
    if (!overdue && trouble === null) return [];
    const [newest] = backups;
    const age = newest
      ? `The last one is ${Math.round((Date.now() - newest.atMs) / HOUR_MS)} h old.`
      : 'There is none.';
    return [
      {
        ...{ id: 'backup', kind: 'backup', subject: 'the backup', cause: null, pieces: 0, cost: 1 },
        title: 'The backup is overdue',
        detail: `${age}${trouble === null ? '' : ` ${trouble}.`} If the disk fails now, what was filed since is lost.`,
        actions: [{ label: 'Backups', href: '/backups' }],
        evidence: '/backups',
      },
    ];
  }

  private async files(): Promise<BackupView[]> {
    const { folder } = this;
    if (folder === undefined) return [];
    const names = (await readdir(folder).catch(() => [])).filter((name) => NAME.test(name));
    const seen = await Promise.all(
      names.map(async (name) => {
        const { mtimeMs, size } = await stat(join(folder, name));
        return { name, atMs: mtimeMs, bytes: size };
      }),
    );
    return seen.sort((a, b) => b.atMs - a.atMs);
  }
}
