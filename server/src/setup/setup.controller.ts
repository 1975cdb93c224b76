import { Controller, Get } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { SetupDto } from './setup.dto.ts';
import { SetupService } from './setup.service.ts';

@ApiTags('setup')
@Controller('setup')
export class SetupController {
  constructor(private readonly setup: SetupService) {}

  /** People, models and kinds: what forms and pickers offer. */
  @Get()
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
