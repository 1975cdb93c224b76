import type { OpenSpan } from './open-hours.ts';

/** How a station chooses of what waits. */
export type DispatchRule = 'first come' | 'first due' | 'shortest' | 'same set-up';

/** Places that take work: machines and benches, or the pegs of a cure room. */
export interface SimStation {
  code: string;
  /** How many can be worked on, or lie there, at once. */
  servers: number;
  /** 'first come' where it is left out. */
  rule?: DispatchRule;
  /** It goes on through nights: a cure room, a press. */
  neverCloses?: boolean;
}

export interface SimPerson {
  code: string;
  skills: readonly string[];
  /** Hours of the run in which they are not there: nothing is begun by them then. */
  away?: readonly OpenSpan[];
}

/** Work, or a stay that takes a place: it waits for one of its stations. */
export interface SimWork {
  mode: 'work';
  key: string;
  /** Codes; the usual one first. Of those that are free the first, else where the fewest wait. */
  stations: readonly string[];
  /** Only people with it can do it; left out: nobody is needed. */
  skill?: string;
  /** For the whole rack, when the last one there was of another family. */
  setUpHours?: number;
  /** What needs the same set-up; its route and key where it is left out. */
  family?: string;
  /** For each piece, or for a load of up to `places` of one family from whatever racks. */
  hours: { each: number; cv: number };
  /** A load: pieces it takes at once; left out: piece by piece. */
  places?: number;
  /** Share of its pieces, 0…1, that are scrapped there. */
  scrap?: number;
  /** Share of its pieces that go back, and to which step by key. */
  rework?: { share: number; to: string };
}

/** A rest that takes no place: so many hours by the wall clock. */
export interface SimHold {
  mode: 'hold';
  key: string;
  hours: { each: number; cv: number };
}

/** Two racks become one: what comes first waits for the other. */
export interface SimJoin {
  mode: 'join';
  key: string;
  /** Routes that meet here have the same. */
  at: string;
  /** Route of what is made, on one side only: that side goes on, the other is in it. */
  makes?: string;
}

export type SimStep = SimWork | SimHold | SimJoin;

export interface SimRoute {
  code: string;
  steps: readonly SimStep[];
}

/** Racks that begin a route, one after the other. */
export interface SimArrivals {
  route: string;
  everyHours: number;
  cv: number;
  /** Of one rack. */
  pieces: number;
  /** Hours from its coming by which it is due; left out: it is due at once. */
  dueHours?: number;
}

/** A factory as the kernel plays it: no names, no log, hours from the beginning of the run. */
export interface FactoryModel {
  stations: readonly SimStation[];
  routes: readonly SimRoute[];
  arrivals: readonly SimArrivals[];
  /** Left out: nobody is needed for anything. */
  people?: readonly SimPerson[];
  /** Left out: it never closes. */
  open?: readonly OpenSpan[];
}

/** A rack that is there when the run begins. */
export interface SimRack {
  route: string;
  /** Key of the step before which it waits, or in which it rests. */
  step: string;
  pieces: number;
  /** Hours from the beginning; left out: 0. */
  due?: number;
  /** Of a rest: hours that are left of it. */
  left?: number;
}

/** What a rack was in, from when to when. */
export interface SimStay {
  /** Number of the rack. */
  rack: number;
  /** Indexes into the model. */
  route: number;
  step: number;
  /** −1: none. */
  station: number;
  person: number;
  status: 'waiting' | 'inHand' | 'onHold' | 'partner';
  pieces: number;
  from: number;
  to: number;
}

/** A rack that left. */
export interface SimFinished {
  rack: number;
  route: string;
  pieces: number;
  /** When it, or the first part of it, came; and when it left. */
  from: number;
  to: number;
}

export interface SimStationResult {
  code: string;
  /** Racks that were begun there. */
  started: number;
  /** Hours by the wall clock from coming to being begun. */
  meanWaitHours: number;
  /** Racks there on average, waiting and in hand. */
  meanInSystem: number;
  /** Hours it was worked on over hours it could have been, 0…1. */
  utilisation: number;
}

export interface SimResult {
  stations: SimStationResult[];
  finished: SimFinished[];
  /** Pieces that were scrapped. */
  scrapped: number;
  /** Racks that are still there. */
  left: number;
  /** Events that were played. */
  events: number;
}
