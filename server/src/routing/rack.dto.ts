import type { Operation } from '@ample-crane/core';
import { ApiProperty } from '@nestjs/swagger';

const nullable = { nullable: true } as const;

export class RouteDto {
  @ApiProperty() id: string;
  @ApiProperty() model: string;
  @ApiProperty() kind: string;
  @ApiProperty() revision: number;
  /** Operations as the core defines them (docs/formats/route.md). */
  @ApiProperty({ type: 'array', items: { type: 'object', additionalProperties: true } })
  operations: Operation[];
}

export class HoldDto {
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  @ApiProperty({ enum: ['elapsed', 'moisture', 'cure', 'settle', 'ageing', 'called'] })
  rule: 'elapsed' | 'moisture' | 'cure' | 'settle' | 'ageing' | 'called';
  /** The word on the bar. */
  @ApiProperty() word: string;
  @ApiProperty() sinceMs: number;
  @ApiProperty({ type: [Number] }) positions: number[];
  @ApiProperty() over: boolean;
  @ApiProperty() sentence: string;
  /** Waiting does not help: what was found has to be put right. */
  @ApiProperty() rejected: boolean;
  /** 0…1. */
  @ApiProperty() progress: number;
  @ApiProperty({ type: Number, ...nullable }) endMs: number | null;
  @ApiProperty({ type: Number, ...nullable }) lowMs: number | null;
  @ApiProperty({ type: Number, ...nullable }) highMs: number | null;
  /** Reference hours of cure reached; null where nothing cures. */
  @ApiProperty({ type: Number, ...nullable }) curedHours: number | null;
  /** Reference hours needed, with the film as it is; null where nothing cures. */
  @ApiProperty({ type: Number, ...nullable }) neededHours: number | null;
}
