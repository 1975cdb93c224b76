import { Module } from '@nestjs/common';
import { AssemblyModule } from '../assembly/assembly.module.ts';
import { FloorModule } from '../floor/floor.module.ts';
import { FlowModule } from '../flow/flow.module.ts';
import { LiveModule } from '../live/live.module.ts';
import { LogModule } from '../log/log.module.ts';
import { OrdersModule } from '../orders/orders.module.ts';
import { WoodModule } from '../wood/wood.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { BillsService } from './bills.service.ts';
import { KitsController } from './kits.controller.ts';
import { KitsService } from './kits.service.ts';
import { PartsService } from './parts.service.ts';
import { PickingService } from './picking.service.ts';
import { WeightsService } from './weights.service.ts';
import { StoreService } from './store.service.ts';

/** Parts and their stock, what each model wants of them, and the bin of each instrument. */
@Module({
  imports: [
    AssemblyModule,
    SetupModule,
    LogModule,
    FloorModule,
    FlowModule,
    OrdersModule,
    LiveModule,
    WoodModule,
  ],
  controllers: [KitsController],
  providers: [StoreService, PartsService, BillsService, PickingService, KitsService, WeightsService],
  exports: [StoreService, PartsService, BillsService, KitsService],
})
export class KitsModule {}
