import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';

export class RefusalDto {
  /** For people on the floor. */
  @ApiProperty() refused: string;
  /** For programs. */
  @ApiProperty() code: string;
  /** The field of the entry that is wrong, where it is one. */
  @ApiPropertyOptional() at?: string;
}

export class ChoiceDto {
  @ApiProperty() words: string;
  /** The line that says it. */
  @ApiProperty() line: string;
}

export class NotUnderstoodDto {
  /** Where in the line the trouble starts. */
  @ApiProperty() start: number;
  @ApiProperty() length: number;
  @ApiProperty() word: string;
  @ApiProperty() message: string;
  /** The lines it may mean, where it may mean several. */
  @ApiPropertyOptional({ type: [ChoiceDto] }) choices?: ChoiceDto[];
}

export class ProblemDto {
  @ApiProperty() message: string;
  /** Single faults, when there are several. */
  @ApiProperty({ type: [String] }) details: string[];
}
