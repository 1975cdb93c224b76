import { Module } from '@nestjs/common';
import { APP_GUARD } from '@nestjs/core';
import { ThrottlerModule } from '@nestjs/throttler';
import { AssemblyModule } from './assembly/assembly.module.ts';
import { BackupModule } from './backup/backup.module.ts';
import { DatabaseModule } from './database/database.module.ts';
import { DemoModule } from './demo/demo.module.ts';
import { FlowModule } from './flow/flow.module.ts';
import { HealthController } from './health/health.controller.ts';
import { FloorThrottler, throttling } from './http/floor-throttler.ts';
import { FinishingModule } from './finishing/finishing.module.ts';
import { FittingModule } from './fitting/fitting.module.ts';
import { KitsModule } from './kits/kits.module.ts';
import { LiveModule } from './live/live.module.ts';
import { LogModule } from './log/log.module.ts';
import { OrdersModule } from './orders/orders.module.ts';
import { PassportModule } from './passport/passport.module.ts';
import { ReportsModule } from './reports/reports.module.ts';
import { RoutingModule } from './routing/routing.module.ts';
import { ROWS } from './rows.ts';
import { SetupModule } from './setup/setup.module.ts';
import { MachiningModule } from './machining/machining.module.ts';
import { WoodModule } from './wood/wood.module.ts';

@Module({
  imports: [
    DatabaseModule.with(ROWS),
    ThrottlerModule.forRootAsync({ useFactory: throttling }),
    BackupModule,
    SetupModule,
    WoodModule,
    MachiningModule,
    FittingModule,
    FinishingModule,
    AssemblyModule,
    LogModule,
    RoutingModule,
    PassportModule,
    FlowModule,
    OrdersModule,
    KitsModule,
    ReportsModule,
    LiveModule,
    DemoModule,
  ],
  controllers: [HealthController],
  providers: [{ provide: APP_GUARD, useClass: FloorThrottler }],
})
export class AppModule {}
