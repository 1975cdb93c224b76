import { isDeepStrictEqual } from 'node:util';
import { refuse } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { RefusalException } from '../http/answers.ts';
import { tellAll } from '../live/tell.ts';
import { FactoryClock } from './factory-clock.ts';
import { factoryWords } from './factory-words.ts';
import type { SettingDto } from './setting.dto.ts';
import { SetupService } from './setup.service.ts';

/** What everything is judged by, or goes through, and a person may change. */
export const SETTINGS = [
  'wood gate',
  'room',
  'run rules',
  'species',
  'machine',
  'station',
  'weigh-back',
  'serials',
  'options',
  'bill',
  'skills',
  'training',
  'absence',
  'calendar',
  'lead time',
] as const;
export type Setting = (typeof SETTINGS)[number];

/** How a setting stood before and after; null: it was not there. */
export interface Turned {
  before: object | null;
  after: object | null;
}

export interface Change extends Turned {
  id: string;
  atMs: number;
  by: string;
  setting: Setting;
  name: string;
}

interface Row extends Turned {
  id: string;
  at: Date;
  person: string;
  setting: Setting;
  name: string;
}

/** Who changes a setting, and what they knew of its changes. */
export type Teller = Pick<SettingDto, 'by' | 'lastChange'>;

/** So many are shown. */
const MOST_SHOWN = 500;

/** Settings are changed through here: who did it, and what stood before and after, is kept with the change. */
@Injectable()
export class ChangesService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
  ) {}

  /**
   * Changes a setting and keeps who did, in one transaction; what stays as it was is no change.
   * @param told.lastChange the newest change that whoever asks for this one knew of, where they say so
   * @param turn changes it and gives how it stood, read under a lock, and stands.
   * @throws RefusalException when nobody is called so, or somebody else changed it since; and what turn throws. Nothing is changed then.
   */
  async change(
    told: Teller & { setting: Setting; name: string },
    turn: (manager: EntityManager) => Promise<Turned>,
  ): Promise<void> {
    const { by, setting, name } = told;
    const stranger = await this.setup.stranger(by);
    if (stranger) throw new RefusalException(stranger);
    const at = new Date(await this.clock.now());
    await this.source.transaction(async (manager) => {
      const { before, after } = await turn(manager);
      if (isDeepStrictEqual(before, after)) return;
      if (told.lastChange !== undefined) await this.refuseIfChanged(manager, told, told.lastChange);
      await manager.query(
        'INSERT INTO change (at, person, setting, name, before, after) VALUES ($1, $2, $3, $4, $5, $6)',
        [at, by, setting, name, jsonOf(before), jsonOf(after)],
      );
      // Everything may look different now.
      await tellAll(manager, []);
    });
    this.setup.forget();
  }

  /** Nobody overwrites what somebody else did and they have not seen; what they did themselves a moment ago they know. */
  private async refuseIfChanged(
    manager: EntityManager,
    { by, setting, name }: { by: string; setting: Setting; name: string },
    lastChange: number,
  ): Promise<void> {
    const [since] = await manager.query<Pick<Row, 'at' | 'person'>[]>(
      `SELECT at, person FROM change WHERE setting = $1 AND name = $2 AND id > $3 AND person <> $4
       ORDER BY id DESC LIMIT 1`,
      [setting, name, lastChange, by],
    );
    if (!since) return;
    const { zone } = (await this.setup.factory()).calendar;
    const when = factoryWords(await this.clock.now(), zone)(since.at.getTime());
    const who = (await this.setup.people()).find(({ code }) => code === since.person)?.name ?? since.person;
    throw new RefusalException(
      refuse(
        'taken',
        `${who} changed it meanwhile, ${when}: look at what it is now, and file again if yours is to stand`,
      ),
    );
  }

  /** Newest first. */
  async newest(): Promise<Change[]> {
    const rows = await this.source.query<Row[]>(
      `SELECT id, at, person, setting, name, before, after FROM change ORDER BY at DESC, id DESC LIMIT ${MOST_SHOWN}`,
    );
    return rows.map(({ at, person, ...row }) => ({ ...row, atMs: at.getTime(), by: person }));
  }
}

const jsonOf = (value: object | null): string | null => (value === null ? null : JSON.stringify(value));
