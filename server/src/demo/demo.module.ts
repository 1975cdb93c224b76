import { Module } from '@nestjs/common';
import { FittingModule } from '../fitting/fitting.module.ts';
import { FloorModule } from '../floor/floor.module.ts';
import { KitsModule } from '../kits/kits.module.ts';
import { LogModule } from '../log/log.module.ts';
import { OrdersModule } from '../orders/orders.module.ts';
import { RoutingModule } from '../routing/routing.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { WoodModule } from '../wood/wood.module.ts';
import { DemoService } from './demo.service.ts';

@Module({
  imports: [
    SetupModule,
    LogModule,
    WoodModule,
    RoutingModule,
    FittingModule,
    OrdersModule,
    FloorModule,
    KitsModule,
  ],
  providers: [DemoService],
})
export class DemoModule {}
