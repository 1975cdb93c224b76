import { ApiProperty } from '@nestjs/swagger';

export class PersonDto {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty() role: string;
  @ApiProperty({ type: [String] }) skills: string[];
}

export class ReleasableDto {
  @ApiProperty() model: string;
  @ApiProperty() construction: string;
  @ApiProperty() description: string;
  /** Kind letters that can be released by hand. */
  @ApiProperty({ type: [String] }) kinds: string[];
}

export class KindDto {
  @ApiProperty() letter: string;
  @ApiProperty() name: string;
}

export class SetupDto {
  @ApiProperty({ type: [PersonDto] }) people: PersonDto[];
  @ApiProperty({ type: [ReleasableDto] }) models: ReleasableDto[];
  @ApiProperty({ type: [KindDto] }) kinds: KindDto[];
}

export class ClockDto {
  @ApiProperty() nowMs: number;
}
