import { instantFromIso, OPTIONS_ASKED, operationOf, tagsOf, type OptionBook } from '@ample-crane/core';
import { Body, Controller, Get, HttpCode, Param, Post, Put, Query, StreamableFile } from '@nestjs/common';
import {
  ApiBadRequestResponse,
  ApiConflictResponse,
  ApiNotFoundResponse,
  ApiOkResponse,
  ApiProduces,
  ApiTags,
} from '@nestjs/swagger';
import { RacksService } from '../floor/racks.service.ts';
import { answer } from '../http/answers.ts';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { schemaReader } from '../http/schema-reader.ts';
import { FiledDto } from '../log/log.dto.ts';
import { SetupService } from '../setup/setup.service.ts';
import { BacklogService } from './backlog.service.ts';
import { OptionBooksService } from './option-books.service.ts';
import { OrderMovesService } from './order-moves.service.ts';
import { OrderViewsService } from './order-views.service.ts';
import { orderStatus } from './order-status.ts';
import {
  BacklogDto,
  FileOrderDto,
  LineMovesDto,
  OptionBookDto,
  OrderDto,
  OrderSummaryDto,
  PlaceOrderDto,
  PlannedRackDto,
  PlanQueryDto,
  OpenOrderRacksDto,
  ReviseOptionsDto,
  SpecChangeDto,
  TagsDto,
  TagsQueryDto,
  TouchesQueryDto,
} from './orders.dto.ts';
import { OrdersService } from './orders.service.ts';
import { OrderRacksService } from './order-racks.service.ts';

const readOptions = schemaReader<Pick<OptionBook, 'options' | 'rules'>>(OPTIONS_ASKED, 'options');

@ApiTags('orders')
@Controller()
export class OrdersController {
  constructor(
    private readonly orders: OrdersService,
    private readonly views: OrderViewsService,
    private readonly books: OptionBooksService,
    private readonly racks: OrderRacksService,
    private readonly setup: SetupService,
    private readonly backlogs: BacklogService,
    private readonly moved: OrderMovesService,
    private readonly floor: RacksService,
  ) {}

  /** What is sold of each model. */
  @Get('options')
  @ApiOkResponse({ type: [OptionBookDto] })
  async options(): Promise<OptionBookDto[]> {
    const books = await this.books.all();
    return Promise.all(books.map(async (book) => ({ ...book, ...(await this.books.built(book.model)) })));
  }

  /** A new revision of what is sold of a model. */
  @Put('options/:model')
  @ApiOkResponse({ type: OptionBookDto })
  @ApiBadRequestResponse({ type: ProblemDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async revise(@Param('model') model: string, @Body() asked: ReviseOptionsDto): Promise<OptionBookDto> {
    const { options, rules, revision, ...told } = asked;
    const read = readOptions({ options, rules });
    const made = answer(await this.books.revise(told, { model, revision, ...read }));
    return { ...made, ...(await this.books.built(model)) };
  }

  /** Orders of which something is still to leave, due first first. */
  @Get('orders')
  @ApiOkResponse({ type: [OrderSummaryDto] })
  list(): Promise<OrderSummaryDto[]> {
    return this.views.open();
  }

  /** Places an order: its lines as they are sold now. */
  @Post('orders')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async place(@Body() { key, by, customer, reference, dueAt, lines }: PlaceOrderDto): Promise<FiledDto> {
    const dueMs = instantFromIso(dueAt) ?? NaN;
    return answer(await this.orders.place({ key, by, customer: customer ?? null, reference, dueMs, lines }));
  }

  /** What is ordered and no rack has, put together into racks. */
  @Get('orders/racks')
  @ApiOkResponse({ type: [PlannedRackDto] })
  plan(@Query() asked: PlanQueryDto): Promise<PlannedRackDto[]> {
    return this.racks.plan(asked);
  }

  /** Opens racks for lines of orders in one go: all of them or none. */
  @Post('orders/racks')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async open(@Body() { key, by, racks }: OpenOrderRacksDto): Promise<FiledDto> {
    return answer(await this.racks.open({ key, by, racks }));
  }

  /** What the tags of the racks of a stage say where their pieces wait or are in hand, reduced to what matters there. */
  @Get('tags')
  @ApiOkResponse({ type: [TagsDto] })
  async tags(@Query() { stage }: TagsQueryDto): Promise<TagsDto[]> {
    const [racks, stations] = await Promise.all([this.floor.open(), this.setup.stations()]);
    const own = new Set(stations.flatMap((station) => (station.stage === stage ? [station.code] : [])));
    return racks.flatMap(({ state, route }) =>
      tagsOf(state, route)
        .filter(({ operation }) => operationOf(route, operation).stations.some((code) => own.has(code)))
        .map((there) => ({ batch: state.code, ...there })),
    );
  }

  /** What is ordered and not begun: in pieces, in weeks of what paces the factory, by when it is due. */
  @Get('orders/backlog')
  @ApiOkResponse({ type: BacklogDto })
  backlog(): Promise<BacklogDto> {
    return this.backlogs.view();
  }

  /** One order: its lines, where their pieces are, what was changed. */
  @Get('orders/:code')
  @ApiOkResponse({ type: OrderDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  order(@Param('code') code: string): Promise<OrderDto> {
    return this.views.order(code);
  }

  /** Why the earliest day of each line is not what it was when it was ordered. */
  @Get('orders/:code/moves')
  @ApiOkResponse({ type: [LineMovesDto] })
  @ApiNotFoundResponse({ type: ProblemDto })
  moves(@Param('code') code: string): Promise<LineMovesDto[]> {
    return this.moved.of(code);
  }

  /** What another value of an option would touch of the racks that are built for a line. */
  @Get('orders/:code/touches')
  @ApiOkResponse({ type: [SpecChangeDto] })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: RefusalDto })
  async touches(
    @Param('code') code: string,
    @Query() { line, option, value }: TouchesQueryDto,
  ): Promise<SpecChangeDto[]> {
    return answer(await this.orders.touches(code, { line, choices: { [option]: value } }));
  }

  /** Files one entry on an order; racks that are built for it get the new spec. */
  @Post('orders/:code/entries')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async file(@Param('code') order: string, @Body() { key, by, entry }: FileOrderDto): Promise<FiledDto> {
    return answer(await this.orders.change({ key, by, order, asked: entry }));
  }

  /** Where it is, for the customer: nothing internal. PDF. */
  @Get('orders/:code/status.pdf')
  @ApiProduces('application/pdf')
  @ApiOkResponse({ schema: { type: 'string', format: 'binary' } })
  @ApiNotFoundResponse({ type: ProblemDto })
  async status(@Param('code') code: string): Promise<StreamableFile> {
    const [order, { name }] = await Promise.all([this.views.order(code), this.setup.factory()]);
    return new StreamableFile(await orderStatus(order, name), {
      type: 'application/pdf',
      disposition: `inline; filename="status-${code}.pdf"`,
    });
  }
}
