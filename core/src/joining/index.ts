/** Who meets whom, what fits, and what is made of it; the entries of joins, splits, pairs and partners. */
export { adjust } from './adjust.ts';
export { latestValues } from './fit.ts';
export { arrive } from './arrive.ts';
export { join } from './join.ts';
export { meet } from './meet.ts';
export { pair } from './pair.ts';
export { joinPartners, type JoinPartner } from './partners.ts';
export { numbered, planJoin, planSplit, type JoinPlan, type JoinSide, type SplitPlan } from './plan.ts';
export { split } from './split.ts';
