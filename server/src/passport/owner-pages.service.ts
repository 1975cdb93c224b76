import { randomBytes } from 'node:crypto';
import { factoryDate, type SetUpValue } from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { RefusalException } from '../http/answers.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { PassportService } from './passport.service.ts';

export interface OwnerWood {
  part: string;
  species: string;
  papers: string | null;
}

/** What an owner is shown of their instrument: no people, no racks, nothing that went wrong on the way. */
export interface OwnerView {
  factory: string;
  model: string;
  serial: string | null;
  /** 'YYYY-MM-DD'; null: it has not left. */
  left: string | null;
  finishes: string[];
  wood: OwnerWood[];
  setUp: SetUpValue[];
}

/** 128 bits of chance. */
const TOKEN_BYTES = 16;
const TOKEN = /^[\w-]{22}$/;

/** The half of a passport that is the owner's, under an address that nobody can guess. */
@Injectable()
export class OwnerPagesService {
  constructor(
    private readonly source: DataSource,
    private readonly passports: PassportService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
  ) {}

  /** The address of a piece's page, made when it is first asked for. @throws RefusalException, NotFoundException */
  async open(batch: string, position: number, by: string): Promise<string> {
    const stranger = await this.setup.stranger(by);
    if (stranger) throw new RefusalException(stranger);
    await this.passports.passport(batch, position);
    const token = randomBytes(TOKEN_BYTES).toString('base64url');
    await this.source.query(
      `INSERT INTO owner_page (token, batch, position, made_at, person) VALUES ($1, $2, $3, $4, $5)
       ON CONFLICT (batch, position) DO NOTHING`,
      [token, batch, position, new Date(await this.clock.now()), by],
    );
    const known = await this.tokenOf(batch, position);
    if (known === null) throw new Error(`open: no page of ${batch}/${position} was kept`);
    return known;
  }

  /** Null: nobody has asked for one. */
  async tokenOf(batch: string, position: number): Promise<string | null> {
    const [row] = await this.source.query<{ token: string }[]>(
      'SELECT token FROM owner_page WHERE batch = $1 AND position = $2',
      [batch, position],
    );
    return row?.token ?? null;
  }

  /** @throws NotFoundException, which does not tell a wrong address from one that never was. */
  async view(token: string): Promise<OwnerView> {
    const [row] = TOKEN.test(token)
      ? await this.source.query<{ batch: string; position: number }[]>(
          'SELECT batch, position FROM owner_page WHERE token = $1',
          [token],
        )
      : [];
    if (!row) throw new NotFoundException('there is no such page');
    const { factory, zone: _zone, parts } = await this.passports.passport(row.batch, row.position);
    const [whole] = parts;
    if (!whole) throw new NotFoundException('there is no such page');
    const { calendar } = await this.setup.factory();
    const shipped = whole.lines.findLast(({ kind }) => kind === 'shipment');
    return {
      ...{ factory, model: whole.model, serial: whole.serial, setUp: whole.setUp },
      left: shipped ? factoryDate(calendar, shipped.atMs) : null,
      finishes: [...new Set(parts.flatMap(({ recipe }) => recipe ?? []))],
      wood: parts.flatMap(({ kindName, wood }) =>
        wood.map(({ species, papers }) => ({ part: kindName, species, papers })),
      ),
    };
  }
}
