/** What was seen of a setting's changes, as it goes along with a filing. */
export const knownChange = (lastChange: number | undefined): { lastChange?: number } =>
  lastChange === undefined ? {} : { lastChange };
