import { Module } from '@nestjs/common';
import { BackupModule } from '../backup/backup.module.ts';
import { FinishingModule } from '../finishing/finishing.module.ts';
import { MachiningModule } from '../machining/machining.module.ts';
import { LogModule } from '../log/log.module.ts';
import { FloorModule } from '../floor/floor.module.ts';
import { LiveModule } from '../live/live.module.ts';
import { RoutingModule } from '../routing/routing.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { WoodModule } from '../wood/wood.module.ts';
import { AnalysisController } from './analysis.controller.ts';
import { BoardReadyService } from './board-ready.service.ts';
import { BoardService } from './board.service.ts';
import { CalendarController } from './calendar.controller.ts';
import { LeadWantedController } from './lead-wanted.controller.ts';
import { CalendarService } from './calendar.service.ts';
import { CallAnswersService } from './call-answers.service.ts';
import { FloorService } from './floor.service.ts';
import { FlowController } from './flow.controller.ts';
import { ConstraintService } from './constraint.service.ts';
import { HandOffsService } from './hand-offs.service.ts';
import { FlowService } from './flow.service.ts';
import { LeadTimesService } from './lead-times.service.ts';
import { LogWholeService } from './log-whole.service.ts';
import { PaceService } from './pace.service.ts';
import { RosterService } from './roster.service.ts';
import { SkillsService } from './skills.service.ts';
import { LoggedStaysService } from './logged-stays.service.ts';
import { LogWindowsService } from './log-windows.service.ts';
import { WaysService } from './ways.service.ts';
import { WorkLogService } from './work-log.service.ts';
import { JudgedRacksService } from './judged-racks.service.ts';
import { StationDaysService } from './station-days.service.ts';

@Module({
  imports: [
    FloorModule,
    BackupModule,
    LiveModule,
    SetupModule,
    RoutingModule,
    LogModule,
    WoodModule,
    MachiningModule,
    FinishingModule,
  ],
  controllers: [FlowController, AnalysisController, CalendarController, LeadWantedController],
  providers: [
    BoardReadyService,
    BoardService,
    CalendarService,
    CallAnswersService,
    ConstraintService,
    FloorService,
    FlowService,
    HandOffsService,
    JudgedRacksService,
    LeadTimesService,
    LoggedStaysService,
    LogWholeService,
    LogWindowsService,
    PaceService,
    RosterService,
    SkillsService,
    StationDaysService,
    WaysService,
    WorkLogService,
  ],
  exports: [
    ConstraintService,
    HandOffsService,
    LeadTimesService,
    LogWholeService,
    WorkLogService,
    WaysService,
    JudgedRacksService,
    BoardService,
    FloorService,
  ],
})
export class FlowModule {}
