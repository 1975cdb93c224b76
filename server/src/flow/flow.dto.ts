import { ApiProperty } from '@nestjs/swagger';
import { ConstraintDto, StationDto } from './floor.dto.ts';

const nullable = { nullable: true } as const;

export class ThroughputRowDto {
  /** Factory day, 'YYYY-MM-DD'. */
  @ApiProperty() day: string;
  @ApiProperty() station: string;
  /** Good pieces that left the station that day; one that left it again within the days asked for counts when it last did. */
  @ApiProperty() good: number;
  @ApiProperty() scrapped: number;
  @ApiProperty() reworked: number;
}

export class LoadDayDto {
  @ApiProperty() day: string;
  @ApiProperty() station: string;
  @ApiProperty() hoursWaiting: number;
  @ApiProperty() days: number;
}

export class FlowDto {
  @ApiProperty() fromDay: string;
  @ApiProperty() toDay: string;
  /** Working days in the window. */
  @ApiProperty({ type: [String] }) days: string[];
  @ApiProperty({ type: [StationDto] }) stations: StationDto[];
  @ApiProperty({ type: [ThroughputRowDto] }) throughput: ThroughputRowDto[];
  @ApiProperty({ type: [LoadDayDto] }) load: LoadDayDto[];
  @ApiProperty({ type: ConstraintDto, ...nullable }) constraint: ConstraintDto | null;
}
