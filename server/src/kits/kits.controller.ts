import { BILL_ASKED, csvOf, type Bill, type BillLine } from '@ample-crane/core';
import {
  Body,
  Controller,
  Get,
  Header,
  HttpCode,
  Param,
  ParseIntPipe,
  Post,
  Put,
  Query,
} from '@nestjs/common';
import {
  ApiBadRequestResponse,
  ApiConflictResponse,
  ApiNotFoundResponse,
  ApiOkResponse,
  ApiProduces,
  ApiTags,
} from '@nestjs/swagger';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { answer } from '../http/answers.ts';
import { schemaReader } from '../http/schema-reader.ts';
import { FiledDto } from '../log/log.dto.ts';
import { OptionBooksService } from '../orders/option-books.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { BillsService } from './bills.service.ts';
import {
  BeginPartDto,
  BillDto,
  FilePartDto,
  KitsDto,
  KitsQueryDto,
  LineWeightDto,
  PartDto,
  PartWithLogDto,
  PickDto,
  ReviseBillDto,
  StoreSheetDto,
  StoreSheetFiledDto,
  StoreSheetRefusedDto,
} from './kits.dto.ts';
import { KitsService, USUAL_DAYS } from './kits.service.ts';
import { WeightsService } from './weights.service.ts';
import { PartsService } from './parts.service.ts';
import { StoreService, type StockedPart } from './store.service.ts';

const readBill = schemaReader<{ lines: BillLine[] }>(BILL_ASKED, 'bill');

const shown = ({ counted, moves: _moves, ordered: _ordered, ...part }: StockedPart): PartDto => ({
  ...part,
  countedMs: counted.atMs,
});

@ApiTags('kits')
@Controller()
export class KitsController {
  constructor(
    private readonly kits: KitsService,
    private readonly parts: PartsService,
    private readonly weights: WeightsService,
    private readonly store: StoreService,
    private readonly bills: BillsService,
    private readonly books: OptionBooksService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
  ) {}

  /** Racks that come to assembly with their bins, and which parts will be missing by when. */
  @Get('kits')
  @ApiOkResponse({ type: KitsDto })
  view(@Query() { days = USUAL_DAYS }: KitsQueryDto): Promise<KitsDto> {
    return this.kits.view(days);
  }

  /** The bin of one instrument: what its bill wants, what lies in it, what is there. */
  @Get('kits/:batch/:position')
  @ApiOkResponse({ type: PickDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  pick(@Param('batch') batch: string, @Param('position', ParseIntPipe) position: number): Promise<PickDto> {
    return this.kits.pick(batch, position);
  }

  /** What the instruments of an order will weigh, of every line that wishes a weight. */
  @Get('orders/:code/weights')
  @ApiOkResponse({ type: [LineWeightDto] })
  @ApiNotFoundResponse({ type: ProblemDto })
  weightsOf(@Param('code') code: string): Promise<LineWeightDto[]> {
    return this.weights.ofOrder(code);
  }

  /** Every part that is kept, with what is there of it. */
  @Get('parts')
  @ApiOkResponse({ type: [PartDto] })
  async list(): Promise<PartDto[]> {
    return (await this.store.stock()).map(shown);
  }

  /** Stock as CSV. */
  @Get('parts.csv')
  @Header('content-disposition', 'attachment; filename="parts.csv"')
  @ApiProduces('text/csv')
  @ApiOkResponse({ schema: { type: 'string' } })
  async csv(): Promise<string> {
    const parts = await this.store.stock();
    return csvOf(
      [
        ...['code', 'name', 'unit', 'supplier', 'lead_days', 'weight_g', 'on_hand', 'on_order'],
        ...['counted_at', 'counted'],
      ],
      parts.map(({ code, name, unit, supplier, leadDays, weightG, onHand, onOrder, counted }) => [
        ...[code, name, unit, supplier, leadDays, weightG, onHand, onOrder],
        // The last column is left empty for who counts: the sheet may come back.
        ...[new Date(counted.atMs).toISOString(), ''],
      ]),
    );
  }

  /** The sheet of the store: what was counted, and parts that are to be kept; all of it or, asked so, its good rows. */
  @Post('parts/sheet')
  @HttpCode(200)
  @ApiOkResponse({ type: StoreSheetFiledDto })
  @ApiBadRequestResponse({ type: StoreSheetRefusedDto })
  @ApiConflictResponse({ type: RefusalDto })
  async sheet(@Body() { happenedAt, ...request }: StoreSheetDto): Promise<StoreSheetFiledDto> {
    const atMs = happenedAt === undefined ? {} : { atMs: Date.parse(happenedAt) };
    const { outcome, problems } = await this.parts.fileSheet({ ...request, ...atMs });
    return { ...answer(outcome), problems };
  }

  /** Keeps a part from now on. */
  @Post('parts')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async begin(@Body() { key, by, part }: BeginPartDto): Promise<FiledDto> {
    return answer(await this.parts.begin({ key, by, part }));
  }

  /** One part with its entries. */
  @Get('parts/:code')
  @ApiOkResponse({ type: PartWithLogDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async part(@Param('code') code: string): Promise<PartWithLogDto> {
    const [nowMs, { calendar }, { entries, ...part }] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      this.parts.part(code),
    ]);
    return { ...shown(part), nowMs, zone: calendar.zone, entries };
  }

  /** Files one entry on a part. */
  @Post('parts/:code/entries')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async file(@Param('code') part: string, @Body() { key, by, entry }: FilePartDto): Promise<FiledDto> {
    return answer(await this.parts.change({ key, by, part, asked: entry }));
  }

  /** The parts of each model that is built. */
  @Get('bills')
  @ApiOkResponse({ type: [BillDto] })
  async billsOf(): Promise<BillDto[]> {
    const [bills, books] = await Promise.all([this.bills.all(), this.books.all()]);
    return Promise.all(
      bills.map(async (bill) =>
        this.hinted(
          bill,
          books.find(({ model }) => model === bill.model),
        ),
      ),
    );
  }

  /** A new revision of the parts of a model. */
  @Put('bills/:model')
  @ApiOkResponse({ type: BillDto })
  @ApiBadRequestResponse({ type: ProblemDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async revise(@Param('model') model: string, @Body() asked: ReviseBillDto): Promise<BillDto> {
    const { lines, revision, ...told } = asked;
    const read = readBill({ lines });
    return this.hinted(answer(await this.bills.revise(told, { model, revision, ...read })));
  }

  private async hinted(bill: Bill, book?: Parameters<BillsService['problems']>[1]): Promise<BillDto> {
    const { hints } = await this.bills.problems(bill, book);
    return { ...bill, hints };
  }
}
