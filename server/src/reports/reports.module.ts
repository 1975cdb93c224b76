import { Module } from '@nestjs/common';
import { FlowModule } from '../flow/flow.module.ts';
import { KitsModule } from '../kits/kits.module.ts';
import { MachiningModule } from '../machining/machining.module.ts';
import { OrdersModule } from '../orders/orders.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { CalendarEventsService } from './calendar-events.service.ts';
import { CalendarFeedsService } from './calendar-feeds.service.ts';
import { MorningSheetService } from './morning-sheet.service.ts';
import { WeeklyReviewService } from './weekly-review.service.ts';
import { ReportsController } from './reports.controller.ts';

/** What leaves the house on paper and into calendars: told from the same sources as the pages. */
@Module({
  imports: [SetupModule, MachiningModule, FlowModule, OrdersModule, KitsModule],
  controllers: [ReportsController],
  providers: [CalendarEventsService, CalendarFeedsService, MorningSheetService, WeeklyReviewService],
})
export class ReportsModule {}
