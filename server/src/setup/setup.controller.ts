import { Controller, Get } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ClockDto, SetupDto } from './setup.dto.ts';
import { FactoryClock } from './factory-clock.ts';
import { SetupService } from './setup.service.ts';

@ApiTags('setup')
@Controller()
export class SetupController {
  constructor(
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
  ) {}

  /** The factory's time. */
  @Get('clock')
  @ApiOkResponse({ type: ClockDto })
  async now(): Promise<ClockDto> {
    return { nowMs: await this.clock.now() };
  }

  /** People, models and kinds: what forms and pickers offer. */
  @Get('setup')
  @ApiOkResponse({ type: SetupDto })
  async all(): Promise<SetupDto> {
    const [people, models, kinds, releasable] = await Promise.all([
      this.setup.people(),
      this.setup.models(),
      this.setup.kinds(),
      this.setup.releasable(),
    ]);
    return {
      people,
      kinds,
      models: models.map((model) => ({
        ...model,
        model: model.name,
        kinds: releasable.find((r) => r.model === model.name)?.kinds ?? [],
      })),
    };
  }
}
