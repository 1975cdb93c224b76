import { factoryDate, shiftDate, skillRisk, type SkillCover } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ConstraintService } from './constraint.service.ts';

/** Somebody with what they can do, as the grid shows them. */
export interface SkilledView {
  code: string;
  name: string;
  role: string;
  skills: string[];
  /** Not there today. */
  isAway: boolean;
}

export interface SkillsView {
  nowMs: number;
  zone: string;
  /** Working hours of one person in a day. */
  shiftHours: number;
  people: SkilledView[];
  cover: SkillCover[];
  /** The skill that paces the factory; null: none does. */
  paces: string | null;
  /** Who is away on which days from today on. */
  away: { person: string; name: string; day: string }[];
}

/** So far ahead absences are shown. */
const AWAY_DAYS = 60;

/** On whom the work hangs. */
@Injectable()
export class SkillsService {
  constructor(
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly constraint: ConstraintService,
  ) {}

  /** Who can do what, how much of it is wanted, and what hangs on one or two. @param days working days the log is looked at for */
  async view(days: number): Promise<SkillsView> {
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const today = factoryDate(calendar, nowMs);
    const [people, absences, shiftHours, { rows, verdict }] = await Promise.all([
      this.setup.people(),
      this.setup.absences(today, shiftDate(today, AWAY_DAYS)),
      this.setup.shiftHours(nowMs),
      this.constraint.view(days),
    ]);
    const wanted = rows
      .filter(({ by }) => by === 'skill')
      .map(({ code, hoursOfferedADay }) => ({ skill: code, hoursADay: hoursOfferedADay }));
    return {
      ...{ nowMs, zone: calendar.zone, shiftHours },
      people: people
        .filter(({ skills }) => skills.length > 0)
        .map(({ code, name, role, skills }) => ({
          ...{ code, name, role, skills },
          isAway: absences.some(({ person, day }) => person === code && day === today),
        })),
      cover: skillRisk({ wanted, people, shiftHours }),
      paces: verdict.by === 'skill' ? verdict.code : null,
      away: absences.map(({ person, day }) => ({
        ...{ person, day },
        name: people.find(({ code }) => code === person)?.name ?? person,
      })),
    };
  }
}
