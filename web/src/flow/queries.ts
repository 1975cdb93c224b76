import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { answered, server, type Schemas } from '../api/client.ts';

export type Constraint = Schemas['ConstraintPageDto'];
export type Resource = Schemas['ResourceDto'];
export type LeadTimes = Schemas['LeadTimesDto'];
export type LeadTime = Schemas['LeadTimeDto'];
export type LeadParts = Schemas['LeadPartsDto'];
export type LogWhole = Schemas['LogWholeDto'];
export type Skills = Schemas['SkillsDto'];
export type Roster = Schemas['RosterDto'];
export type Work = Schemas['WorkDto'];
export type Cumulative = Schemas['CumulativeDto'];
export type WorkedOperation = Schemas['WorkedOperationDto'];

/** Where the lead time of what left went. @param model of this one only; '' of all */
export const useLeadTimes = (days: number, model: string): UseQueryResult<LeadTimes> =>
  useQuery({
    queryKey: ['flow', 'lead-times', days, model],
    queryFn: () =>
      answered(
        server.GET('/api/flow/lead-times', {
          params: { query: { days, ...(model === '' ? {} : { model }) } },
        }),
      ),
    placeholderData: (before) => before,
  });

/** How many instruments had come to each stage, or left, day by day. */
export const useCumulative = (days: number): UseQueryResult<Cumulative> =>
  useQuery({
    queryKey: ['flow', 'cumulative', days],
    queryFn: () => answered(server.GET('/api/flow/cumulative', { params: { query: { days } } })),
    placeholderData: (before) => before,
  });

/** The racks that were in each stage when a day ended. @param days the window of the chart it is a day of */
export const useInHouse = (day: string, days: number): UseQueryResult<Schemas['InHouseDto']> =>
  useQuery({
    queryKey: ['flow', 'in-house', day, days],
    queryFn: () => answered(server.GET('/api/flow/in-house', { params: { query: { day, days } } })),
  });

/** The lead time of one instrument, stay by stay. */
export const useLeadTime = (batch: string, position: number): UseQueryResult<LeadTime> =>
  useQuery({
    queryKey: ['flow', 'lead-times', batch, position],
    queryFn: () =>
      answered(
        server.GET('/api/flow/lead-times/{batch}/{position}', { params: { path: { batch, position } } }),
      ),
  });

/** Whether the log can be believed. */
export const useLogWhole = (days: number): UseQueryResult<LogWhole> =>
  useQuery({
    queryKey: ['flow', 'log-whole', days],
    queryFn: () => answered(server.GET('/api/flow/log-whole', { params: { query: { days } } })),
    placeholderData: (before) => before,
  });

/** Who can do what, and what hangs on one or two. */
export const useSkills = (days: number): UseQueryResult<Skills> =>
  useQuery({
    queryKey: ['flow', 'skills', days],
    queryFn: () => answered(server.GET('/api/flow/skills', { params: { query: { days } } })),
    placeholderData: (before) => before,
  });

/** What work takes and what it gives. */
export const useWork = (days: number): UseQueryResult<Work> =>
  useQuery({
    queryKey: ['flow', 'work', days],
    queryFn: () => answered(server.GET('/api/flow/work', { params: { query: { days } } })),
    placeholderData: (before) => before,
  });

/** Who works where. @param day 'YYYY-MM-DD'; '' today */
export const useRoster = (day: string): UseQueryResult<Roster> =>
  useQuery({
    queryKey: ['flow', 'roster', day],
    queryFn: () => answered(server.GET('/api/flow/roster', { params: { query: day === '' ? {} : { day } } })),
    placeholderData: (before) => before,
  });
