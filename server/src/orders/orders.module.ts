import { Module } from '@nestjs/common';
import { AssemblyModule } from '../assembly/assembly.module.ts';
import { FloorModule } from '../floor/floor.module.ts';
import { FlowModule } from '../flow/flow.module.ts';
import { LogModule } from '../log/log.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { BacklogService } from './backlog.service.ts';
import { OptionBooksService } from './option-books.service.ts';
import { OrderMovesService } from './order-moves.service.ts';
import { OrderViewsService } from './order-views.service.ts';
import { OrdersController } from './orders.controller.ts';
import { OrdersService } from './orders.service.ts';
import { OrderRacksService } from './order-racks.service.ts';

/** What is sold, what is ordered, and the racks that come of it. */
@Module({
  imports: [SetupModule, LogModule, AssemblyModule, FloorModule, FlowModule],
  controllers: [OrdersController],
  providers: [
    BacklogService,
    OptionBooksService,
    OrdersService,
    OrderMovesService,
    OrderViewsService,
    OrderRacksService,
  ],
  exports: [OptionBooksService, OrdersService, OrderViewsService, OrderRacksService],
})
export class OrdersModule {}
