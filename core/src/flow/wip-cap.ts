/** What is in the house against what should be. */
export interface WipAgainstCap {
  /** Instruments, and bodies that become one. */
  inHouse: number;
  /** Instruments that leave a day, days by the calendar. */
  leftADay: number;
  /** Days after which what begins now leaves, as things are; null: nothing left in that time, so nobody can say. */
  leadDays: number | null;
  /** At most so many may be in the house for the wanted lead time; null: none is wanted, or nothing left. */
  cap: number | null;
}

/**
 * Work in process held against a cap: what leaves a day times the days it should take (Little's law: J. D. C. Little, "A proof for the
 * queuing formula L = λW", Operations Research 9, 1961; as a cap M. L. Spearman, D. L. Woodruff, W. J. Hopp, "CONWIP: a pull alternative to
 * kanban", International Journal of Production Research 28, 1990). What paces the house sets what leaves, so more in it makes everything
 * wait longer and nothing leave sooner.
 * @param options.inHouse pieces @param options.left pieces that left in the window @param options.windowDays its length, days
 * @param options.wantedDays lead time that is wanted, days; null: none
 * @throws RangeError for numbers below 0, an empty window, or a wanted lead time that is not above 0
 */
export function wipAgainstCap(options: {
  inHouse: number;
  left: number;
  windowDays: number;
  wantedDays: number | null;
}): WipAgainstCap {
  const { inHouse, left, windowDays, wantedDays } = options;
  if (!(inHouse >= 0 && left >= 0 && windowDays > 0 && (wantedDays === null || wantedDays > 0)))
    throw new RangeError(
      `wipAgainstCap: counts must be 0 or more, days above 0, got ${inHouse} in the house, ${left} left in ${windowDays} days, ${wantedDays} wanted`,
    );
  const leftADay = left / windowDays;
  return {
    ...{ inHouse, leftADay },
    leadDays: left === 0 ? null : inHouse / leftADay,
    cap: left === 0 || wantedDays === null ? null : Math.round(leftADay * wantedDays),
  };
}
