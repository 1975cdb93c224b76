import type { PassportKind, PassportLine, SetUpValue } from '@ample-crane/core';
import { ApiProperty } from '@nestjs/swagger';
import type { OwnerView, OwnerWood } from './owner-pages.service.ts';
import type { Passport, PassportPart, PassportWood } from './passport.service.ts';

const nullable = { nullable: true } as const;

export class PassportLineDto implements PassportLine {
  @ApiProperty() atMs: number;
  /** See core's PassportKind. */
  @ApiProperty({ type: String }) kind: PassportKind;
  /** Name of the operation. */
  @ApiProperty() at: string;
  @ApiProperty() words: string;
  /** What the rule said against it. */
  @ApiProperty({ type: String, ...nullable }) against: string | null;
  /** Name of whoever decided it. */
  @ApiProperty({ type: String, ...nullable }) by: string | null;
}

export class PassportWoodDto implements PassportWood {
  @ApiProperty() lot: string;
  @ApiProperty() species: string;
  @ApiProperty({ type: String, ...nullable }) papers: string | null;
  @ApiProperty({ type: [String] }) blanks: string[];
  /** These blanks became this very piece; false: taken for its rack, not told apart. */
  @ApiProperty() own: boolean;
}

export class SetUpValueDto implements SetUpValue {
  @ApiProperty() key: string;
  @ApiProperty() name: string;
  @ApiProperty() unit: string;
  /** Null: not read there. */
  @ApiProperty({ type: Number, ...nullable }) atSetUp: number | null;
  @ApiProperty({ type: Number, ...nullable }) settled: number | null;
}

export class PassportPartDto implements PassportPart {
  /** 'B-190/03' */
  @ApiProperty() piece: string;
  @ApiProperty() batch: string;
  @ApiProperty() kindName: string;
  @ApiProperty() model: string;
  /** Null: it has none. */
  @ApiProperty({ type: String, ...nullable }) serial: string | null;
  /** Where it stands, in words. */
  @ApiProperty() standing: string;
  /** The piece it became a part of. */
  @ApiProperty({ type: String, ...nullable }) joinedInto: string | null;
  @ApiProperty({ type: String, ...nullable }) recipe: string | null;
  @ApiProperty({ type: [PassportWoodDto] }) wood: PassportWoodDto[];
  /** Its model says what its wood must be, and none is noted. */
  @ApiProperty() woodMissing: boolean;
  /** How it was set up, and how it had settled. */
  @ApiProperty({ type: [SetUpValueDto] }) setUp: SetUpValueDto[];
  /** Oldest first. */
  @ApiProperty({ type: [PassportLineDto] }) lines: PassportLineDto[];
}

export class PassportDto implements Passport {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty() factory: string;
  /** The piece itself first, then its parts and theirs. */
  @ApiProperty({ type: [PassportPartDto] }) parts: PassportPartDto[];
}

export class OwnerPageDto {
  /** Part of the address by which its owner finds it; nobody can guess it. */
  @ApiProperty() token: string;
}

export class OwnerWoodDto implements OwnerWood {
  @ApiProperty() part: string;
  @ApiProperty() species: string;
  /** Number of the papers of protected wood. */
  @ApiProperty({ type: String, ...nullable }) papers: string | null;
}

export class OwnerViewDto implements OwnerView {
  @ApiProperty() factory: string;
  @ApiProperty() model: string;
  @ApiProperty({ type: String, ...nullable }) serial: string | null;
  /** 'YYYY-MM-DD', factory time. */
  @ApiProperty({ type: String, ...nullable }) left: string | null;
  @ApiProperty({ type: [String] }) finishes: string[];
  @ApiProperty({ type: [OwnerWoodDto] }) wood: OwnerWoodDto[];
  /** As it left: what was read last. */
  @ApiProperty({ type: [SetUpValueDto] }) setUp: SetUpValueDto[];
}
