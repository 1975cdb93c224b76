/** A share as people say it: 'none', 'under 1 %', '2.3 %'. */
export function shareWords(share: number): string {
  if (share < 0.0005) return 'none';
  if (share < 0.01) return 'under 1 %';
  return `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`;
}

/** Days as people say them: '13 days', '6.5 days', 'the same day'. */
export function daysWords(days: number): string {
  if (days < 0.75) return 'the same day';
  if (days > 730) return 'years';
  return `${days < 10 ? days.toFixed(1) : days.toFixed(0)} days`;
}

/** About what a colour looks like, for a swatch beside its numbers: CIE L*a*b* (D50) as sRGB. */
export function labColour({ l, a, b }: { l: number; a: number; b: number }): string {
  return `lab(${l}% ${a} ${b})`;
}
