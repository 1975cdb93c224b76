import { pieceCode, type Standing } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { shipmentsLike } from '../log/entries-in-force.ts';
import { piecesBySerial } from '../log/pieces.ts';

/** An instrument that was looked for by its serial. */
export interface FoundInstrument {
  serial: string;
  piece: string;
  batch: string;
  position: number;
  model: string;
  standing: Standing;
}

/** A shipment that was looked for by its order or by whom it went to. */
export interface FoundShipment {
  filing: string;
  atMs: number;
  to: string;
  order: string | null;
  pieces: number;
}

/** An order that was looked for by its code, its customer or their number for it. */
export interface FoundOrder {
  code: string;
  customer: string | null;
  reference: string | null;
}

/** A part that was looked for by its code or name. */
export interface FoundPart {
  code: string;
  name: string;
}

export interface Found {
  parts: FoundPart[];
  instruments: FoundInstrument[];
  shipments: FoundShipment[];
  orders: FoundOrder[];
}

/** Finds so many by a part of what they are called. */
type Finds<T> = (words: string, most: number) => Promise<T[]>;

/** So many of each are found. */
const MOST_FOUND = 20;
/** Less than this would find everything. */
const SHORTEST = 2;

/** Finds what no list of open racks holds: every instrument by its serial, every shipment and every order by its number or its customer. */
@Injectable()
export class FindingService {
  private readonly orders: Finds<FoundOrder>[] = [];
  private readonly parts: Finds<FoundPart>[] = [];

  constructor(private readonly source: DataSource) {}

  /** Whoever keeps orders, or parts, says here how they are found. */
  register(finds: { orders?: Finds<FoundOrder>; parts?: Finds<FoundPart> }): void {
    if (finds.orders) this.orders.push(finds.orders);
    if (finds.parts) this.parts.push(finds.parts);
  }

  /** @param said as typed or scanned; of fewer than two letters nothing is found */
  async find(said: string): Promise<Found> {
    const words = said.trim();
    if (words.length < SHORTEST) return { instruments: [], shipments: [], orders: [], parts: [] };
    const [pieces, shipments, orders, parts] = await Promise.all([
      piecesBySerial(this.source, words.toUpperCase(), MOST_FOUND),
      shipmentsLike(this.source, words, MOST_FOUND),
      Promise.all(this.orders.map((finds) => finds(words, MOST_FOUND))),
      Promise.all(this.parts.map((finds) => finds(words, MOST_FOUND))),
    ]);
    return {
      instruments: pieces.map(({ batch, position, ...rest }) => ({
        ...{ ...rest, batch, position, piece: pieceCode(batch, position) },
      })),
      shipments,
      orders: orders.flat(),
      parts: parts.flat(),
    };
  }
}
