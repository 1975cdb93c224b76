import {
  factoryDate,
  shiftDate,
  skillRisk,
  trainFirst,
  USUAL_TRAINING_DAYS,
  type SkillCover,
  type Training,
} from '@ample-crane/core';
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
  learning: string[];
  teaches: string[];
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
  /** Whom to train first, and what comes of it. */
  trainings: Training[];
  /** Working days until somebody can do a skill alone, of each that is wanted. */
  training: TrainingTime[];
  /** Who is away on which days from today on. */
  away: { person: string; name: string; day: string }[];
}

export interface TrainingTime {
  skill: string;
  days: number;
  /** Nobody has said: it is what is usual. */
  isUsual: boolean;
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
    const [people, absences, shiftHours, taught, { rows, verdict, hourWorth }] = await Promise.all([
      this.setup.people(),
      this.setup.absences(today, shiftDate(today, AWAY_DAYS)),
      this.setup.shiftHours(nowMs),
      this.setup.trainingDays(),
      this.constraint.view(days),
    ]);
    const wanted = rows
      .filter(({ by }) => by === 'skill')
      .map(({ code, hoursOfferedADay }) => ({ skill: code, hoursADay: hoursOfferedADay }));
    const cover = skillRisk({ wanted, people, shiftHours });
    const trainingDays = (skill: string): number => taught.get(skill) ?? USUAL_TRAINING_DAYS;
    const paces = verdict.by === 'skill' ? verdict.code : null;
    const pace =
      paces !== null && hourWorth
        ? { skill: paces, piecesAnHour: hourWorth.pieces, upTo: hourWorth.upTo }
        : null;
    return {
      ...{ nowMs, zone: calendar.zone, shiftHours },
      people: people
        .filter(({ skills, learning }) => skills.length + learning.length > 0)
        .map(({ code, name, role, skills, learning, teaches }) => ({
          ...{ code, name, role, skills, learning, teaches },
          isAway: absences.some(({ person, day }) => person === code && day === today),
        })),
      ...{ cover, paces },
      trainings: trainFirst({ cover, people, shiftHours, trainingDays, pace }),
      training: cover.map(({ skill }) => ({
        ...{ skill, days: trainingDays(skill), isUsual: !taught.has(skill) },
      })),
      away: absences.map(({ person, day }) => ({
        ...{ person, day },
        name: people.find(({ code }) => code === person)?.name ?? person,
      })),
    };
  }
}
