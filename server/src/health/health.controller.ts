import { Controller, Get, ServiceUnavailableException } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { DataSource } from 'typeorm';
import { DatabaseWatch } from '../database/watch.service.ts';

class HealthDto {
  @ApiProperty() status: string;
}

@ApiTags('health')
@Controller()
export class HealthController {
  constructor(
    private readonly source: DataSource,
    private readonly watch: DatabaseWatch,
  ) {}

  /** The process is up. */
  @Get('health')
  @ApiOkResponse({ type: HealthDto })
  health(): HealthDto {
    return { status: 'up' };
  }

  /** It can answer: the database does. 503 otherwise. */
  @Get('ready')
  @ApiOkResponse({ type: HealthDto })
  async ready(): Promise<HealthDto> {
    if (!this.watch.answers) throw new ServiceUnavailableException('the database is not answering');
    await this.source.query('SELECT 1');
    return { status: 'ready' };
  }
}
