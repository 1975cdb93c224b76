import { Controller, Get } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { DataSource } from 'typeorm';

class HealthDto {
  @ApiProperty() status: string;
}

@ApiTags('health')
@Controller()
export class HealthController {
  constructor(private readonly source: DataSource) {}

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
    await this.source.query('SELECT 1');
    return { status: 'ready' };
  }
}
