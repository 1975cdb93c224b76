import { DAY_MS } from '@ample-crane/core';
import {
  Body,
  Controller,
  Get,
  HttpCode,
  Param,
  ParseIntPipe,
  Post,
  Put,
  Query,
  StreamableFile,
} from '@nestjs/common';
import {
  ApiConflictResponse,
  ApiNotFoundResponse,
  ApiOkResponse,
  ApiProduces,
  ApiTags,
} from '@nestjs/swagger';
import { answer } from '../http/answers.ts';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { FiledDto } from '../log/log.dto.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import {
  BenchDto,
  FindQueryDto,
  FoundDto,
  LeavingLineDto,
  LedgerDto,
  LedgerQueryDto,
  SerialPreviewDto,
  SerialSettingDto,
  SerialsDto,
  SetSerialsDto,
  SheetDto,
  ShipDto,
} from './assembly.dto.ts';
import { FindingService } from './finding.service.ts';
import { BenchService } from './bench.service.ts';
import { SerialsService, type SerialSetting, type SerialsView } from './serials.service.ts';
import { ShippingService } from './shipping.service.ts';

const USUAL_DAYS = 30;

@ApiTags('assembly')
@Controller()
export class AssemblyController {
  constructor(
    private readonly benches: BenchService,
    private readonly serials: SerialsService,
    private readonly shipping: ShippingService,
    private readonly finding: FindingService,
    private readonly clock: FactoryClock,
  ) {}

  /** Every instrument on the benches, the settling shelf and at inspection: what wants a hand first. */
  @Get('bench')
  @ApiOkResponse({ type: BenchDto })
  bench(): Promise<BenchDto> {
    return this.benches.bench();
  }

  /** The sheet of one instrument where it stands. */
  @Get('bench/:batch/:position')
  @ApiOkResponse({ type: SheetDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  sheet(@Param('batch') batch: string, @Param('position', ParseIntPipe) position: number): Promise<SheetDto> {
    return this.benches.sheet(batch, position);
  }

  /** How serials are made, and the next of each model. */
  @Get('serials')
  @ApiOkResponse({ type: SerialsDto })
  async howSerials(): Promise<SerialsDto> {
    return told(await this.serials.view());
  }

  /** What a pattern would give next; nothing is given or changed, so it needs no key. */
  @Post('serials/preview')
  @HttpCode(200)
  @ApiOkResponse({ type: SerialPreviewDto })
  preview(@Body() asked: SerialSettingDto): Promise<SerialPreviewDto> {
    return this.serials.preview(settingOf(asked));
  }

  /** Changes how serials are made; what was given stays as it is. */
  @Put('serials')
  @HttpCode(200)
  @ApiOkResponse({ type: SerialsDto })
  @ApiConflictResponse({ type: RefusalDto })
  async setSerials(@Body() asked: SetSerialsDto): Promise<SerialsDto> {
    return told(await this.serials.set(asked, settingOf(asked)));
  }

  /** Instruments by serial, shipments by order or customer: of all that ever were. */
  @Get('find')
  @ApiOkResponse({ type: FoundDto })
  find(@Query() { said }: FindQueryDto): Promise<FoundDto> {
    return this.finding.find(said);
  }

  /** What left, newest first. */
  @Get('shipments')
  @ApiOkResponse({ type: LedgerDto })
  async ledger(@Query() { days = USUAL_DAYS, filing }: LedgerQueryDto): Promise<LedgerDto> {
    if (filing !== undefined) return this.shipping.ledger({ filing });
    return this.shipping.ledger({ fromMs: (await this.clock.now()) - days * DAY_MS });
  }

  /** What left with one filing, on paper: PDF. */
  @Get('shipments/:filing/packing-list.pdf')
  @ApiProduces('application/pdf')
  @ApiOkResponse({ schema: { type: 'string', format: 'binary' } })
  @ApiNotFoundResponse({ type: ProblemDto })
  async packingList(@Param('filing') filing: string): Promise<StreamableFile> {
    return paper(await this.shipping.packingList(filing), 'packing-list');
  }

  /** A tag for each piece of a rack, A6, with its code to scan: PDF. */
  @Get('tags/:batch/tags.pdf')
  @ApiProduces('application/pdf')
  @ApiOkResponse({ schema: { type: 'string', format: 'binary' } })
  @ApiNotFoundResponse({ type: ProblemDto })
  async tags(@Param('batch') batch: string): Promise<StreamableFile> {
    return paper(await this.benches.tags(batch), 'tags');
  }

  /** Instruments that stand at shipping, with what speaks against each. */
  @Get('leaving')
  @ApiOkResponse({ type: [LeavingLineDto] })
  leaving(): Promise<LeavingLineDto[]> {
    return this.shipping.leaving();
  }

  /** Ships instruments of one or several racks together: all of them or none. */
  @Post('shipments')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async ship(@Body() asked: ShipDto): Promise<FiledDto> {
    const { key, by, pieces, to, order, carrier, contents, because } = asked;
    return answer(await this.shipping.ship({ key, by, pieces, to, order, carrier, contents, because }));
  }
}

/** A page of paper, shown where it is asked for. */
const paper = (pdf: Buffer, name: string): StreamableFile =>
  new StreamableFile(pdf, { type: 'application/pdf', disposition: `inline; filename="${name}.pdf"` });

const settingOf = ({ pattern, letters, onPaper }: SerialSettingDto): SerialSetting => ({
  pattern,
  letters: Object.fromEntries(letters.map((one) => [one.model, one.letters])),
  onPaper: onPaper.map(({ from, to }) => ({ from, to })),
});

const told = ({ letters, ...view }: SerialsView): SerialsDto => ({
  ...view,
  letters: Object.entries(letters).map(([model, said]) => ({ model, letters: said })),
});
