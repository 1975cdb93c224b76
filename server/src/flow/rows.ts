import { Column, Entity, PrimaryColumn } from 'typeorm';

/** Work in front of each station at the end of a past day: a roll-up of the log, made when first asked for. */
@Entity('station_day')
export class StationDayRow {
  @PrimaryColumn('date') day: string;
  @PrimaryColumn('text') station: string;
  @Column('real', { name: 'hours_waiting' }) hoursWaiting: number;
  @Column('real') days: number;
}
