import { Controller, Get } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { BackupService, type BackupView, type BackupsView } from './backup.service.ts';

class BackupDto implements BackupView {
  @ApiProperty() name: string;
  @ApiProperty() atMs: number;
  @ApiProperty() bytes: number;
}

class BackupsDto implements BackupsView {
  /** False: no folder is set, and nobody takes backups here. */
  @ApiProperty() on: boolean;
  @ApiProperty() keepDays: number;
  /** Newest first. */
  @ApiProperty({ type: [BackupDto] }) backups: BackupDto[];
  @ApiProperty() overdue: boolean;
  /** Why the last one failed. */
  @ApiProperty({ type: String, nullable: true }) trouble: string | null;
}

@ApiTags('health')
@Controller('backups')
export class BackupController {
  constructor(private readonly backups: BackupService) {}

  /** The backups of the database that are kept, and whether the next one is overdue. */
  @Get()
  @ApiOkResponse({ type: BackupsDto })
  all(): Promise<BackupsDto> {
    return this.backups.seen();
  }
}
